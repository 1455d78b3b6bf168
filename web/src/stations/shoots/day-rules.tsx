// What holds for the whole day: its ends, windows that are typed in, ways between spots, minutes for changing over.

import { useRef, useState } from "react";
import { dayApi } from "../../api/day";
import { changed } from "../../api/keys";
import type { DayRules, Shoot } from "../../api/types";
import { differing } from "../../changes/fields";
import { useChanges } from "../../changes/use-changes";
import { readNumber } from "../../parts/reading";
import { localTime, momentOf } from "../bench/when";

const MINUTES = [
  ["camera_change_min", "to another camera"],
  ["glass_change_min", "to change a filter"],
  ["housing_min", "to open or close a housing"],
  ["battery_min", "to change a cell"],
  ["usual_way_min", "between two spots, if not said"],
] as const;

type Draft = {
  earliest: string;
  latest: string;
  windows: { name: string; start: string; end: string }[];
  ways: { a: string; b: string; minutes: string }[];
  minutes: Record<(typeof MINUTES)[number][0], string>;
};

/** A time of day as people write it, 9:30 or 09:30. Null where it is none. */
function clockOf(text: string): string | null {
  const found = text.trim().match(/^(\d{1,2})[:.](\d{2})$/);
  if (!found || Number(found[1]) > 23 || Number(found[2]) > 59) return null;
  return `${found[1]?.padStart(2, "0")}:${found[2]}`;
}

/** The day after one such as 2026-10-11. */
function nextDay(day: string): string {
  return new Date(new Date(`${day}T00:00:00Z`).getTime() + 86_400_000).toISOString().slice(0, 10);
}

/** From and to on a day; what ends before it begins ends on the next. */
function spanOf(day: string, from: string, to: string, zone: string): [string, string] {
  const [a, b] = [clockOf(from) ?? "00:00", clockOf(to) ?? "00:00"];
  return [momentOf(`${day}T${a}`, zone) ?? "", momentOf(`${b <= a ? nextDay(day) : day}T${b}`, zone) ?? ""];
}

function draftOf(rules: DayRules, zone: string): Draft {
  const local = (moment: string | null | undefined) => (moment ? localTime(moment, zone).slice(11) : "");
  return {
    earliest: local(rules.earliest),
    latest: local(rules.latest),
    windows: (rules.windows ?? []).map((window) => ({
      name: window.name,
      start: local(window.start),
      end: local(window.end),
    })),
    ways: (rules.ways ?? []).map((way) => ({
      a: way.between[0] as string,
      b: way.between[1] as string,
      minutes: String(way.minutes),
    })),
    minutes: Object.fromEntries(
      MINUTES.map(([name]) => [name, String(rules[name] ?? 0)]),
    ) as Draft["minutes"],
  };
}

/** What is wrong with a draft, in words; empty where nothing is. */
function wrongWith(draft: Draft): string[] {
  return [
    ...draft.windows.flatMap((window) =>
      !window.name.trim() || clockOf(window.start) === null || clockOf(window.end) === null
        ? ["A window needs a name, and times such as 12:20."]
        : [],
    ),
    ...draft.ways.flatMap((way) =>
      !way.a.trim() || !way.b.trim() || readNumber(way.minutes) === null
        ? ["A way needs two spots and its minutes."]
        : [],
    ),
    ...MINUTES.flatMap(([name, says]) =>
      readNumber(draft.minutes[name]) === null ? [`Give a number of minutes ${says}.`] : [],
    ),
    ...[draft.earliest, draft.latest].flatMap((text) =>
      text.trim() && clockOf(text) === null
        ? ["Write the day’s ends such as 04:30, or leave them empty."]
        : [],
    ),
  ];
}

type Props = {
  shoot: Shoot;
  rules: DayRules;
  revision: number;
  day: string;
  /** Whoever looks for an order waits for what was said. */
  wait: (said: Promise<unknown>) => void;
};

const PAUSE_MS = 700;

/** What holds for the day, kept as soon as it is typed. */
export function DayRulesForm({ shoot, rules, revision, day, wait }: Props) {
  const zone = shoot.zone ?? "UTC";
  const { preset_names: _, ...shown } = rules;
  const { engine, say, status } = useChanges<Record<string, unknown>>({
    place: `rules.${shoot.id}`,
    shown,
    revision,
    send: (madeOn, change) => dayApi.changeRules(shoot.id, madeOn, change),
    reread: () => changed.rules(shoot.id),
    pauseMs: PAUSE_MS,
  });
  const standing = () => draftOf({ ...rules, ...engine.now } as DayRules, zone);
  const [draft, setDraft] = useState(standing);
  const said = useRef(draft); // the last that was right: a change is what differs from it
  const wrong = wrongWith(draft);
  const rulesOf = (draft: Draft): Omit<DayRules, "preset_names"> => ({
    earliest: draft.earliest ? spanOf(day, draft.earliest, "23:59", zone)[0] : null,
    latest: draft.latest ? spanOf(day, draft.earliest || "04:00", draft.latest, zone)[1] : null,
    windows: draft.windows.map((window) => {
      const [start, end] = spanOf(day, window.start, window.end, zone);
      return { name: window.name.trim(), start, end };
    }),
    ways: draft.ways.map((way) => ({
      between: [way.a.trim(), way.b.trim()] as [string, string],
      minutes: readNumber(way.minutes) ?? 0,
    })),
    ...(Object.fromEntries(MINUTES.map(([name]) => [name, readNumber(draft.minutes[name]) ?? 0])) as Record<
      (typeof MINUTES)[number][0],
      number
    >),
  });
  const put = (part: Partial<Draft>) => {
    const next = { ...draft, ...part };
    setDraft(next);
    // What is wrong is not said before it is mended; the last that was right stands.
    if (wrongWith(next).length > 0) return;
    wait(say(differing(rulesOf(said.current), rulesOf(next))));
    said.current = next;
  };
  /** The form as it stands, after something else than typing. */
  const show = () => {
    said.current = standing();
    setDraft(said.current);
  };
  return (
    <form
      aria-label="The day"
      className="pt-7"
      onSubmit={(event) => {
        event.preventDefault();
        void engine.flush();
      }}
      onBlur={() => void engine.flush()}
    >
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">What holds for the day</h3>
      <div className="grid gap-x-10 gap-y-4 pt-2 lg:grid-cols-3">
        <fieldset className="min-w-0">
          <legend className="font-serif text-body italic text-muted">
            windows, such as slack water or an opening
          </legend>
          {draft.windows.map((window, n) => {
            const change = (part: Partial<typeof window>) =>
              put({ windows: draft.windows.map((other, m) => (m === n ? { ...other, ...part } : other)) });
            return (
              <div key={n} className="flex items-end gap-2 border-hair border-b py-[5px]">
                <Field label="name" value={window.name} onChange={(name) => change({ name })} />
                <Field label="from" clock value={window.start} onChange={(start) => change({ start })} />
                <Field label="to" clock value={window.end} onChange={(end) => change({ end })} />
                <Drop
                  label={`Remove ${window.name || "this window"}`}
                  onClick={() => put({ windows: draft.windows.filter((_, m) => m !== n) })}
                />
              </div>
            );
          })}
          <button
            type="button"
            className="plain mt-2"
            onClick={() =>
              put({
                windows: [...draft.windows, { name: "", start: "12:00", end: "13:00" }],
              })
            }
          >
            Add a window
          </button>
        </fieldset>
        <fieldset className="min-w-0">
          <legend className="font-serif text-body italic text-muted">ways between spots</legend>
          {draft.ways.map((way, n) => {
            const change = (part: Partial<typeof way>) =>
              put({ ways: draft.ways.map((other, m) => (m === n ? { ...other, ...part } : other)) });
            return (
              <div key={n} className="flex items-end gap-2 border-hair border-b py-[5px]">
                <Field label="from" value={way.a} onChange={(a) => change({ a })} />
                <Field label="to" value={way.b} onChange={(b) => change({ b })} />
                <Field label="min" narrow value={way.minutes} onChange={(minutes) => change({ minutes })} />
                <Drop
                  label={`Remove the way from ${way.a} to ${way.b}`}
                  onClick={() => put({ ways: draft.ways.filter((_, m) => m !== n) })}
                />
              </div>
            );
          })}
          <button
            type="button"
            className="plain mt-2"
            onClick={() => put({ ways: [...draft.ways, { a: "", b: "", minutes: "10" }] })}
          >
            Add a way
          </button>
        </fieldset>
        <fieldset className="min-w-0">
          <legend className="font-serif text-body italic text-muted">minutes, and the day’s ends</legend>
          {MINUTES.map(([name, says]) => (
            <label
              key={name}
              className="flex items-center justify-between gap-3 border-hair border-b py-[3px] text-small"
            >
              {says}
              <input
                className="min-h-[28px] w-[72px] flex-none border border-muted px-2 text-right text-body"
                inputMode="decimal"
                value={draft.minutes[name]}
                onChange={(event) => put({ minutes: { ...draft.minutes, [name]: event.target.value } })}
              />
            </label>
          ))}
          <div className="flex gap-2 pt-1">
            <Field
              label="not before"
              clock
              value={draft.earliest}
              onChange={(earliest) => put({ earliest })}
            />
            <Field label="over by" clock value={draft.latest} onChange={(latest) => put({ latest })} />
          </div>
        </fieldset>
      </div>
      {wrong.length > 0 && (
        <p role="alert" className="pt-2 text-note">
          {[...new Set(wrong)].join(" ")}
        </p>
      )}
      {(engine.meeting || "why" in status) && (
        <p role="alert" className="pt-2 text-note">
          Not kept; what you typed is still here. {engine.meeting?.says ?? ("why" in status && status.why)}
        </p>
      )}
      <p className="max-w-[640px] pt-3 text-fine text-muted">
        Times are the place’s own. What ends before it begins ends on the next day. Left empty, the day runs
        from four in the morning until eight the next.
      </p>
      <p className="flex min-h-[40px] items-center gap-3 pt-3" role="status">
        {engine.meeting ? (
          <>
            <button type="button" className="bold-plain" onClick={() => void engine.keepMine()}>
              Keep mine
            </button>
            <button
              type="button"
              className="plain"
              onClick={() => {
                engine.takeTheirs();
                show();
              }}
            >
              Take theirs
            </button>
          </>
        ) : (
          { saving: "Keeping.", saved: "Kept." }[status.kind as string]
        )}
        {engine.history.canUndo && status.kind === "saved" && (
          <button
            type="button"
            className="underline"
            onClick={() => {
              engine.undo();
              show();
            }}
          >
            undo
          </button>
        )}
      </p>
    </form>
  );
}

type FieldProps = {
  label: string;
  value: string;
  narrow?: boolean;
  clock?: boolean;
  onChange: (value: string) => void;
};

function Field({ label, value, narrow, clock, onChange }: FieldProps) {
  return (
    <label className={`text-fine text-muted ${narrow ? "w-[58px]" : clock ? "w-[72px]" : "min-w-0 flex-1"}`}>
      {label}
      <input
        className="field min-h-[30px] px-1 py-0 text-small text-ink"
        placeholder={clock ? "hh:mm" : undefined}
        maxLength={60}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

function Drop({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button
      type="button"
      className="h-[30px] flex-none px-1 text-muted hover:text-ink"
      aria-label={label}
      onClick={onClick}
    >
      ×
    </button>
  );
}
