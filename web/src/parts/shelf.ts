// The shelf of uses as it is looked through: by words, and in the order of scenarios.
import { useQuery } from "@tanstack/react-query";
import { vocabularyQuery } from "../api/bench";
import type { Use } from "../api/uses";

type Board = { id: string; name: string; uses: Use[] };

/** Uses that hold some words, scenario by scenario; those of none last. */
export function useShelf(uses: Use[], words: string): { found: Use[]; boards: Board[] } {
  const scenarios = useQuery(vocabularyQuery).data?.scenarios ?? [];
  const asked = words.trim().toLowerCase();
  const found = uses.filter((one) => `${one.name} ${one.says}`.toLowerCase().includes(asked));
  const known = new Set(scenarios.map((one) => one.id));
  const boards = [
    ...scenarios.map(({ id, name }) => ({ id, name, uses: found.filter((one) => one.scenario === id) })),
    { id: "", name: "others", uses: found.filter((one) => !known.has(one.scenario)) },
  ];
  return { found, boards: boards.filter((one) => one.uses.length > 0) };
}
