// What holds for the whole day: its ends, windows that are typed in, ways between spots, minutes for changing over.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type DayRules, queries, type Shoot } from "../../api/client";
import { readNumber } from "../../parts/fields";
import { localTime, momentOf } from "../bench/when";
import { faultsOf } from "./files";

const MINUTES = [
  ["camera_change_min", "to another camera"],
  ["glass_change_min", "to change glass"],
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

function draftOf(rules: DayRules, zone: string): Draft {
  const local = (moment: string | null | undefined) => (moment ? localTime(moment, zone) : "");
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
      !window.name.trim() || !window.start || !window.end
        ? ["A window needs a name, a beginning and an end."]
        : window.end <= window.start
          ? [`${window.name} ends before it begins.`]
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
    ...(draft.earliest && draft.latest && draft.latest <= draft.earliest
      ? ["The day ends before it begins."]
      : []),
  ];
}

export function DayRulesForm({ shoot, rules }: { shoot: Shoot; rules: DayRules }) {
  const zone = shoot.zone ?? "UTC";
  const [draft, setDraft] = useState(() => draftOf(rules, zone));
  const [changed, setChanged] = useState(false);
  const wrong = wrongWith(draft);
  const keep = useMutation({
    mutationFn: () =>
      api.changeRules(shoot.id, {
        earliest: draft.earliest ? momentOf(draft.earliest, zone) : null,
        latest: draft.latest ? momentOf(draft.latest, zone) : null,
        windows: draft.windows.map((window) => ({
          name: window.name.trim(),
          start: momentOf(window.start, zone) ?? "",
          end: momentOf(window.end, zone) ?? "",
        })),
        ways: draft.ways.map((way) => ({
          between: [way.a.trim(), way.b.trim()] as [string, string],
          minutes: readNumber(way.minutes) ?? 0,
        })),
        ...(Object.fromEntries(
          MINUTES.map(([name]) => [name, readNumber(draft.minutes[name]) ?? 0]),
        ) as Record<(typeof MINUTES)[number][0], number>),
      }),
    onSuccess: () => {
      setChanged(false);
      queries.invalidateQueries({ queryKey: ["asked", shoot.id] });
    },
  });
  const put = (part: Partial<Draft>) => {
    setDraft({ ...draft, ...part });
    setChanged(true);
  };
  const day = shoot.day ?? "";
  return (
    <form
      aria-label="The day"
      className="pt-7"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong.length === 0) keep.mutate();
      }}
    >
      <h3 className="border-ink border-b pb-1 font-serif text-[17px] font-semibold">
        What holds for the day
      </h3>
      <div className="grid gap-x-10 gap-y-4 pt-2 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)_minmax(0,1fr)]">
        <fieldset>
          <legend className="font-serif text-[14.5px] italic text-muted">
            windows, such as slack water or an opening
          </legend>
          {draft.windows.map((window, n) => {
            const change = (part: Partial<typeof window>) =>
              put({ windows: draft.windows.map((other, m) => (m === n ? { ...other, ...part } : other)) });
            return (
              <div key={n} className="flex items-end gap-2 border-hair border-b py-[5px]">
                <Field label="name" value={window.name} onChange={(name) => change({ name })} />
                <Field
                  label="from"
                  type="datetime-local"
                  value={window.start}
                  onChange={(start) => change({ start })}
                />
                <Field
                  label="to"
                  type="datetime-local"
                  value={window.end}
                  onChange={(end) => change({ end })}
                />
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
                windows: [
                  ...draft.windows,
                  { name: "", start: day && `${day}T12:00`, end: day && `${day}T13:00` },
                ],
              })
            }
          >
            Add a window
          </button>
        </fieldset>
        <fieldset>
          <legend className="font-serif text-[14.5px] italic text-muted">ways between spots</legend>
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
        <fieldset>
          <legend className="font-serif text-[14.5px] italic text-muted">minutes, and the day’s ends</legend>
          {MINUTES.map(([name, says]) => (
            <label
              key={name}
              className="flex items-center justify-between gap-3 border-hair border-b py-[3px] text-[13.5px]"
            >
              {says}
              <input
                className="field min-h-[28px] w-[72px] py-0 text-right"
                inputMode="decimal"
                value={draft.minutes[name]}
                onChange={(event) => put({ minutes: { ...draft.minutes, [name]: event.target.value } })}
              />
            </label>
          ))}
          <div className="flex gap-2 pt-1">
            <Field
              label="not before"
              type="datetime-local"
              value={draft.earliest}
              onChange={(earliest) => put({ earliest })}
            />
            <Field
              label="over by"
              type="datetime-local"
              value={draft.latest}
              onChange={(latest) => put({ latest })}
            />
          </div>
        </fieldset>
      </div>
      {changed && wrong.length > 0 && (
        <p role="alert" className="pt-2 text-note">
          {[...new Set(wrong)].join(" ")}
        </p>
      )}
      {keep.error && (
        <p role="alert" className="pt-2 text-note">
          Not kept; what you typed is still here. {faultsOf(keep.error)}
        </p>
      )}
      <p className="flex items-center gap-3 pt-3">
        <button
          type="submit"
          className="bold-plain disabled:opacity-45"
          disabled={!changed || keep.isPending || wrong.length > 0}
        >
          Keep the day
        </button>
        {changed && (
          <button
            type="button"
            className="plain"
            onClick={() => {
              setDraft(draftOf(rules, zone));
              setChanged(false);
            }}
          >
            Leave it as it was
          </button>
        )}
        {!changed && keep.isSuccess && <span role="status">Kept.</span>}
      </p>
    </form>
  );
}

type FieldProps = {
  label: string;
  value: string;
  type?: string;
  narrow?: boolean;
  onChange: (value: string) => void;
};

function Field({ label, value, type = "text", narrow, onChange }: FieldProps) {
  return (
    <label className={`text-[12px] text-muted ${narrow ? "w-[58px]" : "min-w-0 flex-1"}`}>
      {label}
      <input
        className="field min-h-[30px] px-1 py-0 text-[13.5px] text-ink"
        type={type}
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
