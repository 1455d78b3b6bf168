// Saves the brief and its start by themselves, on the engine that keeps what a person typed.
import { useCallback, useEffect, useRef } from "react";
import { benchApi } from "../../api/bench";
import { changed } from "../../api/keys";
import type { Brief, Shot } from "../../api/types";
import { useHanding } from "../../parts/handing";
import { recall } from "../../parts/remembered";

/** What a person writes of a shot: the brief, and when it begins. */
export type Entry = { brief: Brief; starts_at: string | null };
type Draft = Entry & { revision: number };

const PAUSE_MS = 400;
const RETRY_MS = 2000;

const placeOf = (shot: Shot) => `draft.${shot.id}`;

export const entryOf = ({ brief, starts_at }: Entry): Entry => ({ brief, starts_at });
const textOf = (entry: Entry) => JSON.stringify(entryOf(entry));

/** What was typed in this browser and not yet saved, if it differs from what is kept. */
export function draftOf(shot: Shot): Draft | null {
  const draft = recall<Draft>(placeOf(shot));
  if (!draft) return null;
  // One of an older version says nothing of the start.
  const whole = { ...draft, starts_at: draft.starts_at === undefined ? shot.starts_at : draft.starts_at };
  return textOf(whole) === textOf(shot) ? null : whole;
}

export function useSaving(shot: Shot, entry: Entry, startRevision: number) {
  const saved = useRef(textOf(shot));
  const revision = useRef(startRevision);
  const latest = useRef(entry);
  latest.current = entry;
  const save = async (sent: Entry, latest_sheet = false) => {
    const kept = await benchApi.saveShot(shot.id, {
      ...entryOf(sent),
      revision: revision.current,
      latest_sheet,
    });
    revision.current = kept.revision;
    saved.current = textOf(sent);
  };
  const { state, put, flush, clear, isBusy } = useHanding<Draft>({
    place: placeOf(shot),
    first: { kind: "saved", at: new Date(shot.updated_at) },
    pauseMs: PAUSE_MS,
    retryMs: RETRY_MS,
    hand: async (sent) => {
      await save(sent);
      changed.shot(shot.id);
    },
  });
  useEffect(() => {
    if (textOf(entry) === saved.current && !isBusy()) clear();
    else put({ ...entryOf(entry), revision: revision.current });
  }, [entry, put, clear, isBusy]);

  /** After a conflict: keep this version on top of the newer one. */
  const keepMine = useCallback(async () => {
    revision.current = (await benchApi.shot(shot.id)).revision;
    saved.current = "";
    await flush();
  }, [shot.id, flush]);

  /** After a conflict: take the newer one. Returns it. */
  const takeTheirs = useCallback(async () => {
    const theirs = await benchApi.shot(shot.id);
    revision.current = theirs.revision;
    saved.current = textOf(theirs);
    clear();
    return entryOf(theirs);
  }, [shot.id, clear]);

  /** Plans again with the latest edition of the camera's sheet, and keeps that plan. */
  const planAnew = async () => {
    await flush();
    await save(latest.current, true);
    await changed.sheetOf(shot.id);
  };

  return { saving: state, keepMine, takeTheirs, planAnew };
}
