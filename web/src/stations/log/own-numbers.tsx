// One's own numbers: what each comes to, from what, and whether the planner uses it.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changed, inTurn } from "../../api/keys";
import { logApi, numbersQuery, type OwnNumber } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { OwnSpan } from "../../instruments/own-span";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";

export default function OwnNumbers() {
  const numbers = useQuery(numbersQuery);
  if (numbers.error && !numbers.data)
    return <Trouble error={numbers.error} retry={() => numbers.refetch()} />;
  if (!numbers.data) return <Loading what="Loading your numbers." />;
  const { items, contradictions } = numbers.data;
  const told = items.filter((one) => one.value !== null || one.on);
  const soon = items.filter((one) => one.value === null && !one.on);
  return (
    <section className="min-w-0 px-6 pb-8 max-sm:px-4" aria-label="Your numbers">
      <p className="border-rule border-b py-3 font-serif text-lead leading-[1.5]">
        {told.length === 0
          ? "Nothing is learned yet: three takes, judgements or notes of one thing are needed."
          : "What your takes, ladders and notes taught. Switched on, a number stands in the place of the typical one in every plan; switched off, plans are what they were."}
      </p>
      {contradictions.length > 0 && (
        <div className="mt-3 border-note border-l-3 pl-3">
          <h2 className="font-bold">These answers disagree</h2>
          {contradictions.map((says) => (
            <p key={says}>{says}</p>
          ))}
        </div>
      )}
      <ul className="pt-2">
        {told.map((one) => (
          <Known key={one.key} one={one} />
        ))}
      </ul>
      {soon.length > 0 && (
        <>
          <h2 className="border-ink border-b pt-6 pb-1 font-serif text-lead font-semibold">Too few yet</h2>
          <ul>
            {soon.map((one) => (
              <li
                key={one.key}
                className="flex flex-wrap justify-between gap-x-4 border-hair border-b py-[5px]"
              >
                {one.title}
                <span className="text-muted">
                  {one.how_many}
                  {one.needs > 0 ? `, ${one.needs} more needed` : ", of nothing that is in the kit"}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function Known({ one }: { one: OwnNumber }) {
  const [open, setOpen] = useState(false);
  const switched = useMutation({
    ...inTurn("own numbers"),
    mutationFn: ({ on, over }: { on: boolean; over?: boolean }) => logApi.switch(one.key, on, over),
    onSettled: () => changed.own().then(() => setWanted(null)),
  });
  // What was just said stands at once, until the service has told how it is.
  const [wanted, setWanted] = useState<boolean | null>(null);
  const on = wanted ?? one.on;
  return (
    <li className="grid items-center gap-x-6 gap-y-1 border-hair border-b py-2 lg:grid-cols-[minmax(0,1fr)_260px_minmax(10rem,14rem)]">
      <div>
        <b>{one.title}</b>
        <p>
          {one.says === null ? (
            <span className="text-muted">too few readings by now</span>
          ) : (
            <>
              <span className="font-serif text-title font-semibold">{one.says}</span>{" "}
              <span className="text-muted">
                from {one.how_many}
                {one.usual_says !== null && `; typical ${one.usual_says}`}
              </span>
            </>
          )}
        </p>
      </div>
      {one.value !== null && one.low !== null && one.high !== null && (
        <OwnSpan
          value={one.value}
          low={one.low}
          high={one.high}
          usual={one.usual}
          readings={one.readings.map(({ value, accepted }) => ({ value, accepted }))}
          says={`${one.title}: ${one.says}, nine times in ten ${one.span}`}
        />
      )}
      <div className="grid gap-1">
        {one.enters ? (
          <label className="flex min-h-8 items-center gap-3">
            <input
              type="checkbox"
              className="[--tick:18px]"
              aria-label={`Plan with ${one.title}`}
              checked={on}
              disabled={switched.isPending}
              onChange={(event) => {
                setWanted(event.target.checked);
                switched.mutate({ on: event.target.checked });
              }}
            />
            {on ? <b>plans use it</b> : "plan with it"}
          </label>
        ) : (
          <p className="text-muted">used to find a clip’s shot</p>
        )}
        {one.on && one.newer && (
          <p className="text-fine">
            Plans use {one.counts_says}.{" "}
            <button
              type="button"
              className="min-h-[24px] underline"
              onClick={() => switched.mutate({ on: true, over: true })}
            >
              take {one.says} over
            </button>
          </p>
        )}
        {switched.error && (
          <p role="alert" className="text-note">
            {refusalWords(switched.error)}
          </p>
        )}
      </div>
      <details
        className="text-fine text-muted lg:col-span-3"
        open={open}
        onToggle={(event) => setOpen(event.currentTarget.open)}
      >
        <summary className="cursor-pointer">
          {one.span !== null && `nine times in ten ${one.span}; `}decides {one.decides}
        </summary>
        {open && (
          <ol className="columns-[24rem] gap-8 pt-1">
            {one.readings.map((reading, place) => (
              <li key={place} className="flex justify-between gap-3 border-hair border-b text-ink">
                <span>{reading.says}</span>
                {reading.take && (
                  <Link className="underline" to={`/log/takes/${reading.take}`}>
                    take
                  </Link>
                )}
              </li>
            ))}
            {one.count > one.readings.length && <li>and more</li>}
          </ol>
        )}
      </details>
    </li>
  );
}
