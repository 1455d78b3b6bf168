// Undo and redo for a brief or a sheet. Changes with the same tag in a row count as one.
import { useReducer } from "react";

type History<T> = { past: T[]; present: T; future: T[]; tag: string | null };

type Action<T> =
  | { type: "change"; update: (present: T) => T; tag: string | null }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "settle" }
  | { type: "replace"; by: T };

const KEPT = 200;

export function step<T>(state: History<T>, action: Action<T>): History<T> {
  switch (action.type) {
    case "change": {
      const next = action.update(state.present);
      if (JSON.stringify(next) === JSON.stringify(state.present)) return state;
      const same = action.tag !== null && action.tag === state.tag;
      const past = same ? state.past : [...state.past, state.present].slice(-KEPT);
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

export function useHistory<T>(start: T, before: T[]) {
  const [state, act] = useReducer<History<T>, [Action<T>]>(step<T>, {
    past: before,
    present: start,
    future: [],
    tag: null,
  });
  return {
    present: state.present,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    change: (update: (present: T) => T, tag: string | null = null) => act({ type: "change", update, tag }),
    undo: () => act({ type: "undo" }),
    redo: () => act({ type: "redo" }),
    settle: () => act({ type: "settle" }),
    replace: (by: T) => act({ type: "replace", by }),
  };
}
