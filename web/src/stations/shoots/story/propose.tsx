// Framings that are proposed for a beat: struck or kept one by one, then added as shots.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../../api/keys";
import { shootsApi } from "../../../api/shoots";
import { type Beat, type FilmOut, proposalsQuery, type Story, storyApi } from "../../../api/story";
import type { History } from "../../../changes/history";
import { refusalWords } from "../../../changes/refusals";
import { Tick } from "../../../parts/fields";
import { Loading } from "../../../parts/loading";
import { Trouble } from "../../../parts/trouble";

type Props = {
  out: FilmOut;
  beat: Beat;
  kinds: Story["kinds"];
  close: () => void;
  history: History;
  choose: (key: string) => void;
};

export function Propose({ out, beat, kinds, close, history, choose }: Props) {
  const [prompts, setPrompts] = useState(false);
  const [struck, setStruck] = useState<Set<string>>(new Set());
  const proposed = useQuery(proposalsQuery(out.id, beat.id, prompts));
  const kind = new Map(kinds.map((one) => [one.id, one]));
  const items = proposed.data?.items ?? [];
  const name = (one: (typeof items)[number]) =>
    `${one.framing.kind} ${one.framing.subject} ${one.framing.from_deg ?? ""}`;
  const taken = items.filter((one) => !struck.has(name(one)));
  const add = useMutation({
    mutationFn: () => storyApi.addFramings(out.id, taken),
    onSuccess: async (made) => {
      history.record({
        tag: null,
        says: `adding ${made.total}`,
        back: () => Promise.all(made.items.map((id) => shootsApi.removeShot(id))).then(changed.story),
      });
      await changed.story();
      if (made.items[0]) choose(made.items[0]);
      close();
    },
  });
  return (
    <div role="group" aria-label="Proposals" className="mt-3 border-ink border-l-3 pl-4">
      {proposed.error && !proposed.data && (
        <Trouble error={proposed.error} retry={() => proposed.refetch()} />
      )}
      {proposed.isPending && <Loading what="Working out framings." className="" />}
      {proposed.data && items.length === 0 && (
        <p>
          {prompts
            ? "Nothing is left to propose."
            : "It has all that a beat wants. Ideas below, if you like."}
        </p>
      )}
      <ul>
        {items.map((one) => {
          const of = one.framing.subject ? ` of ${one.framing.subject}` : "";
          const [near, far] = one.brief.subject?.distance_m ?? [0, 0];
          return (
            <li key={name(one)} className="border-hair border-b py-1">
              <Tick
                says={`${kind.get(one.framing.kind ?? "medium")?.name}${of}, ${near} to ${far}\u202fm${one.framing.from_deg == null ? "" : `, ${Math.abs(one.framing.from_deg)}° round it`}`}
                checked={!struck.has(name(one))}
                onChange={(on) => {
                  const next = new Set(struck);
                  if (on) next.delete(name(one));
                  else next.add(name(one));
                  setStruck(next);
                }}
              />
              <p className="pl-9 text-fine text-muted">{kind.get(one.framing.kind ?? "medium")?.says}</p>
            </li>
          );
        })}
      </ul>
      <Tick
        says="ideas, too: reflections, over the shoulder, frames within the frame"
        checked={prompts}
        onChange={setPrompts}
      />
      <p className="flex gap-3 pt-2">
        <button
          type="button"
          className="bold-plain"
          disabled={taken.length === 0 || add.isPending}
          onClick={() => add.mutate()}
        >
          {add.isPending ? `Planning ${taken.length}` : `Add ${taken.length} as shots`}
        </button>
        <button type="button" className="plain" onClick={close}>
          Not now
        </button>
      </p>
      {add.error && (
        <p role="alert" className="pt-2 text-note">
          {refusalWords(add.error)}
        </p>
      )}
    </div>
  );
}
