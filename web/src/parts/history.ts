// Undo and redo for a brief or a sheet. Changes with the same tag in a row count as one. Kept in this window, so that a
// reload takes nothing away.
import { useEffect, useReducer } from "react";

type History<T> = { past: T[]; present: T; future: T[]; tag: string | null };

type Action<T> =
  | { type: "change"; update: (present: T) => T; tag: string | null }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "settle" }
  | { type: "replace"; by: T };

const KEPT = 200;
const KEPT_OVER_A_RELOAD = 40;
const UNDO = "steady-tide.undo.";

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

export function step<T>(state: History<T>, action: Action<T>): History<T> {
  switch (action.type) {
    case "change": {
      const next = action.update(state.present);
      if (same(next, state.present)) return state;
      const goesOn = action.tag !== null && action.tag === state.tag;
      const past = goesOn ? state.past : [...state.past, state.present].slice(-KEPT);
      return { past, present: next, future: [], tag: action.tag };
    }
    case "undo": {
      const before = state.past.at(-1);
      if (!before) return state;
      return {
        past: state.past.slice(0, -1),
        present: before,
        future: [state.present, ...state.future],
        tag: null,
      };
    }
    case "redo": {
      const [after, ...rest] = state.future;
      if (!after) return state;
      return { past: [...state.past, state.present], present: after, future: rest, tag: null };
    }
    case "settle":
      return { ...state, tag: null };
    case "replace":
      return { past: [...state.past, state.present], present: action.by, future: [], tag: null };
  }
}

type Kept<T> = Pick<History<T>, "past" | "present" | "future">;

/** What stands in this window from before a reload, brought to what there is now. */
function begun<T>(start: T, before: T[], place: string | null): History<T> {
  const fresh = { past: before, present: start, future: [], tag: null };
  if (place === null) return fresh;
  try {
    const kept = JSON.parse(sessionStorage.getItem(`steady-tide.${place}`) ?? "null") as Kept<T> | null;
    if (!kept) return fresh;
    if (same(kept.present, start)) return { ...kept, tag: null };
    // It was changed elsewhere meanwhile: what stood here last can be had back.
    return { past: [...kept.past, kept.present], present: start, future: [], tag: null };
  } catch {
    return fresh;
  }
}

/** place: under which it is kept over a reload; null where it is not. */
export function useHistory<T>(start: T, before: T[], place: string | null = null) {
  const [state, act] = useReducer(step<T>, null, () => begun(start, before, place));
  const { past, present, future } = state;
  useEffect(() => {
    if (place === null) return;
    const kept: Kept<T> = {
      past: past.slice(-KEPT_OVER_A_RELOAD),
      present,
      future: future.slice(0, KEPT_OVER_A_RELOAD),
    };
    const put = () => sessionStorage.setItem(`steady-tide.${place}`, JSON.stringify(kept));
    try {
      put();
    } catch {
      try {
        // It is full: what was written of other things makes room.
        for (const key of Object.keys(sessionStorage))
          if (key.startsWith(UNDO)) sessionStorage.removeItem(key);
        put();
      } catch {
        // A window that keeps nothing still works.
      }
    }
  }, [place, past, present, future]);
  return {
    present,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    change: (update: (present: T) => T, tag: string | null = null) => act({ type: "change", update, tag }),
    undo: () => act({ type: "undo" }),
    redo: () => act({ type: "redo" }),
    settle: () => act({ type: "settle" }),
    replace: (by: T) => act({ type: "replace", by }),
  };
}
