// Saves the brief by itself, on the engine that keeps what a person typed.
import { useCallback, useEffect, useRef } from "react";
import { benchApi } from "../../api/bench";
import { changed } from "../../api/keys";
import type { Brief, Shot } from "../../api/types";
import { useHanding } from "../../parts/handing";
import { recall } from "../../parts/remembered";

type Draft = { brief: Brief; revision: number };

const PAUSE_MS = 400;
const RETRY_MS = 2000;

const placeOf = (shot: Shot) => `draft.${shot.id}`;

/** What was typed in this browser and not yet saved, if it differs from what is kept. */
export function draftOf(shot: Shot): Draft | null {
  const draft = recall<Draft>(placeOf(shot));
  return draft && JSON.stringify(draft.brief) !== JSON.stringify(shot.brief) ? draft : null;
}

export function useSaving(shot: Shot, brief: Brief, startRevision: number) {
  const saved = useRef(JSON.stringify(shot.brief));
  const revision = useRef(startRevision);
  const latest = useRef(brief);
  latest.current = brief;
  const save = async (sent: Brief, latest_sheet = false) => {
    const kept = await benchApi.saveShot(shot.id, {
      brief: sent,
      starts_at: shot.starts_at,
      revision: revision.current,
      latest_sheet,
    });
    revision.current = kept.revision;
    saved.current = JSON.stringify(sent);
  };
  const { state, put, flush, clear, isBusy } = useHanding<Draft>({
    place: placeOf(shot),
    first: { kind: "saved", at: new Date(shot.updated_at) },
    pauseMs: PAUSE_MS,
    retryMs: RETRY_MS,
    hand: async (sent) => {
      await save(sent.brief);
      changed.shot(shot.id);
    },
  });
  useEffect(() => {
    if (JSON.stringify(brief) === saved.current && !isBusy()) clear();
    else put({ brief, revision: revision.current });
  }, [brief, put, clear, isBusy]);

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
    saved.current = JSON.stringify(theirs.brief);
    clear();
    return theirs.brief;
  }, [shot.id, clear]);

  /** Plans again with the latest edition of the camera's sheet, and keeps that plan. */
  const planAnew = async () => {
    await flush();
    await save(latest.current, true);
    await changed.sheetOf(shot.id);
  };

  return { saving: state, keepMine, takeTheirs, planAnew };
}
