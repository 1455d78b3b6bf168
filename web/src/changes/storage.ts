// Small things kept in this browser, or in this window alone. One that keeps nothing still works.
const PREFIX = "steady-tide.";

function read<T>(storage: () => Storage, key: string): T | null {
  try {
    const text = storage().getItem(PREFIX + key);
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}

function write(storage: () => Storage, key: string, value: unknown): boolean {
  try {
    if (value === null) storage().removeItem(PREFIX + key);
    else storage().setItem(PREFIX + key, JSON.stringify(value));
    return true;
  } catch {
    return false; // private windows may refuse, and it may be full
  }
}

export const recall = <T>(key: string): T | null => read<T>(() => localStorage, key);
export const remember = (key: string, value: unknown): void => {
  write(() => localStorage, key, value);
};

/** Of this window alone. */
export const recallHere = <T>(key: string): T | null => read<T>(() => sessionStorage, key);
export function rememberHere(key: string, value: unknown): void {
  if (write(() => sessionStorage, key, value)) return;
  // It is full: what was kept of other things makes room.
  const others = Object.keys(sessionStorage).filter((name) => name.startsWith(`${PREFIX}undo.`));
  for (const name of others) sessionStorage.removeItem(name);
  write(() => sessionStorage, key, value);
}
