// Undo and redo for a brief. Changes with the same tag in a row count as one.
import { useReducer } from "react";
import type { Brief } from "../../api/client";

type History = { past: Brief[]; present: Brief; future: Brief[]; tag: string | null };

type Action =
  | { type: "change"; update: (brief: Brief) => Brief; tag: string | null }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "settle" }
  | { type: "replace"; brief: Brief };

const KEPT = 200;

export function step(state: History, action: Action): History {
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
      return { past: [...state.past, state.present], present: action.brief, future: [], tag: null };
  }
}

export function useHistory(start: Brief, before: Brief[]) {
  const [state, act] = useReducer(step, { past: before, present: start, future: [], tag: null });
  return {
    brief: state.present,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    change: (update: (brief: Brief) => Brief, tag: string | null = null) =>
      act({ type: "change", update, tag }),
    undo: () => act({ type: "undo" }),
    redo: () => act({ type: "redo" }),
    settle: () => act({ type: "settle" }),
    replace: (brief: Brief) => act({ type: "replace", brief }),
  };
}
