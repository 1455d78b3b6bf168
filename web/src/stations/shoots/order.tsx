// The order of the day: what the shots ask, the search, and taking what it found.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { dayApi, dayAskedQuery } from "../../api/day";
import { changed } from "../../api/keys";
import type { DayAsked, DayOrder, OrderLine, Shoot, ShotLine, ShotWishes, Summary } from "../../api/types";
import { Met } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { clock, stops } from "../../parts/words";
import { localTime } from "../bench/when";
import { DayRulesForm } from "./day-rules";

export default function Order({ shoot, lines }: { shoot: Shoot; lines: ShotLine[] }) {
  const asked = useQuery(dayAskedQuery(shoot.id));
  // Wishes are handed over one after the other, and a search waits for the last of them.
  const handing = useRef<Promise<unknown>>(Promise.resolve());
  if (asked.error && !asked.data) return <Trouble error={asked.error} retry={() => asked.refetch()} />;
  if (!asked.data) return <Loading what="Loading the rules of the day." className="py-4" />;
  const wait = (said: Promise<unknown>) => {
    handing.current = Promise.all([handing.current, said]);
  };
  return (
    <>
      <Finder shoot={shoot} lines={lines} ready={() => handing.current} />
      <Wishes shoot={shoot} lines={lines} asked={asked.data} wait={wait} />
      <DayRulesForm
        shoot={shoot}
        rules={asked.data.rules}
        revision={asked.data.revision}
        day={dayOf(shoot, lines)}
        wait={wait}
      />
    </>
  );
}

/** The day that times are meant on: the shoot's, or its first shot's, or today. */
function dayOf(shoot: Shoot, lines: ShotLine[]): string {
  const first = lines.find((line) => line.starts_at)?.starts_at;
  return shoot.day ?? localTime(first ?? new Date().toISOString(), shoot.zone ?? "UTC").slice(0, 10);
}

type Search = { line: OrderLine | null; began: number } | null;

type FinderProps = { shoot: Shoot; lines: ShotLine[]; ready: () => Promise<unknown> };

function Finder({ shoot, lines, ready }: FinderProps) {
  const [search, setSearch] = useState<Search>(null);
  const [found, setFound] = useState<DayOrder | null>(null);
  const [trouble, setTrouble] = useState<Error | null>(null);
  const [taken, setTaken] = useState<Record<string, string | null> | null>(null);
  const cancel = useRef<AbortController | null>(null);
  const zone = shoot.zone ?? "UTC";
  useEffect(() => () => cancel.current?.abort(), []);
  const look = async () => {
    const control = new AbortController();
    cancel.current = control;
    setFound(null);
    setTrouble(null);
    setTaken(null);
    setSearch({ line: null, began: Date.now() });
    try {
      await ready();
      await dayApi.findOrder(shoot.id, control.signal, (line) => {
        if (line.kind === "order") setFound(line.order ?? null);
        else if (line.kind === "problem") setTrouble(new Error(line.problem ?? "It could not be ordered."));
        else setSearch((now) => now && { ...now, line });
      });
    } catch (error) {
      if (!control.signal.aborted) setTrouble(error as Error);
    }
    setSearch(null);
  };
  const left = found ? [...found.left_out_says, found.unseen_says].filter(Boolean) : [];
  const take = async (starts: Record<string, string | null>, undoing: boolean) => {
    try {
      const { before } = await dayApi.takeOrder(shoot.id, starts);
      setTaken(undoing ? null : (before as Record<string, string | null>));
      changed.everything();
    } catch (error) {
      setTrouble(error as Error);
    }
  };
  return (
    <section aria-label="Order" className="pt-4">
      <div className="flex flex-wrap items-center gap-4">
        <button
          type="button"
          className="bold-plain"
          disabled={search !== null || lines.length === 0}
          onClick={() => void look()}
        >
          Find the order
        </button>
        {search ? (
          <>
            <p role="status" className="flex-1">
              {progress(search.line)}
            </p>
            <button type="button" className="plain" onClick={() => cancel.current?.abort()}>
              Cancel
            </button>
          </>
        ) : (
          !found && (
            <p className="text-muted">
              It looks for up to ten seconds for the day that gives up least. Nothing moves before you take
              it.
            </p>
          )
        )}
      </div>
      {trouble && <Trouble error={trouble} retry={() => void look()} />}
      {found && !found.feasible && (
        <div role="alert" className="lost-edge mt-4 max-w-[760px] py-1 pl-6">
          {found.clash.length > 0 ? (
            <>
              <p className="font-bold text-note">
                {found.clash.length === 1 ? "This cannot be had:" : "These cannot all be had:"}
              </p>
              <ul>
                {found.says.map((wish) => (
                  <li key={wish}>{wish}</li>
                ))}
              </ul>
              <p className="pt-1 text-muted">
                Take one of them back below, or make one a wish instead of a must. A shot’s light counts
                unless you ask for another hour.
              </p>
            </>
          ) : (
            <p>No order was found in the time. Take a must back, or try again.</p>
          )}
        </div>
      )}
      {found?.feasible && (
        <>
          <p role="status" className="pt-4 font-serif text-lead">
            Gives up {stops(found.given_up_stops ?? 0)} stops.{" "}
            {found.proven
              ? "No order gives up less: that is proven."
              : `The search was not finished; none can give up less than ${stops(found.at_least_stops ?? 0)}.`}
          </p>
          {left.length > 0 && (
            <div role="alert" className="my-2 max-w-[760px] border-note border-l-3 pl-3">
              {found.left_out_says.length > 0 && <p className="font-bold text-note">Not placed:</p>}
              <ul>
                {left.map((why) => (
                  <li key={why}>{why}</li>
                ))}
              </ul>
            </div>
          )}
          <table className="mt-1 w-full max-w-[980px] border-collapse text-left">
            <thead>
              <tr className="border-ink border-b text-fine text-muted [&>th]:pb-1 [&>th]:font-normal">
                <th className="w-[150px]">from, to</th>
                <th className="w-[260px]">shot</th>
                <th className="w-[170px]">against now</th>
                <th>before it</th>
              </tr>
            </thead>
            <tbody>
              {found.shots.map((shot) => (
                <tr key={shot.key} className="border-hair border-b [&>td]:py-[6px]">
                  <td>
                    <b>{clock(shot.starts_at, zone)}</b>
                    <span className="text-muted"> to {clock(shot.ends_at, zone)}</span>
                  </td>
                  <td className="font-bold">{shot.title}</td>
                  <td className={shot.moved_min ? "" : "text-muted"}>{moved(shot.moved_min)}</td>
                  <td className="text-small text-muted">
                    {[
                      shot.on_the_way_min > 0 && `${shot.on_the_way_min}\u202fmin on the way`,
                      shot.change_min > 0 && `${shot.change_min}\u202fmin for filter or housing`,
                      shot.missed_window && "outside its wished window",
                      shot.missed_light && "fixed at an hour that does not have its light",
                      (shot.light_stops ?? 0) >= 0.05 &&
                        `${stops(shot.light_stops ?? 0)} stops of light given up`,
                    ]
                      .filter(Boolean)
                      .join(", ")}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="flex items-center gap-4 pt-3">
            {taken ? (
              <>
                <span role="status">The day is in this order now.</span>
                <button type="button" className="plain" onClick={() => void take(taken, true)}>
                  Take it back
                </button>
              </>
            ) : (
              <button
                type="button"
                className="bold-plain"
                onClick={() =>
                  void take(Object.fromEntries(found.shots.map((shot) => [shot.key, shot.starts_at])), false)
                }
              >
                Take this order
              </button>
            )}
          </p>
        </>
      )}
    </section>
  );
}

function progress(line: OrderLine | null): string {
  if (line?.kind === "waiting")
    return line.done === 1
      ? "Another order is being looked for; yours is next."
      : `${line.done} others are before; yours waits.`;
  if (line?.kind === "pricing")
    return `Asking the planner what the light of each hour costs: ${line.done} of ${line.total}.`;
  if (line?.kind === "better" && line.progress) {
    const { elapsed_s, given_up_stops, at_least_stops, solutions } = line.progress;
    return `${elapsed_s.toFixed(0)}\u202fs: ${solutions} better orders, the best gives up ${stops(given_up_stops ?? 0)}; none less than ${stops(at_least_stops ?? 0)}.`;
  }
  return "Setting out the day.";
}

function moved(minutes: number | null): string {
  if (minutes === null) return "has no time yet";
  if (minutes === 0) return "as it stands";
  const [h, m] = [Math.floor(Math.abs(minutes) / 60), Math.abs(minutes) % 60];
  const long = [h && `${h}\u202fh`, m && `${m}\u202fmin`].filter(Boolean).join(" ");
  return `${long} ${minutes > 0 ? "later" : "earlier"}`;
}

type WishesProps = {
  shoot: Shoot;
  lines: ShotLine[];
  asked: DayAsked;
  wait: (said: Promise<unknown>) => void;
};

function Wishes({ shoot, lines, asked, wait }: WishesProps) {
  const windows: [string, string][] = [
    ...asked.rules.windows.map((window) => [window.name, window.name] as [string, string]),
    ...Object.entries(asked.light_windows),
    [ANY_TIME, "at any hour, whatever its light"],
  ];
  const spots = [
    ...new Set([
      ...Object.values(asked.wishes).map((wish) => wish.spot ?? ""),
      ...(asked.rules.ways ?? []).flatMap((way) => way.between),
    ]),
  ].filter(Boolean);
  return (
    <section aria-label="Wishes" className="pt-7">
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">What each shot asks</h3>
      <datalist id="spots">
        {spots.map((spot) => (
          <option key={spot} value={spot} />
        ))}
      </datalist>
      <div className="stack-host">
        <table className="stack w-full border-collapse text-left">
          <thead>
            <tr className="text-fine text-muted [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
              <th className="w-[58px]">now</th>
              <th className="w-[220px]">shot</th>
              <th className="w-[88px]">time fixed</th>
              <th className="w-[190px]">within</th>
              <th className="w-[96px]">must, wish</th>
              <th className="w-[120px]">spot</th>
              <th className="w-[96px]">set up, min</th>
              <th>needs nobody there</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => {
              const wishes = asked.wishes[line.id];
              return (
                wishes && (
                  <WishRow
                    key={line.id}
                    shoot={shoot}
                    line={line}
                    wishes={wishes}
                    revision={asked.wish_revisions[line.id] ?? 0}
                    windows={windows}
                    wait={wait}
                  />
                )
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}

type RowProps = {
  shoot: Shoot;
  line: ShotLine;
  wishes: ShotWishes;
  revision: number;
  windows: [string, string][];
  wait: WishesProps["wait"];
};

function WishRow({ shoot, line, wishes, revision, windows, wait }: RowProps) {
  const {
    engine,
    now: wish,
    say,
  } = useChanges({
    place: `wishes.${line.id}`,
    shown: wishes,
    revision,
    send: (madeOn, change) => dayApi.changeWishes(line.id, madeOn, change as Partial<ShotWishes>),
    reread: () => changed.rules(shoot.id),
  });
  const title = (line.summary as Summary).title;
  const put = (part: Partial<ShotWishes>) => wait(say(part));
  return (
    <tr className="border-hair border-t [&>td]:py-[5px] [&>td]:pr-3">
      <td>{line.starts_at ? clock(line.starts_at, shoot.zone ?? "UTC") : ""}</td>
      <td className="font-bold">
        {title} <Met engine={engine} />
      </td>
      <td data-label="time fixed">
        <Box
          label={`${title}: time fixed`}
          checked={wish.fixed ?? false}
          disabled={!line.starts_at}
          onChange={(fixed) => put({ fixed })}
        />
      </td>
      <td data-label="within">
        <Within
          title={title}
          chosen={wish.within ?? []}
          windows={windows}
          onChange={(within) => put({ within })}
        />
      </td>
      <td data-label={(wish.within ?? []).length > 0 ? "must, wish" : undefined}>
        {(wish.within ?? []).length > 0 && (
          <select
            className="field min-h-[30px] px-1 py-0"
            aria-label={`${title}: must or wish`}
            value={wish.must === false ? "wish" : "must"}
            onChange={(event) => put({ must: event.target.value === "must" })}
          >
            <option value="must">must</option>
            <option value="wish">wish</option>
          </select>
        )}
      </td>
      <td data-label="spot">
        <Typed
          label={`${title}: spot`}
          value={wish.spot ?? ""}
          list="spots"
          keep={(spot) => {
            put({ spot });
            return true;
          }}
        />
      </td>
      <td data-label="set up, min">
        <Typed
          label={`${title}: minutes to set up`}
          value={String(wish.setup_min ?? 5)}
          keep={(text) => {
            const minutes = Number(text.replace(",", "."));
            const good = text !== "" && Number.isFinite(minutes) && minutes >= 0 && minutes <= 1440;
            if (good) put({ setup_min: minutes });
            return good;
          }}
        />
      </td>
      <td data-label="needs nobody">
        <Box
          label={`${title}: needs nobody there`}
          checked={wish.attended === false}
          onChange={(alone) => put({ attended: !alone })}
        />
      </td>
    </tr>
  );
}

type BoxProps = { label: string; checked: boolean; disabled?: boolean; onChange: (on: boolean) => void };

function Box({ label, checked, disabled, onChange }: BoxProps) {
  return (
    <input
      type="checkbox"
      aria-label={label}
      disabled={disabled}
      className="border-[1.5px] [--tick:24px] disabled:border-rule"
      checked={checked}
      onChange={(event) => onChange(event.target.checked)}
    />
  );
}

type WithinProps = {
  title: string;
  chosen: string[];
  windows: [string, string][];
  onChange: (within: string[]) => void;
};

/** Asked for instead of a window, so that the light of the brief does not say the hour. */
const ANY_TIME = "any_time";

/** Windows that will do, each taken away by a click; one more is added from the list. */
function Within({ title, chosen, windows, onChange }: WithinProps) {
  const says = (name: string) => windows.find(([id]) => id === name)?.[1] ?? name;
  return (
    <span className="flex flex-wrap items-center gap-x-2">
      {chosen.map((name) => (
        <button
          key={name}
          type="button"
          className="border-deep border-b-[1.5px] text-left font-serif text-body italic hover:line-through"
          aria-label={`${title}: no longer ${says(name)}`}
          onClick={() => onChange(chosen.filter((other) => other !== name))}
        >
          {says(name)}
        </button>
      ))}
      <select
        className={`h-[28px] border-none bg-transparent text-small text-muted ${chosen.length ? "w-[46px]" : ""}`}
        aria-label={`${title}: ${chosen.length ? "or within" : "within"}`}
        value=""
        onChange={(event) => onChange([...chosen, event.target.value])}
      >
        <option value="">{chosen.length ? "or" : "as its light asks"}</option>
        {windows
          .filter(([id]) => !chosen.includes(id))
          .map(([id, text]) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
      </select>
    </span>
  );
}

type TypedProps = {
  label: string;
  value: string;
  list?: string;
  keep: (text: string) => boolean;
};

/** A field that is kept when one leaves it; what cannot be kept stays, marked. */
function Typed({ label, value, list, keep }: TypedProps) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState(false);
  useEffect(() => setText(value), [value]);
  const done = () => {
    if (text === value) setWrong(false);
    else setWrong(!keep(text.trim()));
  };
  return (
    <input
      className={`field min-h-[30px] py-0 ${wrong ? "border-note" : ""}`}
      aria-label={label}
      aria-invalid={wrong}
      maxLength={60}
      list={list}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => event.key === "Enter" && done()}
    />
  );
}
