// Small things kept in this browser. A browser that keeps nothing still works.
export function recall<T>(key: string): T | null {
  try {
    const text = localStorage.getItem(`steady-tide.${key}`);
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}

export function remember(key: string, value: unknown): void {
  try {
    if (value === null) localStorage.removeItem(`steady-tide.${key}`);
    else localStorage.setItem(`steady-tide.${key}`, JSON.stringify(value));
  } catch {
    // Private windows may refuse; the page goes on.
  }
}
