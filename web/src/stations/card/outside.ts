// What is ticked and set outside: kept here at once, handed over when the connection is there.
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { cardApi, outsideQuery } from "../../api/card";
import { queries } from "../../api/http";
import { keys } from "../../api/keys";
import type { OutsideKept } from "../../api/types";
import { type Fields, flat, nested } from "../../changes/fields";
import { waitingWords } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";

type Outside = { ticks: Record<string, boolean>; really_set: Record<string, string | null> };

const PARTS = ["ticks", "really_set"];
const fieldsOf = ({ ticks, really_set }: OutsideKept): Fields => flat({ ticks, really_set });

export function useOutside(shotId: string) {
  const known = useQuery(outsideQuery(shotId)).data;
  const shown = useMemo(() => (known ? fieldsOf(known) : {}), [known]);
  const { engine, now, say } = useChanges<Fields>({
    place: `outside.${shotId}`,
    shown,
    revision: 0,
    overlay: false,
    send: async (_, change) => {
      const kept = await cardApi.noteOutside(shotId, nested(change, PARTS) as Outside);
      // An answer that was asked for before would not hold what was just handed over.
      await queries.cancelQueries({ queryKey: keys.outside(shotId) });
      queries.setQueryData(keys.outside(shotId), kept);
      return { revision: 0, shown: fieldsOf(kept) };
    },
    reread: () => {},
    ofBefore: (kept: Outside) => flat({ ticks: kept.ticks ?? {}, really_set: kept.really_set ?? {} }),
  });
  const { ticks, really_set } = nested(now, PARTS) as Outside;
  const set = Object.entries(really_set).filter((entry): entry is [string, string] => !!entry[1]);
  const tick = (ids: string[], on: boolean) =>
    void say(Object.fromEntries(ids.map((id) => [`ticks.${id}`, on])));
  return {
    ticks,
    reallySet: Object.fromEntries(set),
    tick: (id: string, on: boolean) => tick([id], on),
    clear: (ids: string[]) => tick(ids, false),
    set: (dial: string, value: string | null) => void say({ [`really_set.${dial}`]: value }),
    says: waitingWords(engine),
  };
}
