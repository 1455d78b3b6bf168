// All takes by day, found by what they are of; what recurs among them stands at the top.
import { useQuery } from "@tanstack/react-query";
import { Fragment, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import {
  type Asked,
  FOUND_BY,
  type FoundBy,
  type Take,
  type Takes as TakesFound,
  takesQuery,
} from "../../api/log";
import type { Gone } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { NewTake } from "./new-take";
import { TakeOpen } from "./take-open";
import { dayOf, dayWords, lengthWords, timeOf } from "./words";

const LEADS: Record<FoundBy, [string, string]> = {
  shoot: ["of", "all shoots"],
  camera: ["on", "any camera"],
  scenario: ["as", "any kind of shot"],
  place: ["at", "any place"],
  mount: ["from", "any mount"],
  hands: ["by", "anybody"],
  fault: ["with", "any fault or none"],
  rating: ["rated", "anything"],
};
const SHOWN = 60;

export function Takes({ onGone }: { onGone: (gone: Gone) => void }) {
  const { takeId } = useParams();
  const navigate = useNavigate();
  const [asked, setAsked] = useState<Asked>({});
  const [adding, setAdding] = useState(false);
  // On a phone the sentence that finds takes is folded away.
  const [finding, setFinding] = useState(false);
  const [shown, setShown] = useState(SHOWN);
  const takes = useQuery(takesQuery(asked));
  const words = useRef<HTMLInputElement>(null);
  const items = takes.data?.items ?? [];
  const openAt = items.findIndex((take) => take.id === takeId);
  const ask = (by: keyof Asked, value: string) => {
    setShown(SHOWN);
    setAsked(({ [by]: _, ...rest }) => (value ? { ...rest, [by]: value } : rest));
  };
  const step = (by: number) => {
    const place = items.findIndex((take) => take.id === takeId);
    const next = items[Math.max(0, Math.min(items.length - 1, place + by))];
    if (next) navigate(`/log/takes/${next.id}`, { replace: true });
  };
  useShortcuts("log", (id) => {
    if (id === "log-next") step(1);
    else if (id === "log-before") step(-1);
    else if (id === "log-find") words.current?.focus();
    else return false;
    return true;
  });
  if (takes.error && !takes.data) return <Trouble error={takes.error} retry={() => takes.refetch()} />;
  if (!takes.data) return <Loading what="Loading takes." />;
  const found = takes.data;
  if (found.all === 0)
    return (
      <section className="max-w-[46rem] p-8 max-sm:px-4">
        <h2 className="pb-2 font-serif text-title">No take is logged yet.</h2>
        <p className="pb-4 leading-[1.5]">
          On the Card one thumb logs a take and says keep, maybe or no. Clips that Rushes measures are takes
          by themselves. From three on the Log says what recurs, and what your numbers are.
        </p>
        <NewTake open={adding} setOpen={setAdding} people={found.people} />
      </section>
    );
  return (
    <section className="min-w-0 pb-8" aria-label="Takes">
      <Recurring found={found} ask={ask} />
      <div className="px-6 pt-3 max-sm:px-4">
        <p className="flex flex-wrap items-baseline gap-x-[6px] gap-y-1 font-serif text-lead leading-[1.7]">
          <b>
            {found.total === found.all ? found.all : `${found.total} of ${found.all}`}{" "}
            {found.total === 1 ? "take" : "takes"}
          </b>
          <button
            type="button"
            className="min-h-8 font-sans text-small text-muted underline sm:hidden"
            aria-expanded={finding}
            onClick={() => setFinding(!finding)}
          >
            {finding ? "fold" : "find some of them"}
          </button>
          {FOUND_BY.filter((by) => (found.choices[by] ?? []).length > 0).map((by) => (
            <Finder
              key={by}
              by={by}
              found={found}
              value={asked[by] ?? ""}
              ask={ask}
              folded={!finding && !asked[by]}
            />
          ))}
          <label className={finding || asked.words ? "" : "max-sm:hidden"}>
            {"telling of "}
            <input
              ref={words}
              className="w-32 border-deep border-b-[1.5px] bg-transparent px-1 italic"
              placeholder="any words"
              aria-label="Words that a take tells of"
              maxLength={200}
              value={asked.words ?? ""}
              onChange={(event) => ask("words", event.target.value)}
            />
          </label>
          {Object.keys(asked).length > 0 && (
            <button
              type="button"
              className="font-sans text-small text-muted underline"
              onClick={() => setAsked({})}
            >
              all of them
            </button>
          )}
        </p>
        <NewTake open={adding} setOpen={setAdding} people={found.people} />
        {found.total === 0 && <p className="pt-4 text-muted">No take is like that. Ask for less of them.</p>}
        <Days
          items={items.slice(0, Math.max(shown, openAt + 10))}
          openId={takeId}
          found={found}
          choose={(id) => navigate(id ? `/log/takes/${id}` : "/log", { replace: true })}
          onGone={onGone}
        />
        {shown < items.length && (
          <button type="button" className="plain mt-4" onClick={() => setShown(shown + 2 * SHOWN)}>
            Earlier takes
          </button>
        )}
        {shown >= items.length && items.length < found.total && (
          <p className="pt-4 text-muted">
            The newest {items.length} are shown. Ask for a shoot or a person to see earlier ones.
          </p>
        )}
      </div>
    </section>
  );
}

function Recurring({ found, ask }: { found: TakesFound; ask: (by: keyof Asked, value: string) => void }) {
  if (found.recurring.length === 0) return null;
  return (
    <section aria-label="What recurs" className="border-rule border-b bg-shoal px-6 pt-3 pb-3 max-sm:px-4">
      <h2 className="font-serif text-body italic text-muted">What recurs</h2>
      <ul className="grid gap-x-8 lg:grid-cols-2">
        {found.recurring.slice(0, 4).map((one, place) => (
          <li key={`${one.fault}${one.by}${one.of}`} className="border-hair border-b py-[5px]">
            <button
              type="button"
              className="text-left hover:underline"
              onClick={() => {
                if ((FOUND_BY as readonly string[]).includes(one.by)) ask(one.by as FoundBy, one.of);
                ask("fault", one.fault);
              }}
            >
              <span className={place === 0 ? "font-serif text-title leading-[1.35]" : "font-bold"}>
                {one.says}
              </span>
            </button>
            <span className="block text-fine text-muted">{one.more}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

type FinderProps = {
  by: FoundBy;
  found: TakesFound;
  value: string;
  ask: (by: keyof Asked, value: string) => void;
  folded: boolean;
};

function Finder({ by, found, value, ask, folded }: FinderProps) {
  const [lead, all] = LEADS[by];
  const choices = found.choices[by] ?? [];
  return (
    <label className={`max-w-full ${folded ? "max-sm:hidden" : ""}`}>
      {lead}{" "}
      <select
        className="max-w-[15rem] border-deep border-b-[1.5px] bg-transparent font-serif text-lead italic"
        aria-label={`Takes ${lead}`}
        value={value}
        onChange={(event) => ask(by, event.target.value)}
      >
        <option value="">{all}</option>
        {choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.says.replaceAll("_", " ")} ({choice.takes})
          </option>
        ))}
      </select>
    </label>
  );
}

type DaysProps = {
  items: Take[];
  openId: string | undefined;
  found: TakesFound;
  choose: (id: string | null) => void;
  onGone: (gone: Gone) => void;
};

function Days({ items, openId, found, choose, onGone }: DaysProps) {
  let day = "";
  let shot = "";
  return (
    <div className="pt-2">
      {items.map((take) => {
        const newDay = dayOf(take) !== day;
        day = dayOf(take);
        const newShot = newDay || (take.shot?.id ?? "") !== shot;
        shot = take.shot?.id ?? "";
        return (
          <Fragment key={take.id}>
            {newDay && (
              <h2 className="flex items-baseline justify-between border-ink border-b pt-4 pb-1 font-serif text-lead font-semibold">
                {dayWords(day)}
                <span className="font-sans text-fine font-normal text-muted">{take.shot?.shoot}</span>
              </h2>
            )}
            {newShot && (
              <h3 className="pt-2 pb-[2px] text-small font-bold">
                {take.shot?.title ?? "Without a plan"}
                <span className="font-normal text-muted">
                  {[take.camera, take.mount].filter(Boolean).length > 0 &&
                    `, ${[take.camera, take.mount].filter(Boolean).join(", ")}`}
                </span>
              </h3>
            )}
            <Row take={take} words={found.faults} open={take.id === openId} choose={choose} />
            {take.id === openId && (
              <TakeOpen
                key={take.id}
                take={take}
                people={found.people}
                words={found.faults}
                onGone={onGone}
                close={() => choose(null)}
              />
            )}
          </Fragment>
        );
      })}
    </div>
  );
}

type RowProps = {
  take: Take;
  words: TakesFound["faults"];
  open: boolean;
  choose: (id: string | null) => void;
};

function Row({ take, words, open, choose }: RowProps) {
  const told = take.faults.map((fault) => words[fault] ?? fault).join(", ");
  return (
    <button
      type="button"
      aria-expanded={open}
      // A take that is linked to may stand far down.
      ref={(row) => {
        const at = row?.getBoundingClientRect();
        if (open && at && (at.bottom < 0 || at.top > window.innerHeight))
          row?.scrollIntoView({ block: "start" });
      }}
      className={`grid w-full grid-cols-[2.2rem_3.4rem_minmax(6rem,11rem)_minmax(0,1fr)_auto] items-baseline gap-x-2 border-hair border-b px-1 py-[5px] text-left max-sm:grid-cols-[2.2rem_3.4rem_minmax(0,1fr)_auto] ${open ? "bg-second" : "hover:bg-second"}`}
      onClick={() => choose(open ? null : take.id)}
    >
      <b>{take.number}</b>
      <span className="text-muted">{timeOf(take)}</span>
      <span className="truncate">
        {take.said.hands ?? ""}
        <span className="text-muted">
          {take.said.hands && take.said.seconds != null ? ", " : ""}
          {lengthWords(take.said.seconds)}
        </span>
      </span>
      <span className="min-w-0 max-sm:col-span-2 max-sm:col-start-3 max-sm:row-start-2">
        {told && <span className="text-note">{told}</span>}
        {take.said.note && <span className="text-muted italic"> {take.said.note}</span>}
        {take.ladder_id && <span className="text-muted"> ladder</span>}
        {take.early_days !== null && (
          <span className="text-muted">
            {" "}
            {take.early_days} days before the shoot: rehearsal, or wrong clock
          </span>
        )}
      </span>
      <span className="flex gap-2 text-fine max-sm:col-start-4 max-sm:row-start-1">
        {take.snr !== null && <span className="text-muted max-lg:hidden">S/N {take.snr.toFixed(1)}</span>}
        <b className="w-12 text-right">{take.said.rating ?? ""}</b>
      </span>
    </button>
  );
}
