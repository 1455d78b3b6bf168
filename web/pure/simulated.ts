// The change engine against a simulated service, on a clock that tests move.
import { ChangeEngine, type Port, type Settings, USUAL } from "../src/changes/engine";
import type { Fields } from "../src/changes/fields";

type Faults = { where: string; what: string; mend: string }[];

class Refused extends Error {
  constructor(
    readonly status: number,
    readonly faults: Faults = [],
  ) {
    super(`refused with ${status}`);
  }
}

/** Merges by field, as the real one does. Values "bad" are refused by name, "worse" without a name. */
class Service {
  fields: Fields = {};
  revision = 0;
  changedIn: Record<string, number> = {};
  isUp = true;
  calls = 0;
  answersAfterMs = 0;
  /** Whether what stands there is not read again by itself. */
  isUnread = false;

  change(madeOn: number, change: Fields) {
    this.calls++;
    if (!this.isUp) throw new Refused(0);
    if (madeOn > this.revision) throw new Refused(422, [{ where: "revision", what: "was never issued", mend: "" }]);
    const bad = Object.keys(change).filter((name) => change[name] === "bad");
    if (bad.length) throw new Refused(422, bad.map((where) => ({ where: `thing.${where}`, what: "is bad", mend: "" })));
    if (Object.values(change).includes("worse")) throw new Refused(422);
    const met = Object.keys(change).filter(
      (name) => (this.changedIn[name] ?? 0) > madeOn && (this.fields[name] ?? null) !== change[name],
    );
    if (met.length)
      throw new Refused(409, met.map((where) => ({ where, what: `is ${this.fields[where]} now`, mend: "" })));
    this.put(change);
    return { revision: this.revision };
  }

  put(change: Fields) {
    const moved = Object.keys(change).filter((name) => (this.fields[name] ?? null) !== (change[name] ?? null));
    if (moved.length === 0) return;
    this.revision++;
    for (const name of moved) this.changedIn[name] = this.revision;
    this.fields = { ...this.fields, ...change };
  }
}

type Action = [string, ...unknown[]];

/** Do what a script says; returns how everything stands at its end. */
export async function simulated(script: Action[], settings: Partial<Settings> = {}, before: unknown = null) {
  const stored = new Map<string, string>();
  if (before !== null) stored.set("thing", JSON.stringify(before));
  const get = <T>(place: string) => (stored.has(place) ? (JSON.parse(stored.get(place) ?? "null") as T) : null);
  const set = (place: string, value: unknown) => {
    if (value === null) stored.delete(place);
    else stored.set(place, JSON.stringify(value));
  };
  let clock = 0;
  let timers: { at: number; work: () => void }[] = [];
  const around = {
    recall: get,
    remember: set,
    recallHere: get,
    rememberHere: set,
    after: (ms: number, work: () => void) => {
      const timer = { at: clock + ms, work };
      timers.push(timer);
      return () => {
        timers = timers.filter((other) => other !== timer);
      };
    },
    now: () => new Date(clock),
  };
  const service = new Service();
  const calm = () => new Promise<void>((done) => setImmediate(done));
  const taken: boolean[] = [];
  let engine: ChangeEngine;
  const see = () => engine.seen(service.revision, service.fields);
  const open = () => {
    engine = new ChangeEngine("thing", around, null, (kept: Fields) => kept);
    engine.settings = { ...USUAL, ...settings };
    const port: Port = {
      send: async (madeOn, change) => {
        if (service.answersAfterMs) await new Promise<void>((done) => around.after(service.answersAfterMs, done));
        return service.change(madeOn, change);
      },
      reread: async () => {
        if (!service.isUnread) see();
      },
    };
    engine.port = port;
    see();
    if (engine.settings.keepUndo) engine.restoreHistory();
    void engine.flush();
  };
  open();
  const advance = async (ms: number) => {
    const end = clock + ms;
    for (;;) {
      const due = timers.filter(({ at }) => at <= end).sort((a, b) => a.at - b.at)[0];
      if (!due) break;
      clock = Math.max(clock, due.at);
      timers = timers.filter((other) => other !== due);
      due.work();
      await calm();
    }
    clock = end;
  };
  for (const [what, ...said] of script) {
    if (what === "say") {
      const [change, tag] = said as [Fields, string | undefined];
      void engine!.say(change, { tag: tag ?? null }).then((is) => taken.push(is));
    } else if (what === "advance") await advance(said[0] as number);
    else if (what === "up" || what === "down") service.isUp = what === "up";
    else if (what === "slow") service.answersAfterMs = said[0] as number;
    else if (what === "unread") service.isUnread = said[0] as boolean;
    else if (what === "others") service.put(said[0] as Fields);
    else if (what === "see") see();
    else if (what === "undo") engine!.undo();
    else if (what === "redo") engine!.redo();
    else if (what === "settle") engine!.history.settle();
    else if (what === "keepMine") void engine!.keepMine();
    else if (what === "takeTheirs") engine!.takeTheirs();
    else if (what === "retry") void engine!.retry();
    else if (what === "flush") void engine!.flush();
    else if (what === "forget") engine!.forget();
    else if (what === "put back") [service.revision, service.changedIn] = [0, {}];
    else if (what === "reload") {
      timers = [];
      open();
    } else throw new Error(`There is no '${what}'.`);
    await calm();
  }
  return {
    now: engine!.now,
    service: service.fields,
    pending: engine!.pending,
    status: engine!.status.kind,
    meeting: engine!.meeting,
    refusals: engine!.refusals,
    canUndo: engine!.history.canUndo,
    canRedo: engine!.history.canRedo,
    calls: service.calls,
    taken,
    stored: [...stored.keys()],
  };
}
