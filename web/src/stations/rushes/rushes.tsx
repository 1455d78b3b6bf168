// Rushes: what came back is measured, held against its plan, and tells what to set next time.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { changed, inTurn, keys } from "../../api/keys";
import {
  type ClipRow,
  type Clips,
  clipsQuery,
  type Heard,
  hearClips,
  type Rating,
  rushesApi,
} from "../../api/rushes";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { Folders } from "./folders";
import { Measured } from "./measured";
import { ShotChoice } from "./shot-choice";
import { TakeList } from "./take-list";

const READ_AGAIN_MS = 1200;

export default function Rushes() {
  const { clipId } = useParams();
  const navigate = useNavigate();
  const clips = useQuery(clipsQuery);
  const [managing, setManaging] = useState(false);
  const [marked, setMarked] = useState(false);
  const [comparing, setComparing] = useState(false);
  useHearing();
  useEffect(() => {
    document.title = "Rushes · Steady Tide";
  }, []);
  const rated = useMutation({
    ...inTurn("clips"),
    mutationFn: ({ id, rating }: { id: string; rating: Rating | null }) => rushesApi.change(id, { rating }),
    onSettled: () => changed.rushes(),
  });
  const items = clips.data ? inOrder(clips.data.items) : [];
  const chosen = items.find((item) => item.id === clipId) ?? items.find((item) => item.verdict) ?? items[0];
  const step = (by: number) => {
    const place = items.findIndex((item) => item.id === chosen?.id);
    const next = items[Math.max(0, Math.min(items.length - 1, place + by))];
    if (next) navigate(`/rushes/${next.id}`, { replace: true });
  };
  const rate = (rating: Rating) =>
    chosen && rated.mutate({ id: chosen.id, rating: chosen.rating === rating ? null : rating });
  useShortcuts("rushes", (id) => {
    if (id === "clip-next") step(1);
    else if (id === "clip-before") step(-1);
    else if (id === "clip-keep") rate("keep");
    else if (id === "clip-maybe") rate("maybe");
    else if (id === "clip-no") rate("no");
    else if (id === "clip-compare") setComparing((now) => !now);
    else if (id === "clip-marks") setMarked((now) => !now);
    else if (id === "clip-folders") setManaging(true);
    else return false;
    return true;
  });
  if (clips.error && !clips.data) return <Trouble error={clips.error} retry={() => clips.refetch()} />;
  if (!clips.data) return <Loading what="Loading clips." />;
  const folders = <Folders counts={clips.data.counts} open={managing} onOpen={setManaging} />;
  if (!chosen)
    return (
      <main className="max-w-[44rem] px-6 py-5 max-sm:px-4">
        <h1 className="pb-2 font-serif text-title">Nothing has come back yet.</h1>
        <p className="pb-4 leading-[1.5]">
          Name the folder of a card, a drive or an import, or add clips. Each is measured in the background:
          exposure, noise, smear, shake, flicker, colour and sound, held against the plan that it was filmed
          by. Nothing of the footage is kept.
        </p>
        {folders}
      </main>
    );
  const best = items.find((item) => item.shot && item.shot.id === chosen.shot?.id && item.take?.place === 1);
  const second = items.find(
    (item) => item.shot && item.shot.id === chosen.shot?.id && item.take?.place === 2,
  );
  const other = best?.id === chosen.id ? second : best;
  return (
    <main className="flex flex-1 flex-col">
      <section aria-label="What is looked at" className="border-rule border-b px-6 py-[10px] max-sm:px-4">
        <h1 className="font-serif text-title leading-[1.55] font-normal">
          Of <ShotChoice clip={chosen} />, {takeName(chosen)}
          {chosen.verdict ? <>: {lower(chosen.verdict.line)}</> : "."}
        </h1>
      </section>
      <div className="grid flex-1 grid-cols-[330px_minmax(0,1fr)] max-md:grid-cols-[minmax(0,1fr)]">
        <aside
          aria-label="Clips"
          className="border-rule border-r px-5 pt-3 pb-6 max-md:border-r-0 max-md:border-b max-sm:px-4"
        >
          {folders}
          <TakeList clips={clips.data} items={items} chosen={chosen.id} />
        </aside>
        <div className="px-6 pt-3 pb-8 max-sm:px-4">
          {rated.error && <Trouble error={rated.error} retry={() => rated.mutate(rated.variables)} />}
          <Measured
            key={chosen.id}
            row={chosen}
            other={comparing ? (other ?? null) : null}
            canCompare={other !== undefined}
            comparing={comparing}
            onCompare={() => setComparing((now) => !now)}
            marked={marked}
            onMarked={() => setMarked((now) => !now)}
            rate={rate}
            rating={rated.isPending ? rated.variables.rating : chosen.rating}
          />
        </div>
      </div>
    </main>
  );
}

function takeName(clip: ClipRow): string {
  const frames = clip.quick ? "measured in bursts" : "measured in all frames";
  const done = clip.state === "done" || clip.verdict ? frames : STATES[clip.state];
  return `${clip.name.split("/").at(-1)}, ${done}`;
}

const STATES: Record<ClipRow["state"], string> = {
  waiting: "waiting to be measured",
  measuring: "being measured",
  done: "measured",
  failed: "not measured",
  cancelled: "not measured",
};

/** A verdict within a sentence: its first word is no name but for a unit. */
function lower(line: string): string {
  return line.charAt(0).toLowerCase() + line.slice(1);
}

/** Clips by their shots, as the shots come in the day; those of no shot at the end. */
function inOrder(items: ClipRow[]): ClipRow[] {
  const first = new Map<string, number>();
  items.forEach((item, place) => {
    const shot = item.shot?.id ?? "";
    if (!first.has(shot)) first.set(shot, shot ? place : Number.POSITIVE_INFINITY);
  });
  return items
    .map((item, place) => ({ item, place, of: first.get(item.shot?.id ?? "") ?? 0 }))
    .sort((a, b) => a.of - b.of || a.place - b.place)
    .map(({ item }) => item);
}

/** Shares and states follow as they are told; what is new is read again, but not at every word. */
function useHearing() {
  const queries = useQueryClient();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const heard = ({ clips: news, gone }: Heard) => {
      const kept = queries.getQueryData<Clips>(keys.clips);
      const told = new Map(news.map((one) => [one.id, one]));
      const known = new Map(kept?.items.map((item) => [item.id, item]));
      if (kept)
        queries.setQueryData<Clips>(keys.clips, {
          ...kept,
          items: kept.items.map((item) => {
            const now = told.get(item.id);
            return now && item.state === now.state ? { ...item, share: now.share } : item;
          }),
        });
      const anew = kept !== undefined && news.some((one) => known.get(one.id)?.state !== one.state);
      if ((anew || gone) && timer === undefined)
        timer = setTimeout(() => {
          timer = undefined;
          changed.rushes();
        }, READ_AGAIN_MS);
    };
    const stop = hearClips(heard);
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [queries]);
}
