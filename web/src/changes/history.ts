// Undo and redo. Steps with the same tag in a row count as one.

export type Step = {
  /** What it did, such as "the order". */
  says: string;
  tag: string | null;
  back: () => unknown;
  forth?: () => unknown;
  /** What a reload needs of it: fields before and after. */
  fields?: { before: Record<string, unknown>; after: Record<string, unknown> };
};

const MOST = 200;

export class History {
  private past: Step[] = [];
  private future: Step[] = [];
  private listeners = new Set<() => void>();
  version = 0;

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get canUndo() {
    return this.past.length > 0;
  }

  get canRedo() {
    return this.future.length > 0;
  }

  get last(): Step | undefined {
    return this.past.at(-1);
  }

  /** Field steps, as a reload keeps them. */
  get kept() {
    const fieldsOf = (steps: Step[]) => steps.flatMap(({ fields }) => (fields ? [fields] : []));
    return { past: fieldsOf(this.past), future: fieldsOf(this.future) };
  }

  record(step: Step) {
    const last = this.past.at(-1);
    this.future = [];
    if (last?.fields && step.fields && step.tag !== null && last.tag === step.tag) {
      // Mutated in place: its functions read what it holds.
      last.fields.before = { ...step.fields.before, ...last.fields.before };
      last.fields.after = { ...last.fields.after, ...step.fields.after };
    } else this.past = [...this.past, step].slice(-MOST);
    this.tell();
  }

  /** Steps from before a reload, in place of all that there are. */
  restore(past: Step[], future: Step[]) {
    [this.past, this.future] = [past, future];
    this.tell();
  }

  /** What is said next is a step of its own. */
  settle() {
    const last = this.past.at(-1);
    if (last) last.tag = null;
  }

  undo(): boolean {
    const step = this.past.at(-1);
    if (!step) return false;
    this.past = this.past.slice(0, -1);
    this.future = step.forth ? [step, ...this.future] : [];
    step.tag = null;
    void step.back();
    this.tell();
    return true;
  }

  redo(): boolean {
    const [step, ...rest] = this.future;
    if (!step?.forth) return false;
    this.future = rest;
    this.past = [...this.past, step];
    void step.forth();
    this.tell();
    return true;
  }

  private tell() {
    this.version++;
    for (const listener of this.listeners) listener();
  }
}
