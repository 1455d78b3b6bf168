// Story: the films of a shoot as strips of cuts, their beats and framings, and what is missing before they cut.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { changed } from "../../../api/keys";
import { type FilmOut, type Story as StoryText, storyApi, storyQuery } from "../../../api/story";
import type { Shoot } from "../../../api/types";
import { Met } from "../../../changes/met";
import { refusalWords } from "../../../changes/refusals";
import { recall, remember } from "../../../changes/storage";
import { useChanges, useUndo } from "../../../changes/use-changes";
import { FilmStrip } from "../../../instruments/film-strip";
import { GoneNote, type Gone as GoneThing } from "../../../parts/gone";
import { useShortcuts } from "../../../parts/keyboard";
import { Loading } from "../../../parts/loading";
import { Toggle } from "../../../parts/toggle";
import { Trouble } from "../../../parts/trouble";
import { BeatView } from "./beat-view";
import { FilmSentence } from "./film-sentence";
import { FramingSide } from "./framing-side";

export default function Story({ shoot }: { shoot: Shoot }) {
  const story = useQuery(storyQuery(shoot.id));
  const [film, setFilm] = useState<string | null>(null);
  const [gone, setGone] = useState<GoneThing | null>(null);
  const add = useMutation({
    mutationFn: () =>
      storyApi.add(shoot.id, { title: firstTitle(story.data?.total ?? 0), beats: FIRST_BEATS }),
    onSuccess: async (made) => {
      await changed.story();
      setFilm(made.id);
    },
  });
  if (story.error && !story.data) return <Trouble error={story.error} retry={() => story.refetch()} />;
  if (!story.data) return <Loading what="Loading the film." className="py-4" />;
  const items = story.data.items;
  const open = items.find((one) => one.id === film) ?? items[0];
  const begin = (
    <button type="button" className="plain" disabled={add.isPending} onClick={() => add.mutate()}>
      {items.length ? "Another film" : "Begin a film"}
    </button>
  );
  return (
    <div className="pt-3">
      {open ? (
        <Film
          key={open.id}
          out={open}
          story={story.data}
          shoot={shoot}
          tabs={
            items.length > 1 && (
              <p className="flex flex-wrap gap-x-5 pb-1">
                {items.map((one) => (
                  <Toggle
                    key={one.id}
                    on={one.id === open.id}
                    says={one.film.told.film.title}
                    take={() => setFilm(one.id)}
                  />
                ))}
              </p>
            )
          }
          more={begin}
          onGone={setGone}
        />
      ) : (
        <div className="max-w-[560px] py-4">
          <p className="pb-4 font-serif text-lead leading-relaxed text-muted">
            Single pretty clips do not join. Say what film this day is for and how it goes; Story proposes the
            framings that make it cut, counts the takes and the minutes, and says what is missing. Each
            framing is a shot of the day.
          </p>
          {begin}
        </div>
      )}
      {add.error && <Trouble error={add.error} retry={() => add.mutate()} />}
      <GoneNote
        gone={gone}
        over={() => {
          void changed.story();
          setGone(null);
        }}
      />
    </div>
  );
}

const SIDE_BY_SIDE = 1024;
const FIRST_BEATS = [
  { id: "arrive", title: "Arrive" },
  { id: "look", title: "Look" },
  { id: "leave", title: "Leave" },
];
const firstTitle = (there: number) => (there ? `Film ${there + 1}` : "The film of the day");

type Props = {
  out: FilmOut;
  story: StoryText;
  shoot: Shoot;
  tabs: React.ReactNode;
  more: React.ReactNode;
  onGone: (gone: GoneThing) => void;
};

function Film({ out, story, shoot, tabs, more, onGone }: Props) {
  const { told } = out.film;
  const numbers = new Map(out.film.framings.map((one) => [one.key, one.number]));
  const order = told.framings.map((one) => one.key);
  const place = `story.${out.id}`;
  const [chosen, setChosen] = useState<string | null>(() => recall(place));
  const current = told.framings.find((one) => one.key === chosen) ?? firstOpen(out);
  const [looked, setLooked] = useState<string | null>(null);
  const beatId = looked ?? current?.framing.beat ?? told.film.beats?.[0]?.id ?? null;
  const beat = told.beats.find((one) => one.beat.id === beatId) ?? told.beats[0];
  const side = useRef<HTMLElement>(null);
  const choose = (key: string) => {
    // Where it stands below, it comes into sight.
    if (window.innerWidth < SIDE_BY_SIDE) side.current?.scrollIntoView({ block: "start" });
    setChosen(key);
    setLooked(null);
    remember(place, key);
  };
  const history = useUndo();
  const {
    engine,
    now: film,
    say,
  } = useChanges({
    place: `film.${out.id}`,
    shown: told.film,
    revision: out.revision,
    send: (revision, change) => storyApi.change(out.id, revision, change),
    reread: changed.story,
    history,
  });
  /** A change of the film that can be had back. */
  const put = (change: Record<string, unknown>, says: string) => say(change, { says });
  useShortcuts("shoots", (id) => {
    const at = current ? order.indexOf(current.key) : -1;
    if (id === "framing-next" && order[at + 1]) choose(order[at + 1] as string);
    else if (id === "framing-before" && at > 0) choose(order[at - 1] as string);
    else if (id === "story-undo") history.undo();
    else return false;
    return true;
  });
  const remove = useMutation({
    mutationFn: () => storyApi.remove(out.id),
    onSuccess: () => {
      void changed.story();
      onGone({
        says: `“${told.film.title}” was removed; its shots stay in the day.`,
        back: () => storyApi.restore(out.id),
      });
    },
  });
  const whole = out.film.needs.filter((need) => need.beat === null);
  const hung = told.framings.filter((one) => !told.beats.some((other) => other.beat.id === one.framing.beat));
  return (
    <div>
      {tabs}
      <FilmSentence film={film} says={out.film} put={put} />
      <p
        role="status"
        className="flex min-h-[26px] flex-wrap items-baseline gap-x-4 pt-1 text-small text-muted"
      >
        <span>{out.film.length_words}.</span>
        {told.cuts_now && <b className="text-ink">It cuts.</b>}
        {history.last && (
          <button type="button" className="underline" onClick={() => history.undo()}>
            undo {history.last.says}
          </button>
        )}
        <Met engine={engine} />
      </p>
      <FilmStrip
        strip={told.strip}
        beats={(told.film.beats ?? []).map(({ id, title }) => ({ id, title }))}
        framings={told.framings}
        numbers={numbers}
        chosen={current?.key ?? null}
        onChoose={choose}
      />
      {whole.map((need) => (
        <p key={need.code} className="pt-1 text-small">
          <b className={need.strong ? "text-note" : ""}>{need.head}</b> {need.text}
        </p>
      ))}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_304px] border-hair border-t max-lg:grid-cols-1">
        <div className="min-w-0 pt-3 pr-6 max-lg:pr-0">
          <BeatTabs
            beats={told.beats.map((one) => ({
              id: one.beat.id,
              title: one.beat.title,
              removed: one.beat.removed ?? false,
              says: `${one.filmed} of ${one.framings.length}`,
            }))}
            open={beat?.beat.id ?? null}
            choose={(id) => {
              setLooked(id);
              const first = told.beats.find((one) => one.beat.id === id)?.framings[0];
              if (first) {
                setChosen(first);
                remember(place, first);
              }
            }}
            add={() => {
              const id = freshId((film.beats ?? []).map((one) => one.id));
              void put({ beats: [...(film.beats ?? []), { id, title: "New beat" }] }, "the new beat");
              setLooked(id);
            }}
          />
          {beat && (
            <BeatView
              key={beat.beat.id}
              beat={beat}
              film={film}
              out={out}
              story={story}
              put={put}
              history={history}
              chosen={current?.key ?? null}
              choose={choose}
            />
          )}
          {hung.length > 0 && (
            <p className="pt-3 text-small">
              <b className="text-note">Without a beat:</b> {hung.map((one) => one.title).join(", ")}. Choose a
              beat for each at its side.
            </p>
          )}
          <p className="flex flex-wrap gap-3 pt-5">
            {more}
            <button
              type="button"
              className="plain text-muted"
              disabled={remove.isPending}
              onClick={() => remove.mutate()}
            >
              Remove this film
            </button>
          </p>
          {remove.error && (
            <p role="alert" className="text-note">
              {refusalWords(remove.error)}
            </p>
          )}
        </div>
        <aside
          ref={side}
          className="min-w-0 border-hair border-l pt-3 pl-6 max-lg:mt-4 max-lg:border-l-0 max-lg:border-t max-lg:pl-0"
        >
          {current ? (
            <FramingSide
              key={current.key}
              told={current}
              words={out.film.framings.find((one) => one.key === current.key)}
              revision={out.framing_revisions[current.key] ?? 0}
              out={out}
              story={story}
              shoot={shoot}
              history={history}
              onGone={onGone}
            />
          ) : (
            <p className="text-muted">A framing opens here, with its sun and its shadow.</p>
          )}
        </aside>
      </div>
    </div>
  );
}

/** The first framing that is still missing, else the first of all. */
function firstOpen(out: FilmOut) {
  const all = out.film.told.framings;
  return all.find((one) => one.state !== "kept") ?? all[0];
}

function freshId(there: string[]): string {
  let n = there.length + 1;
  while (there.includes(`beat-${n}`)) n++;
  return `beat-${n}`;
}

type TabsProps = {
  beats: { id: string; title: string; removed: boolean; says: string }[];
  open: string | null;
  choose: (id: string) => void;
  add: () => void;
};

function BeatTabs({ beats, open, choose, add }: TabsProps) {
  return (
    <nav aria-label="Beats" className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2">
      {beats.map((beat) => (
        <button
          key={beat.id}
          type="button"
          aria-current={beat.id === open ? "true" : undefined}
          className={`border-b-2 py-[3px] font-serif text-lead italic ${beat.id === open ? "border-ink" : "border-transparent text-muted hover:text-ink"} ${beat.removed ? "line-through" : ""}`}
          onClick={() => choose(beat.id)}
        >
          {beat.title}{" "}
          <span className="font-sans text-fine text-muted not-italic">
            {beat.removed ? "struck" : beat.says}
          </span>
        </button>
      ))}
      <button type="button" className="text-small text-muted underline hover:text-ink" onClick={add}>
        add a beat
      </button>
    </nav>
  );
}
