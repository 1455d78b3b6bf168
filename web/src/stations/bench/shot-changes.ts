// Changes of a shot: its brief and when it begins, on the engine that keeps what a person says.
import { useCallback, useMemo, useState } from "react";
import { benchApi } from "../../api/bench";
import { queries } from "../../api/http";
import { changed, keys } from "../../api/keys";
import { type Brief, type Pins, pinsOf, type Shot, withPins } from "../../api/types";
import type { Port } from "../../changes/engine";
import { differing, type Fields, flat, nested } from "../../changes/fields";
import { recall, remember } from "../../changes/storage";
import { changesOf, useChanges } from "../../changes/use-changes";

/** What a person writes of a shot: the brief, and when it begins. */
export type Entry = { brief: Brief; starts_at: string | null };

const PAUSE_MS = 400;
const RETRY_MS = 2000;
const PINS = ["pins"];
const PARTS = ["pins", "school", "kit"]; // that may be empty

const placeOf = (id: string) => `shot.${id}`;
const fieldsOf = ({ brief, starts_at }: Entry): Fields => ({ starts_at, ...flat(brief, PINS) });

function entryOf(fields: Fields): Entry {
  const { starts_at, ...rest } = fields;
  return { brief: nested(rest, PARTS, PINS) as Brief, starts_at: (starts_at ?? null) as string | null };
}

function portOf(id: string): Port {
  return {
    send: async (revision, change) => {
      const kept = await benchApi.changeShot(id, { revision, change });
      void changed.shot(id);
      return { revision: kept.revision, shown: fieldsOf(kept) };
    },
    reread: () => queries.invalidateQueries({ queryKey: keys.shot(id) }),
  };
}

/** What a version before kept of a shot that was not saved: all of it, in place of what changed. */
function bringOver(shot: Shot) {
  const older = recall<Partial<Entry> & { revision: number }>(`draft.${shot.id}`);
  if (!older?.brief) return;
  const entry = { brief: older.brief, starts_at: older.starts_at ?? shot.starts_at };
  const change = differing(fieldsOf(shot), fieldsOf(entry));
  remember(placeOf(shot.id), { revision: older.revision, change });
  remember(`draft.${shot.id}`, null);
}

export function useShotChanges(shot: Shot) {
  useState(() => bringOver(shot));
  const shown = useMemo(() => fieldsOf(shot), [shot]);
  const port = useMemo(() => portOf(shot.id), [shot.id]);
  const { engine, now, say, status } = useChanges<Fields>({
    place: placeOf(shot.id),
    shown,
    revision: shot.revision,
    ...port,
    pauseMs: PAUSE_MS,
    retryMs: RETRY_MS,
    keepUndo: true,
    savedAt: new Date(shot.updated_at),
  });
  const entry = useMemo(() => entryOf(now), [now]);
  // Whether something waited from before when it was opened.
  const [begun] = useState(() => !engine.isIdle);
  const change = (update: (entry: Entry) => Entry, tag: string | null = null) => {
    const stands = entryOf(engine.now);
    void say(differing(fieldsOf(stands), fieldsOf(update(stands))), { tag });
  };
  /** Plans again with the latest edition of the camera's sheet, and keeps that plan. */
  const planAnew = useCallback(async () => {
    await engine.flush();
    const { revision } = await benchApi.shot(shot.id);
    await benchApi.changeShot(shot.id, { revision, change: {}, latest_sheet: true });
    await changed.sheetOf(shot.id);
  }, [engine, shot.id]);
  return { engine, entry, change, status, begun, planAnew };
}

/** Pin on a shot as it is kept now, from any station. pins: what becomes of its pins. Returns the shot. */
export async function pinShot(id: string, pins: (kept: Pins) => Pins): Promise<Shot> {
  const engine = changesOf(placeOf(id));
  const kept = await benchApi.shot(id);
  engine.port ??= portOf(id);
  engine.seen(kept.revision, fieldsOf(kept));
  const { brief } = entryOf(engine.now);
  const change = differing(flat(brief, PINS), flat(withPins(brief, pins(pinsOf(brief))), PINS));
  const said = engine.say(change);
  await engine.flush();
  if (!(await said)) {
    const { status } = engine;
    throw new Error(
      "why" in status ? status.why : "Somebody changed the same meanwhile. Look at it on the Bench.",
    );
  }
  return await benchApi.shot(id);
}
