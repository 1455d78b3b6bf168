// A word that is on or off, or one of several of which one is on.

export function Toggle({ on, says, take }: { on: boolean; says: string; take: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`border-b-2 ${on ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
      onClick={take}
    >
      {says}
    </button>
  );
}
