// What is taken along: of each kind everything, nothing, or some.
import type { Brief } from "../../api/types";
import { Tick } from "../../parts/fields";
import { plainNumber } from "../../parts/words";
import type { EditorProps } from "./editors";

type Kind = "cameras" | "filters" | "attachments" | "housings" | "microphones" | "batteries" | "media";
type Item = { id: string; says: string };

function itemsOf(kind: Kind, vocabulary: EditorProps["vocabulary"]): Item[] {
  switch (kind) {
    case "cameras":
      return vocabulary.cameras.map(({ id, name, kind: what }) => ({ id, says: `${name}, ${KINDS[what]}` }));
    case "filters":
      return vocabulary.filters.map(({ id, name, kind: what, stops }) => ({
        id,
        says: what === "colour" ? `${name} for water` : `${name}, ${plainNumber(stops)} stops`,
      }));
    case "attachments":
      return vocabulary.attachments.map(({ id, name }) => ({ id, says: name }));
    case "microphones":
      return vocabulary.microphones.map(({ id, name }) => ({ id, says: name }));
    case "housings":
      return vocabulary.housings.map(({ id, name, proof_depth_m }) => ({
        id,
        says: `${name}, to ${plainNumber(proof_depth_m)}\u202fm`,
      }));
    case "batteries":
      return vocabulary.batteries.map(({ id, name, wh, count }) => ({
        id,
        says: `${count > 1 ? `${count} \u00d7 ` : ""}${name}, ${plainNumber(wh)}\u202fWh`,
      }));
    case "media":
      return vocabulary.media.map(({ id, name, write_mb_s }) => ({
        id,
        says: `${name}, ${plainNumber(write_mb_s)}\u202fMb/s`,
      }));
  }
}

const KINDS: Record<string, string> = {
  action: "action camera",
  drone: "drone",
  phone: "phone",
  other: "camera",
};
const TITLES: [Kind, string][] = [
  ["cameras", "Cameras"],
  ["filters", "Filters"],
  ["attachments", "Before the lens"],
  ["housings", "Housings"],
  ["microphones", "Microphones"],
  ["batteries", "Spare cells and supply"],
  ["media", "Cards and drives"],
];

export function KitEditor({ brief, change, vocabulary }: EditorProps) {
  return (
    <div className="grid gap-3">
      {TITLES.map(([kind, title]) => {
        const items = itemsOf(kind, vocabulary);
        const taken = brief.kit[kind] ?? null;
        const has = (id: string) => taken === null || taken.includes(id);
        const set = (ids: string[] | null) =>
          change((b) => ({ ...b, kit: { ...b.kit, [kind]: ids } as Brief["kit"] }));
        return (
          <fieldset key={kind} className="border-rule border-b pb-2">
            <legend className="flex w-full items-baseline gap-3 text-fine text-muted">
              <span className="flex-1">{title} taken along</span>
              <button type="button" className="underline" onClick={() => set(null)}>
                all<span className="sr-only"> {title.toLowerCase()}</span>
              </button>
              <button type="button" className="underline" onClick={() => set([])}>
                none<span className="sr-only"> of {title.toLowerCase()}</span>
              </button>
            </legend>
            {items.map((item) => (
              <Tick
                key={item.id}
                says={item.says}
                checked={has(item.id)}
                onChange={(on) => {
                  const next = items.map(({ id }) => id).filter((id) => (id === item.id ? on : has(id)));
                  set(next.length === items.length ? null : next);
                }}
              />
            ))}
          </fieldset>
        );
      })}
    </div>
  );
}

/** The kit in few words: what is left at home is said, what is taken whole is not. */
export function kitWords(brief: Brief, vocabulary: EditorProps["vocabulary"]): string {
  const said = TITLES.flatMap(([kind, title]) => {
    const taken = brief.kit[kind] ?? null;
    const items = itemsOf(kind, vocabulary);
    if (taken === null || taken.length === items.length) return [];
    if (taken.length === 0) return [`no ${title.toLowerCase()}`];
    const names = items.filter(({ id }) => taken.includes(id)).map(({ says }) => says.split(",")[0] ?? "");
    return names.length <= 2 ? [names.join(" and ")] : [`${names.length} of our ${title.toLowerCase()}`];
  });
  return said.length === 0 ? "all our kit" : said.join(", ");
}
