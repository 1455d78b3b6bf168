// One framing at the side: its sun and shadow, what can be changed of it, and the way to its shot.
import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { dayApi } from "../../../api/day";
import { changed, inTurn } from "../../../api/keys";
import {
  type FilmOut,
  type Framing,
  type FramingFacts,
  type FramingWords,
  type Story,
  storyApi,
} from "../../../api/story";
import type { Shoot } from "../../../api/types";
import type { History } from "../../../changes/history";
import { Met } from "../../../changes/met";
import { refusalWords } from "../../../changes/refusals";
import { useChanges } from "../../../changes/use-changes";
import { ClockField, Line, NumberField, RangeField, SelectField, Tick } from "../../../parts/fields";
import type { Gone } from "../../../parts/gone";
import { localTime, momentOf } from "../../bench/when";
import { Joins, Movement } from "./framing-moves";
import { Sun } from "./framing-sun";

type Props = {
  told: FramingFacts;
  words: FramingWords | undefined;
  revision: number;
  out: FilmOut;
  story: Story;
  shoot: Shoot;
  history: History;
  onGone: (gone: Gone) => void;
};

// What of a framing stands in its shot's brief, by part and field.
const DISTANCE = "subject.distance_m";
const SELF_FRAMED = "camera_move.self_framed";

/** A change of the framing itself, and of its shot's brief. */
function apart(change: Record<string, unknown>) {
  const own: Record<string, unknown> = {};
  const brief: Record<string, Record<string, unknown>> = {};
  for (const [name, value] of Object.entries(change)) {
    const [part, field] = name.split(".");
    if (part && field) brief[part] = { ...brief[part], [field]: value };
    else own[name] = value;
  }
  return { own, brief };
}

export function FramingSide({ told, words, revision, out, story, shoot, history, onGone }: Props) {
  const zone = shoot.zone ?? "UTC";
  const {
    engine,
    now: framing,
    say,
  } = useChanges({
    place: `framing.${told.key}`,
    shown: {
      ...told.framing,
      [DISTANCE]: told.distance_m as [number, number],
      [SELF_FRAMED]: told.oneself !== null,
    },
    revision,
    send: (at, change) => {
      const { own, brief } = apart(change);
      return storyApi.changeFraming(told.key, at, own, brief);
    },
    reread: changed.story,
    history,
  });
  /** A change of the framing, or of what of it stands in its shot's brief, that can be had back. */
  const put = (change: Partial<typeof framing>, says: string) => void say(change, { says });
  const mine = out.film.told.framings
    .filter((one) => one.framing.beat === framing.beat)
    .map((one) => one.key);
  const at = mine.indexOf(told.key);
  const move = useMutation({
    ...inTurn("order", out.id),
    mutationFn: (order: string[]) => storyApi.place(out.id, { [framing.beat]: order }),
    onSuccess: changed.story,
  });
  const shift = (by: number) => {
    const next = [...mine];
    next.splice(at, 1);
    next.splice(at + by, 0, told.key);
    history.record({ says: "the order", tag: null, back: () => move.mutate(mine) });
    move.mutate(next);
  };
  const out_of = useMutation({
    mutationFn: () => storyApi.unframe(told.key),
    onSuccess: () => {
      onGone({
        says: `“${told.title}” is out of the film; it stays in the day.`,
        back: () => storyApi.frame(told.key, told.framing),
      });
      return changed.story();
    },
  });
  const day =
    (told.starts_at ? localTime(told.starts_at, zone).slice(0, 10) : shoot.day) ??
    localTime(new Date().toISOString(), zone).slice(0, 10);
  const start = useMutation({
    mutationFn: (at: string | null) => dayApi.takeOrder(shoot.id, { [told.key]: at }),
    onSuccess: ({ before }) => {
      const was = (before as Record<string, string | null>)[told.key] ?? null;
      history.record({
        tag: null,
        says: "the start",
        back: () => dayApi.takeOrder(shoot.id, { [told.key]: was }).then(changed.story),
      });
      return changed.story();
    },
  });
  const kind = story.kinds.find((one) => one.id === framing.kind);
  const wish = story.words.light ?? {};
  return (
    <section aria-label={`Framing ${words?.number}`}>
      <h3 className="flex items-baseline gap-2 border-ink border-b pb-1 font-serif text-title font-semibold">
        Framing {words?.number} at
        <ClockField
          label={`Framing ${words?.number}, start`}
          className="start-field"
          value={told.starts_at ? localTime(told.starts_at, zone).slice(11) : ""}
          onChange={(time) => time !== "" && start.mutate(momentOf(`${day}T${time}`, zone))}
        />
      </h3>
      <p className="pt-1 text-body font-bold">{told.title}</p>
      <p className="text-small text-muted">{kind?.says}</p>
      <p className="flex flex-wrap gap-x-4 pt-1 text-small">
        <Link className="underline decoration-deep underline-offset-2" to={`/shots/${told.key}`}>
          bench
        </Link>
        <Link className="underline decoration-deep underline-offset-2" to={`/shots/${told.key}/card`}>
          card
        </Link>
        <Link className="underline decoration-deep underline-offset-2" to={`/shots/${told.key}/look`}>
          look
        </Link>
        <span className="text-muted">{told.camera}</span>
      </p>
      <p className="min-h-[20px] text-small">
        <Met engine={engine} />
        {(out_of.error || move.error || start.error) && (
          <b role="alert" className="text-note">
            {refusalWords((out_of.error ?? move.error ?? start.error) as Error)}
          </b>
        )}
      </p>
      <Sun
        told={told}
        heading={framing.heading_deg ?? null}
        shoot={shoot}
        turn={(heading_deg) => put({ heading_deg }, "the heading")}
        known={story.where_known}
      />
      {words?.minds.map((mind) => (
        <p key={mind} className="pt-1 text-small font-bold text-note first-letter:uppercase">
          {mind}.
        </p>
      ))}
      {words?.says.map((line) => (
        <p key={line} className="pt-1 text-small leading-snug first-letter:uppercase">
          {line}
        </p>
      ))}
      <div className="grid gap-3 pt-4">
        <SelectField
          label="Kind"
          value={framing.kind ?? "medium"}
          options={story.kinds.map((one) => [one.id, one.name])}
          onChange={(value) => put({ kind: value as Framing["kind"] }, "the kind")}
        />
        <div className="flex gap-3">
          <NumberField
            late
            label="Stands for"
            unit="cuts"
            value={framing.units ?? 1}
            onChange={(units) => units >= 1 && put({ units: Math.round(units) }, "the length")}
          />
          <NumberField
            late
            label="Cut in"
            unit="times"
            value={framing.uses ?? 1}
            onChange={(uses) => uses >= 1 && put({ uses: Math.round(uses) }, "how often")}
          />
        </div>
        <RangeField
          late
          labels={["From", "to"]}
          unit="m"
          value={framing[DISTANCE]}
          onChange={(distance_m) => put({ [DISTANCE]: distance_m }, "the distance")}
        />
        <SelectField
          label="Light that is wanted"
          value={framing.light ?? ""}
          options={[["", "any"], ...Object.entries(wish)]}
          onChange={(value) => put({ light: (value || null) as Framing["light"] }, "the light")}
        />
        <Movement framing={framing} names={story.words.movement ?? {}} put={put} />
        <details>
          <summary className="text-small text-muted">More of this framing</summary>
          <div className="grid gap-3 pt-2">
            <Line
              label="Of whom or what"
              value={framing.subject ?? ""}
              keep={(subject) => put({ subject }, "the subject")}
            />
            <SelectField
              label="It shows"
              value={framing.figure ?? "person"}
              options={Object.entries(story.words.figure ?? {})}
              onChange={(value) => put({ figure: value as Framing["figure"] }, "what it shows")}
            />
            <SelectField
              label="It goes through the frame"
              value={framing.runs ?? ""}
              options={[
                ["", told.runs ? `as it follows: ${story.words.runs?.[told.runs]}` : "not said"],
                ...Object.entries(story.words.runs ?? {}),
              ]}
              onChange={(value) => put({ runs: (value || null) as Framing["runs"] }, "the direction")}
            />
            <div className="flex gap-3">
              <NumberField
                late
                label="From where round it"
                unit="°"
                value={framing.from_deg ?? null}
                onChange={(from_deg) => Math.abs(from_deg) <= 180 && put({ from_deg }, "the angle")}
                onClear={() => framing.from_deg != null && put({ from_deg: null }, "the angle")}
              />
              <NumberField
                late
                label="Stands, −1 left to 1 right"
                unit=""
                value={framing.across ?? 0}
                onChange={(across) => Math.abs(across) <= 1 && put({ across }, "where it stands")}
              />
            </div>
            <div className="flex gap-3">
              <NumberField
                late
                label="Camera above the ground"
                unit="m"
                value={framing.camera_m ?? null}
                onChange={(camera_m) => camera_m > 0 && put({ camera_m }, "the height")}
                onClear={() => framing.camera_m != null && put({ camera_m: null }, "the height")}
              />
              <NumberField
                late
                label="In front, at"
                unit="m"
                value={framing.foreground_m ?? null}
                onChange={(foreground_m) => foreground_m > 0 && put({ foreground_m }, "the foreground")}
                onClear={() => framing.foreground_m != null && put({ foreground_m: null }, "the foreground")}
              />
            </div>
            <Tick
              says="one films oneself"
              checked={framing[SELF_FRAMED]}
              onChange={(self_framed) => put({ [SELF_FRAMED]: self_framed }, "filming oneself")}
            />
            {told.oneself && (
              <NumberField
                late
                label="Delay of the timer"
                unit="s"
                value={framing.timer_s ?? null}
                onChange={(timer_s) => put({ timer_s }, "the timer")}
                onClear={() => framing.timer_s != null && put({ timer_s: null }, "the timer")}
              />
            )}
            <Line
              label="Wears"
              value={framing.wears ?? ""}
              keep={(wears) => put({ wears }, "what is worn")}
            />
            <Joins framing={framing} names={story.words.join ?? {}} put={put} />
            <SelectField
              label="Beat"
              value={framing.beat}
              options={(out.film.told.film.beats ?? []).map((one) => [one.id, one.title])}
              onChange={(beat) => put({ beat, place: 1000 }, "the beat")}
            />
          </div>
        </details>
        <p className="flex flex-wrap gap-2">
          <button type="button" className="plain" disabled={at <= 0} onClick={() => shift(-1)}>
            Earlier
          </button>
          <button
            type="button"
            className="plain"
            disabled={at < 0 || at >= mine.length - 1}
            onClick={() => shift(1)}
          >
            Later
          </button>
          <button
            type="button"
            className="plain text-muted"
            disabled={out_of.isPending}
            onClick={() => out_of.mutate()}
          >
            Out of the film
          </button>
        </p>
      </div>
    </section>
  );
}
