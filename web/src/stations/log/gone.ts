// What was removed, and how it is brought back.
export type Gone = { says: string; back: () => Promise<unknown> };
