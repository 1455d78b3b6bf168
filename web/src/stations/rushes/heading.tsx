// What a part of a clip is called.

export function Heading({ says }: { says: string }) {
  return <h2 className="border-ink border-b pb-1 font-serif text-lead font-semibold">{says}</h2>;
}
