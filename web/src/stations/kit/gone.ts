/** Something that was put away, and the way back. */
export type Gone = { says: string; back: () => Promise<unknown> };
