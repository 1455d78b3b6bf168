// The engine in React: one for each thing that is changed, shared by all views of it.
import { useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import { ChangeEngine, type Port, type Settings, USUAL } from "./engine";
import type { Fields } from "./fields";
import { History } from "./history";
import { recall, recallHere, remember, rememberHere } from "./storage";

const engines = new Map<string, ChangeEngine>();
const around = {
  recall,
  remember,
  recallHere,
  rememberHere,
  after: (ms: number, work: () => void) => {
    const timer = window.setTimeout(work, ms);
    return () => window.clearTimeout(timer);
  },
  now: () => new Date(),
};

function engineOf(
  place: string,
  history: History | null,
  ofBefore: ((kept: never) => Fields | null) | null = null,
): ChangeEngine {
  const known = engines.get(place);
  if (known) return known;
  const made = new ChangeEngine(place, around, history, ofBefore);
  engines.set(place, made);
  return made;
}

/** A history that several engines and other deeds share. */
export function useUndo(): History {
  const history = useMemo(() => new History(), []);
  useSyncExternalStore(history.subscribe, () => history.version);
  return history;
}

type Options<T extends object> = Partial<Settings> & {
  /** Where it is kept in this browser until it is taken. */
  place: string;
  /** As the service tells it, field by field, and the revision of that. */
  shown: T;
  revision: number;
  send: Port["send"];
  /** What has to be read again after a change. */
  reread: Port["reread"];
  /** Where its steps are recorded besides; left out: in a history of its own. */
  history?: History;
  /** What a version before kept at this place in a form of its own, as a change; null where that is none. */
  ofBefore?: (kept: never) => Fields | null;
};

export function useChanges<T extends object>({
  place,
  shown,
  revision,
  send,
  reread,
  history,
  ofBefore,
  ...settings
}: Options<T>) {
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was kept before is read once
  const engine = useMemo(() => engineOf(place, history ?? null, ofBefore), [place, history]);
  if (history) engine.history = history;
  engine.port = { send, reread };
  engine.settings = { ...USUAL, ...settings };
  const keepUndo = engine.settings.keepUndo;
  // Before the first paint it stands as the service tells it.
  const first = useRef<ChangeEngine | null>(null);
  if (first.current !== engine) {
    first.current = engine;
    engine.seen(revision, shown as Fields);
    if (keepUndo && !engine.history.canUndo && !engine.history.canRedo) engine.restoreHistory();
  }
  const version = useSyncExternalStore(engine.subscribe, () => engine.version);
  useSyncExternalStore(engine.history.subscribe, () => engine.history.version);
  useEffect(() => engine.seen(revision, shown as Fields), [engine, revision, shown]);
  useEffect(() => {
    engines.set(place, engine);
    // What waited when this was closed goes first.
    void engine.flush();
    const online = () => void engine.flush();
    window.addEventListener("online", online);
    return () => {
      window.removeEventListener("online", online);
      void engine.flush();
      if (engine.isIdle) engines.delete(place);
    };
  }, [engine, place]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what stands there follows from the version
  const now = useMemo(() => engine.now as T, [engine, version]);
  return { engine, now, say: engine.say.bind(engine), status: engine.status };
}

/** One thing that is changed, apart from any view of it. */
export function changesOf(place: string): ChangeEngine {
  return engineOf(place, null);
}
