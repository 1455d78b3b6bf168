// The one way in which what a person says is kept: here at once, with the service when it answers. Framework-free.
//
// A change is said field by field on what was seen. It waits in this browser, is sent on the revision that it was made on, and
// is taken, met by another's change of the same field, refused, or tried again later. One field never holds back another.
import { differing, type Fields, isSame, without } from "./fields";
import { History, type Step } from "./history";
import { isAway, isUnknownRevision, metWords, namedIn, shortWords, wasMet } from "./refusals";

export type Status =
  | { kind: "new" }
  | { kind: "saving" }
  | { kind: "saved"; at: Date }
  | { kind: "away"; why: string }
  | { kind: "refused"; why: string }
  | { kind: "conflict" };

type Said = { value: unknown; on: number };
type Kept = {
  said?: Record<string, Said>;
  refused?: Record<string, Said & { why: string }>;
  met?: Record<string, Said & { says: string }>;
  /** As a version before kept it. */
  revision?: number;
  change?: Fields;
};
type Taken = { revision: number; shown?: Fields };

export type Port = {
  /** Hands a change over; returns the new revision, and all fields where they are told. */
  send: (madeOn: number, change: Fields) => Promise<Taken>;
  /** Reads it again; whoever shows it then tells `seen`. */
  reread: () => unknown;
};

export type Settings = {
  /** Sent this long after the last change. */
  pauseMs: number;
  retryMs: number;
  /** Whether each field goes by itself. */
  oneByOne: boolean;
  /** Whether nothing of it is kept where a part is not taken: a form that a person hands over as one. */
  whole: boolean;
  /** Whether what was taken is shown until it was read again; else `send` has seen to that. */
  overlay: boolean;
  /** Whether undo outlives a reload of the window. */
  keepUndo: boolean;
  /** When it was last saved before it was opened here, if that is told. */
  savedAt: Date | null;
};

/** Where an engine keeps things, and its clock. */
export type Surroundings = {
  recall: <T>(place: string) => T | null;
  remember: (place: string, value: unknown) => void;
  recallHere: <T>(place: string) => T | null;
  rememberHere: (place: string, value: unknown) => void;
  after: (ms: number, work: () => void) => () => void;
  now: () => Date;
};

type Waiter = { left: Set<string>; done: (taken: boolean) => void };

export const USUAL: Settings = {
  pauseMs: 0,
  retryMs: 5_000,
  oneByOne: false,
  whole: false,
  overlay: true,
  keepUndo: false,
  savedAt: null,
};
const UNDO_KEPT = 40;

export class ChangeEngine {
  history: History;
  version = 0;
  port: Port | null = null;
  settings: Settings = USUAL;
  private revision = 0;
  private shown: Fields = {};
  private waiting: Record<string, Said> = {};
  private sending: Record<string, Said> | null = null;
  private taken: Record<string, Said> = {};
  private refused: Record<string, Said & { why: string }> = {};
  private met: Record<string, Said & { says: string }> = {};
  private away: string | null = null;
  private savedAt: Date | null = null;
  private waiters: Waiter[] = [];
  private underWay: Promise<void> = Promise.resolve();
  private cancel: () => void = () => {};
  private listeners = new Set<() => void>();

  constructor(
    readonly place: string,
    private readonly around: Surroundings,
    history: History | null = null,
    ofBefore: ((kept: never) => Fields | null) | null = null,
  ) {
    this.history = history ?? new History();
    const found = around.recall<Kept>(place) ?? {};
    const isOurs = ["said", "refused", "met", "change"].some((name) => name in found);
    const kept: Kept = isOurs ? found : { change: ofBefore?.(found as never) ?? {}, revision: 0 };
    this.waiting = { ...kept.said };
    for (const [name, value] of Object.entries(kept.change ?? {}))
      this.waiting[name] ??= { value, on: kept.revision ?? 0 };
    this.refused = { ...kept.refused };
    this.met = { ...kept.met };
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  /** What the service tells. */
  seen(revision: number, shown: Fields) {
    if (revision < this.revision || (revision === this.revision && isSame(shown, this.shown))) return;
    this.revision = revision;
    this.shown = shown;
    this.taken = Object.fromEntries(Object.entries(this.taken).filter(([, { on }]) => on > revision));
    // What others said the same of needs no asking any more.
    this.met = Object.fromEntries(
      Object.entries(this.met).filter(([name, { value }]) => !isSame(value ?? null, shown[name] ?? null)),
    );
    this.tell();
  }

  /** What stands there, with what was said laid over it. */
  get now(): Fields {
    return { ...this.shown, ...this.laidOver };
  }

  /** What was said and is not known to stand there yet. */
  get laidOver(): Fields {
    const all = { ...this.taken, ...this.met, ...this.refused, ...this.sending, ...this.waiting };
    return Object.fromEntries(Object.entries(all).map(([name, { value }]) => [name, value]));
  }

  /** What the service has not taken yet. */
  get pending(): Fields {
    const all = { ...this.met, ...this.refused, ...this.sending, ...this.waiting };
    return Object.fromEntries(Object.entries(all).map(([name, { value }]) => [name, value]));
  }

  get isIdle(): boolean {
    return [this.waiting, this.sending ?? {}, this.refused, this.met].every((some) => isSame(some, {}));
  }

  get status(): Status {
    if (!isSame(this.met, {})) return { kind: "conflict" };
    const refused = Object.values(this.refused).sort((a, b) => b.why.length - a.why.length)[0];
    if (refused) return { kind: "refused", why: refused.why };
    if (this.away !== null) return { kind: "away", why: this.away };
    if (this.sending || !isSame(this.waiting, {})) return { kind: "saving" };
    const at = this.savedAt ?? this.settings.savedAt;
    return at ? { kind: "saved", at } : { kind: "new" };
  }

  /** What was refused, field by field, and why. */
  get refusals(): [string, string][] {
    return Object.entries(this.refused).flatMap(([name, { why }]) =>
      why ? [[name, why] as [string, string]] : [],
    );
  }

  /** What was changed elsewhere, and what was said here. Null where nothing was. */
  get meeting(): { change: Fields; says: string } | null {
    const all = Object.entries(this.met);
    if (all.length === 0) return null;
    return {
      change: Object.fromEntries(all.map(([name, { value }]) => [name, value])),
      says: [...new Set(all.map(([, { says }]) => says))].filter(Boolean).join(" "),
    };
  }

  /** Say something new. Returns whether all of it was taken, once that is known. step: how it can be undone. */
  say(change: Fields, step: { says?: string; tag?: string | null } | null = {}): Promise<boolean> {
    const stands = this.now;
    const moved = Object.fromEntries(
      Object.entries(change).filter(([name, value]) => !isSame(value ?? null, stands[name] ?? null)),
    );
    const names = Object.keys(moved);
    if (names.length === 0) return Promise.resolve(true);
    if (step) {
      const before = Object.fromEntries(names.map((name) => [name, stands[name] ?? null]));
      this.history.record(this.stepOf({ before, after: moved }, step.says ?? "", step.tag ?? null));
    }
    for (const [name, value] of Object.entries(moved)) {
      const on = Math.max(this.revision, this.taken[name]?.on ?? 0);
      delete this.refused[name];
      delete this.met[name];
      const isBack = isSame(value ?? null, this.shown[name] ?? null);
      // Taken back before it went out, nothing of it goes out.
      if (isBack && name in this.waiting && !this.sending?.[name] && !this.taken[name])
        delete this.waiting[name];
      else this.waiting[name] = { value, on };
    }
    const left = new Set(names.filter((name) => name in this.waiting));
    this.keep();
    if (left.size === 0) return Promise.resolve(true);
    this.later(this.settings.pauseMs);
    return new Promise((done) => this.waiters.push({ left, done }));
  }

  undo = () => this.history.undo();
  redo = () => this.history.redo();

  /** Send all that waits, now. Returns once it is taken, met, refused or away. */
  async flush(): Promise<void> {
    this.cancel();
    if (isSame(this.waiting, {})) return this.underWay;
    await this.underWay;
    do {
      this.underWay = this.send();
      await this.underWay;
    } while (this.port && this.away === null && !isSame(this.waiting, {}));
  }

  private async send(): Promise<void> {
    const port = this.port;
    if (this.sending || !port || isSame(this.waiting, {})) return;
    // What was made on the oldest revision goes first, together.
    const on = Math.min(...Object.values(this.waiting).map((said) => said.on));
    const group = Object.entries(this.waiting).filter(([, said]) => said.on === on);
    const sent = Object.fromEntries(this.settings.oneByOne ? group.slice(0, 1) : group);
    this.sending = sent;
    this.waiting = without(this.waiting, sent);
    this.tell();
    const change = Object.fromEntries(Object.entries(sent).map(([name, { value }]) => [name, value]));
    try {
      const taken = await port.send(on, change);
      this.sending = null;
      this.away = null;
      this.savedAt = this.around.now();
      // What was said of the same meanwhile was said on it.
      for (const name of Object.keys(sent))
        if (this.waiting[name]) this.waiting[name] = { ...this.waiting[name], on: taken.revision };
      if (this.settings.overlay)
        for (const [name, { value }] of Object.entries(sent))
          this.taken[name] = { value, on: taken.revision };
      if (taken.shown) this.seen(taken.revision, taken.shown);
      this.settle(Object.keys(sent), true);
      this.keep();
      void port.reread();
    } catch (error) {
      await this.failed(error as Error, sent, change);
    }
  }

  private async failed(error: Error, sent: Record<string, Said>, change: Fields) {
    const back = (some: Record<string, Said>) => {
      this.waiting = { ...some, ...this.waiting };
    };
    this.sending = null;
    if (isAway(error)) {
      back(sent);
      this.away = error.message;
      this.settle(Object.keys(sent), false);
      this.keep();
      this.later(this.settings.retryMs);
      return;
    }
    this.away = null;
    if (isUnknownRevision(error)) {
      // A copy was put back: what stands there now is read before it is said again.
      [this.revision, this.taken] = [-1, {}];
      await this.port?.reread();
      const on = Math.max(0, this.revision);
      if (Object.values(sent).every((said) => said.on <= on)) this.refuse(sent, error);
      else back(Object.fromEntries(Object.entries(sent).map(([name, said]) => [name, { ...said, on }])));
      this.keep();
      return;
    }
    const named = namedIn(error, change);
    if (wasMet(error)) {
      await this.port?.reread();
      for (const [name, said] of Object.entries(sent)) {
        const fault = named.get(name);
        if (name in this.waiting) continue; // said once more meanwhile
        if (fault) this.met[name] = { ...said, says: metWords([fault]) };
        else if (this.settings.whole) this.met[name] = { ...said, says: "" };
        else if (named.size === 0) this.met[name] = { ...said, says: metWords(error.faults) };
        else back({ [name]: said });
      }
      this.settle(Object.keys(this.met), false);
    } else if (named.size > 0 || this.settings.whole || Object.keys(sent).length === 1) {
      const wrong =
        named.size > 0 ? Object.fromEntries([...named.keys()].map((n) => [n, sent[n] as Said])) : sent;
      this.refuse(wrong, error);
      const rest = without(sent, wrong);
      if (this.settings.whole)
        for (const [name, said] of Object.entries(rest)) this.refused[name] = { ...said, why: "" };
      else back(rest);
    } else {
      // It does not say of which field: one after the other, so that only that one stays behind.
      for (const [name, said] of Object.entries(sent)) {
        if (name in this.waiting || !this.port) continue;
        try {
          const taken = await this.port.send(said.on, { [name]: said.value });
          this.taken[name] = { value: said.value, on: taken.revision };
          this.settle([name], true);
        } catch (one) {
          if (isAway(one)) back({ [name]: said });
          else this.refuse({ [name]: said }, one as Error);
        }
      }
      void this.port?.reread();
    }
    this.keep();
  }

  private refuse(wrong: Record<string, Said>, error: Error) {
    for (const [name, said] of Object.entries(wrong))
      if (!(name in this.waiting)) this.refused[name] = { ...said, why: shortWords(error) };
    this.settle(Object.keys(wrong), false);
  }

  /** Try what was refused or could not be sent again. */
  retry = () => {
    for (const [name, { value }] of Object.entries(this.refused))
      this.waiting[name] ??= { value, on: this.revision };
    this.refused = {};
    this.keep();
    return this.flush();
  };

  /** Put one's own in the place of what others said meanwhile. */
  keepMine = () => {
    for (const [name, { value }] of Object.entries(this.met))
      this.waiting[name] = { value, on: Math.max(this.revision, this.taken[name]?.on ?? 0) };
    this.met = {};
    this.keep();
    return this.flush();
  };

  /** Leave what others said; one's own can be had back by undo. */
  takeTheirs = () => {
    const mine = Object.fromEntries(Object.entries(this.met).map(([name, { value }]) => [name, value]));
    const theirs = Object.fromEntries(Object.keys(mine).map((name) => [name, this.shown[name] ?? null]));
    this.met = {};
    this.history.record(this.stepOf({ before: mine, after: theirs }, "", null));
    this.keep();
  };

  /** Nothing waits any more: it is not wanted. */
  forget = () => {
    this.cancel();
    [this.waiting, this.refused, this.met, this.taken] = [{}, {}, {}, {}];
    this.keep();
  };

  /** Steps of undo as they stood in this window before a reload, brought to what there is now. */
  restoreHistory() {
    const kept = this.around.recallHere<Partial<History["kept"]>>(`undo.${this.place}`);
    const { past = [], future = [] } = kept ?? {};
    if (past.length + future.length > 0) {
      const steps = (some: typeof past) => some.map((fields) => this.stepOf(fields, "", null));
      this.history.restore(steps(past), steps(future));
    } else if (!this.isIdle) {
      // What waited from before can be had back, too.
      const after = this.pending;
      const before = Object.fromEntries(Object.keys(after).map((name) => [name, this.shown[name] ?? null]));
      if (!isSame(differing(before, after), {}))
        this.history.record(this.stepOf({ before, after }, "", null));
    }
  }

  private stepOf(fields: NonNullable<Step["fields"]>, says: string, tag: string | null): Step {
    return {
      says,
      tag,
      fields,
      back: () => this.say(fields.before, null),
      forth: () => this.say(fields.after, null),
    };
  }

  private later(ms: number) {
    this.cancel();
    this.cancel = this.around.after(ms, async () => {
      await this.underWay;
      this.underWay = this.send();
      await this.underWay;
      if (this.away === null && !isSame(this.waiting, {})) this.later(this.settings.pauseMs);
    });
  }

  private settle(names: string[], taken: boolean) {
    for (const waiter of [...this.waiters]) {
      const mine = names.filter((name) => waiter.left.has(name));
      for (const name of mine) if (!(name in this.waiting)) waiter.left.delete(name);
      if (mine.length > 0 && (!taken || waiter.left.size === 0)) {
        this.waiters = this.waiters.filter((other) => other !== waiter);
        waiter.done(taken);
      }
    }
  }

  private keep() {
    const said = { ...this.sending, ...this.waiting };
    const kept = { said, refused: this.refused, met: this.met };
    this.around.remember(this.place, this.isIdle ? null : kept);
    if (this.settings.keepUndo) {
      const { past, future } = this.history.kept;
      this.around.rememberHere(`undo.${this.place}`, {
        past: past.slice(-UNDO_KEPT),
        future: future.slice(0, UNDO_KEPT),
      });
    }
    this.tell();
  }

  private tell() {
    this.version++;
    for (const listener of this.listeners) listener();
  }
}
