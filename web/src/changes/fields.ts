// What people change, as flat fields: the unit in which changes are merged, refused and undone.
import isSame from "fast-deep-equal";

export { isSame };

export type Fields = Record<string, unknown>;

const isPart = (value: unknown): value is Fields =>
  typeof value === "object" && value !== null && !Array.isArray(value) && !("kind" in value);

/** A document one level deep: `{ subject: { speed: 1 } }` becomes `{ "subject.speed": 1 }`. What has a kind stays whole.
 * wrapped: parts whose values are sent as lists of one, since null is a value there, too. */
export function flat(document: object, wrapped: string[] = []): Fields {
  return Object.fromEntries(
    Object.entries(document).flatMap(([name, value]) =>
      isPart(value)
        ? Object.entries(value)
            .filter(([, inner]) => inner !== undefined)
            .map(([key, inner]) => [`${name}.${key}`, wrapped.includes(name) ? [inner] : inner])
        : [[name, value]],
    ),
  );
}

/** The way back. parts: those that stand even when they are empty; a field that is null is left out of a wrapped part. */
export function nested(fields: Fields, parts: string[] = [], wrapped: string[] = []): Fields {
  const made: Fields = Object.fromEntries(parts.map((part) => [part, {}]));
  for (const [name, value] of Object.entries(fields)) {
    const [part = "", ...rest] = name.split(".");
    if (rest.length === 0) {
      made[name] = value;
      continue;
    }
    const isWrapped = wrapped.includes(part);
    if (isWrapped && value === null) continue;
    const inner = (made[part] ?? {}) as Fields;
    inner[rest.join(".")] = isWrapped ? (value as unknown[])[0] : value;
    made[part] = inner;
  }
  return made;
}

/** The fields that differ between two of the same form, as they are now; what is gone is null. */
export function differing(before: object, now: object): Fields {
  const [a, b] = [before as Fields, now as Fields];
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return Object.fromEntries(
    names.filter((name) => !isSame(a[name] ?? null, b[name] ?? null)).map((name) => [name, b[name] ?? null]),
  );
}

/** Fields without some others. */
export const without = <T>(fields: Record<string, T>, others: object): Record<string, T> =>
  Object.fromEntries(Object.entries(fields).filter(([name]) => !(name in others)));
