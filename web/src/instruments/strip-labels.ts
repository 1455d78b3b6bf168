// Where the names of shots stand above the strip of the day.

export const ROW_HIGH = 16;
const MOST_ROWS = 8;
const LETTER = 6.7;

export function shorter(title: string, long: number): string {
  return title.length <= long ? title : `${title.slice(0, long - 1).trimEnd()}…`;
}

const SHORTER = [16, 12, 9, 6];

type Label = { y: number; end: boolean; says: string };

/**
 * Where each shot's label stands: over no other, and crossed by no line that leads from a label to its shot. Of shots that
 * stand close the middle ones are named at the top, those before them to the left and those after them to the right.
 */
export function labelsOf(
  shots: { title: string; at: number }[],
  x: (ms: number) => number,
  right: number,
  long: number,
): { of: (Label | undefined)[]; rows: number } {
  const found: (Label | undefined)[] = shots.map(() => undefined);
  const all = shots
    .map(({ title, at }, index) => ({
      index,
      title,
      line: x(at),
      wide: shorter(title, long).length * LETTER,
    }))
    .sort((a, b) => a.line - b.line);
  const close: (typeof all)[] = [];
  for (const shot of all) {
    const last = close.at(-1)?.at(-1);
    if (last && shot.line - last.line < last.wide + 10) close.at(-1)?.push(shot);
    else close.push([shot]);
  }
  type Taken = { from: number; to: number; line: number; row: number };
  const taken: Taken[] = [];
  const clashes = (from: number, to: number, line: number, row: number) =>
    taken.filter((other) =>
      other.row === row
        ? from < other.to + 6 && to > other.from - 6
        : other.row < row
          ? other.line > from - 2 && other.line < to + 2
          : line > other.from - 2 && line < other.to + 2,
    ).length;
  for (const group of close) {
    const half = Math.floor(group.length / 2);
    const sides = [
      ...group.slice(half).map((shot) => ({ shot, end: false })),
      ...group
        .slice(0, half)
        .reverse()
        .map((shot) => ({ shot, end: true })),
    ];
    for (const { shot, end } of sides) {
      const { line, title } = shot;
      let best = { row: 0, end, says: title, from: line, to: line, bad: Number.POSITIVE_INFINITY };
      // A shorter name before one that is written over.
      for (const letters of [long, ...SHORTER.filter((n) => n < long)]) {
        const says = shorter(title, letters);
        const wide = says.length * LETTER;
        const fits = (left: boolean) => (left ? line - wide > 0 : line + wide < right + 8);
        for (let row = 0; row < MOST_ROWS && best.bad > 0; row += 1) {
          for (const left of [end, !end].filter(fits)) {
            const [from, to] = left ? [line + 3 - wide, line + 3] : [line - 3, line - 3 + wide];
            const bad = clashes(from, to, line, row);
            if (bad < best.bad) best = { row, end: left, says, from, to, bad };
          }
        }
      }
      taken.push({ from: best.from, to: best.to, line, row: best.row });
      found[shot.index] = { y: 12 + ROW_HIGH * best.row, end: best.end, says: best.says };
    }
  }
  return { of: found, rows: 1 + Math.max(0, ...taken.map((label) => label.row)) };
}
