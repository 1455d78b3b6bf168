// One beat: its framings to scale, what it takes, and what is missing before it cuts.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../../api/keys";
import { type Beat, type Film, type FilmOut, type Story, storyApi } from "../../../api/story";
import type { History } from "../../../changes/history";
import { refusalWords } from "../../../changes/refusals";
import { FramingSketch } from "../../../instruments/framing-sketch";
import { NumberField, TextField } from "../../../parts/fields";
import { Panel } from "../../../parts/panel";
import { Propose } from "./propose";

type BeatFacts = FilmOut["film"]["told"]["beats"][number];
type Put = (change: Record<string, unknown>, says: string) => unknown;
type Props = {
  beat: BeatFacts;
  /** As it was said last. */
  film: Film;
  out: FilmOut;
  story: Story;
  put: Put;
  history: History;
  chosen: string | null;
  choose: (key: string) => void;
};

export function BeatView({ beat, film, out, story, put, history, chosen, choose }: Props) {
  const [proposing, setProposing] = useState(false);
  const { told } = out.film;
  const mine = told.framings.filter((one) => one.framing.beat === beat.beat.id);
  const words = new Map(out.film.framings.map((one) => [one.key, one]));
  const needs = out.film.needs.filter((need) => need.beat === beat.beat.id);
  const others = story.others;
  const bring = useMutation({
    mutationFn: (shot: string) =>
      storyApi.frame(shot, { film: out.id, beat: beat.beat.id, place: mine.length, kind: "medium" }),
    onSuccess: (_, shot) => {
      history.record({
        says: "bringing it in",
        tag: null,
        back: () => storyApi.unframe(shot).then(changed.story),
      });
      choose(shot);
      return changed.story();
    },
  });
  return (
    <section aria-label={beat.beat.title}>
      <h3 className="flex flex-wrap items-baseline gap-x-3 border-ink border-b pb-1 font-serif text-title font-semibold">
        <EditBeat beat={beat.beat} film={film.beats ?? []} put={put} hung={mine.length > 0} />
        <span className="font-sans text-small font-normal text-muted">
          {out.film.work[beat.beat.id]?.[0]?.value} on the screen · {mine.length}{" "}
          {mine.length === 1 ? "framing" : "framings"}
          {beat.beat.subjects?.length ? ` · of ${beat.beat.subjects.join(" and ")}` : ""}
        </span>
      </h3>
      {beat.beat.shows && <p className="pt-1 font-serif text-body italic">{beat.beat.shows}</p>}
      {beat.beat.removed && (
        <p className="pt-1 text-small">
          <b className="text-note">Struck,</b> but kept: {beat.takes || "no"}{" "}
          {beat.takes === 1 ? "take hangs" : "takes hang"} on it.{" "}
          <button
            type="button"
            className="underline"
            onClick={() =>
              put(
                {
                  beats: (film.beats ?? []).map((one) =>
                    one.id === beat.beat.id ? { ...one, removed: false } : one,
                  ),
                },
                "putting the beat back",
              )
            }
          >
            put it back
          </button>
        </p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-x-4 gap-y-4 pt-3">
        {mine.map((one) => {
          const said = words.get(one.key);
          return (
            <li key={one.key}>
              <button
                type="button"
                aria-pressed={one.key === chosen}
                className={`block w-full text-left ${one.key === chosen ? "outline-2 outline-ink outline-offset-4" : "hover:bg-second"}`}
                onClick={() => choose(one.key)}
              >
                {one.sketch ? (
                  <FramingSketch
                    sketch={one.sketch}
                    end={one.end}
                    figure={one.framing.figure ?? "person"}
                    says={`Framing ${said?.number} to scale`}
                  />
                ) : (
                  <span className="block border border-ink border-dashed p-4 text-small text-muted">
                    No camera here can film it; its pins or its light exclude all.
                  </span>
                )}
                <span className="block pt-[6px] text-body font-bold">
                  {said?.number} {said?.kind}
                </span>
                <span className="block text-small leading-tight text-muted">{said?.where}</span>
                <span
                  className={`block text-small ${one.state === "kept" ? "" : "font-bold text-note"}`}
                  data-testid="state"
                >
                  {said?.state}
                </span>
                {said?.minds.map((mind) => (
                  <span key={mind} className="block text-small leading-tight font-bold text-note">
                    {mind}
                  </span>
                ))}
              </button>
            </li>
          );
        })}
      </ul>
      {mine.length === 0 && (
        <p className="py-3 text-muted">
          Nothing is framed yet. Let framings be proposed, strike what you do not want.
        </p>
      )}
      <p className="flex flex-wrap items-center gap-3 pt-4">
        <button type="button" className="bold-plain" onClick={() => setProposing(!proposing)}>
          {proposing ? "Close the proposals" : mine.length ? "Propose what is missing" : "Propose framings"}
        </button>
        {others.length > 0 && (
          <select
            aria-label="Add a shot of the day"
            className="field !w-auto max-w-[240px]"
            value=""
            disabled={bring.isPending}
            onChange={(event) => event.target.value && bring.mutate(event.target.value)}
          >
            <option value="">Add a shot of the day</option>
            {others.map((shot) => (
              <option key={shot.id} value={shot.id}>
                {shot.title}
              </option>
            ))}
          </select>
        )}
      </p>
      {bring.error && (
        <p role="alert" className="text-note">
          {refusalWords(bring.error)}
        </p>
      )}
      {proposing && (
        <Propose
          out={out}
          beat={beat.beat}
          kinds={story.kinds}
          close={() => setProposing(false)}
          history={history}
          choose={choose}
        />
      )}
      <div className="grid grid-cols-2 gap-x-6 pt-5 max-md:grid-cols-1">
        <div>
          <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">What it takes</h3>
          <dl>
            {out.film.work[beat.beat.id]?.map((row) => (
              <div
                key={row.name}
                className="flex justify-between gap-3 border-hair border-b py-[6px] text-small"
              >
                <dt className="text-muted">{row.name}</dt>
                <dd className="text-right text-body font-bold whitespace-nowrap">{row.value}</dd>
              </div>
            ))}
            <div className="flex justify-between gap-3 py-[6px] text-small">
              <dt className="text-muted">the whole film, at the place</dt>
              <dd className="text-right whitespace-nowrap">{out.film.work[""]?.[2]?.value}</dd>
            </div>
          </dl>
        </div>
        <div>
          <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Before it cuts</h3>
          {needs.length === 0 && <p className="py-2 text-small">Nothing is missing here.</p>}
          {needs.map((need) => (
            <p key={need.code + need.head} className="py-[5px] text-small leading-snug">
              <b className={need.strong ? "text-note" : ""}>{need.head}</b> {need.text}
            </p>
          ))}
          {out.film.joins.map((join) => (
            <p key={join} className="py-[5px] text-small">
              {join}
            </p>
          ))}
        </div>
      </div>
    </section>
  );
}

type EditProps = { beat: Beat; film: Beat[]; put: Put; hung: boolean };

function EditBeat({ beat, film, put, hung }: EditProps) {
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState({ title: beat.title, shows: beat.shows ?? "", of: of(beat) });
  const mine = (change: Partial<Beat>, says: string) =>
    put({ beats: film.map((one) => (one.id === beat.id ? { ...one, ...change } : one)) }, says);
  const keep = () => {
    const subjects = [
      ...new Set(
        draft.of
          .split(",")
          .map((one) => one.trim())
          .filter(Boolean),
      ),
    ].slice(0, 6);
    const change: Partial<Beat> = {};
    if (draft.title.trim() && draft.title !== beat.title) change.title = draft.title.trim().slice(0, 80);
    if (draft.shows !== (beat.shows ?? "")) change.shows = draft.shows;
    if (subjects.join() !== (beat.subjects ?? []).join()) change.subjects = subjects;
    if (Object.keys(change).length) mine(change, "the beat");
  };
  const at = film.findIndex((one) => one.id === beat.id);
  const move = (by: number) => {
    const beats = [...film];
    const [one] = beats.splice(at, 1);
    if (one) beats.splice(at + by, 0, one);
    put({ beats }, "the order of beats");
  };
  return (
    <Panel
      label={`Beat ${beat.title}`}
      trigger={{
        className: "token !not-italic",
        "aria-label": `Beat: ${beat.title}`,
      }}
      says={beat.title}
      open={open}
      onOpen={(on) => {
        if (!on) keep();
        setOpen(on);
      }}
      wide="w-[340px] p-4 font-sans"
    >
      <div className="grid gap-3">
        <TextField
          label="Beat"
          value={draft.title}
          autoFocus
          onChange={(title) => setDraft({ ...draft, title })}
        />
        <TextField
          label="What it shows"
          value={draft.shows}
          onChange={(shows) => setDraft({ ...draft, shows })}
        />
        <TextField
          label="Of whom or what, with commas between"
          value={draft.of}
          onChange={(text) => setDraft({ ...draft, of: text })}
        />
        <NumberField
          late
          label="Which way the action runs"
          unit="° from north"
          value={beat.line_deg ?? null}
          onChange={(line_deg) => line_deg >= 0 && line_deg < 360 && mine({ line_deg }, "the line of action")}
          onClear={() => beat.line_deg != null && mine({ line_deg: null }, "the line of action")}
        />
        <p className="flex flex-wrap gap-2">
          <button type="button" className="plain" disabled={at <= 0} onClick={() => move(-1)}>
            Earlier
          </button>
          <button type="button" className="plain" disabled={at >= film.length - 1} onClick={() => move(1)}>
            Later
          </button>
          <button
            type="button"
            className="plain text-muted"
            onClick={() => {
              put({ beats: film.filter((one) => one.id !== beat.id) }, "striking the beat");
              setOpen(false);
            }}
          >
            {hung ? "Strike it" : "Remove it"}
          </button>
        </p>
        {hung && (
          <p className="text-fine text-muted">Its framings and takes are kept, and it can be put back.</p>
        )}
      </div>
    </Panel>
  );
}

const of = (beat: Beat) => (beat.subjects ?? []).join(", ");
