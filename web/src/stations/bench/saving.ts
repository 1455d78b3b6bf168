// Saves the brief by itself. What cannot be saved is kept in this browser and tried again.
import { useCallback, useEffect, useRef, useState } from "react";
import { api, type Brief, Problem, queries, type Shot } from "../../api/client";
import { recall, remember } from "../../app/remembered";

export type Saving =
  | { kind: "saved"; at: Date }
  | { kind: "saving" }
  | { kind: "away" }
  | { kind: "refused"; why: string }
  | { kind: "conflict" };

type Draft = { brief: Brief; revision: number };

const PAUSE_MS = 400;
const RETRY_MS = 2000;

export function draftOf(shot: Shot): Draft | null {
  const draft = recall<Draft>(`draft.${shot.id}`);
  return draft && JSON.stringify(draft.brief) !== JSON.stringify(shot.brief) ? draft : null;
}

export function useSaving(shot: Shot, brief: Brief, startRevision: number) {
  const [saving, setSaving] = useState<Saving>({ kind: "saved", at: new Date(shot.updated_at) });
  const saved = useRef(JSON.stringify(shot.brief));
  const revision = useRef(startRevision);
  const latest = useRef(brief);
  latest.current = brief;
  const busy = useRef(false);
  const timer = useRef(0);

  const flush = useCallback(async () => {
    window.clearTimeout(timer.current);
    const sent = latest.current;
    const text = JSON.stringify(sent);
    if (busy.current || text === saved.current) return;
    busy.current = true;
    setSaving((now) => (now.kind === "away" ? now : { kind: "saving" }));
    try {
      const kept = await api.saveShot(shot.id, {
        brief: sent,
        starts_at: shot.starts_at,
        revision: revision.current,
      });
      revision.current = kept.revision;
      saved.current = text;
      busy.current = false;
      queries.invalidateQueries({ queryKey: ["shots"] });
      queries.invalidateQueries({ queryKey: ["card", shot.id] });
      if (JSON.stringify(latest.current) === text) {
        remember(`draft.${shot.id}`, null);
        setSaving({ kind: "saved", at: new Date() });
      } else {
        timer.current = window.setTimeout(flush, PAUSE_MS);
      }
    } catch (error) {
      busy.current = false;
      const status = error instanceof Problem ? error.status : 0;
      if (status === 409) setSaving({ kind: "conflict" });
      else if (status >= 400 && status < 500) setSaving({ kind: "refused", why: (error as Problem).message });
      else {
        setSaving({ kind: "away" });
        timer.current = window.setTimeout(flush, RETRY_MS);
      }
    }
  }, [shot.id, shot.starts_at]);

  useEffect(() => {
    if (JSON.stringify(brief) === saved.current) {
      if (!busy.current) {
        remember(`draft.${shot.id}`, null);
        setSaving((now) => (now.kind === "saved" ? now : { kind: "saved", at: new Date() }));
      }
      return;
    }
    remember(`draft.${shot.id}`, { brief, revision: revision.current });
    // "Saved" must not stand there while something newer waits.
    setSaving((now) => (now.kind === "saved" || now.kind === "refused" ? { kind: "saving" } : now));
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(flush, PAUSE_MS);
  }, [brief, flush, shot.id]);

  useEffect(() => () => void flush(), [flush]);

  /** After a conflict: keep this version on top of the newer one. */
  const keepMine = useCallback(async () => {
    revision.current = (await api.shot(shot.id)).revision;
    saved.current = "";
    await flush();
  }, [shot.id, flush]);

  /** After a conflict: take the newer one. Returns it. */
  const takeTheirs = useCallback(async () => {
    const theirs = await api.shot(shot.id);
    revision.current = theirs.revision;
    saved.current = JSON.stringify(theirs.brief);
    remember(`draft.${shot.id}`, null);
    return theirs.brief;
  }, [shot.id]);

  /** Plans again with the latest edition of the camera's sheet, and keeps that plan. */
  const planAnew = useCallback(async () => {
    await flush();
    const kept = await api.saveShot(shot.id, {
      brief: latest.current,
      starts_at: shot.starts_at,
      revision: revision.current,
      latest_sheet: true,
    });
    revision.current = kept.revision;
    saved.current = JSON.stringify(latest.current);
    for (const key of ["shots", "card", "kit", "shot"]) queries.invalidateQueries({ queryKey: [key] });
  }, [shot.id, shot.starts_at, flush]);

  return { saving, flush, keepMine, takeTheirs, planAnew };
}
