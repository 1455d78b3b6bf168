// The set-up pass of a camera: every preset in its own menu's order and words, and what is set once; ticked through.
import { useMutation, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../../api/http";
import { changed, keys } from "../../api/keys";
import { type SetUp, setUpQuery, usesApi } from "../../api/uses";
import { waitingWords } from "../../changes/met";
import { refusalWords } from "../../changes/refusals";
import { useChanges } from "../../changes/use-changes";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";

export function SetUpCard({ camera, name }: { camera: string; name: string }) {
  const told = useQuery(setUpQuery(camera));
  const { ticks, say, says } = useTicks(camera, told.data?.ticks ?? NONE);
  const note = useMutation({
    mutationFn: (said: Parameters<typeof usesApi.note>[1]) => usesApi.note(camera, said),
    onSuccess: changed.uses,
  });
  if (told.error && !told.data) return <Trouble error={told.error} retry={() => told.refetch()} />;
  if (!told.data) return <Loading what="Loading the set-up card." className="" />;
  const { card, checked_at } = told.data;
  const rows = card.pages.flatMap((page) => page.rows.map((row) => row.id));
  const all = [...rows, ...(card.quick.length ? ["quick"] : []), ...card.habits.map((habit) => habit.id)];
  const done = all.filter((id) => ticks[id]).length;
  const tick = (id: string, on: boolean) => void say({ [id]: on });
  return (
    <>
      <h2 className="flex flex-wrap items-baseline gap-x-4 font-serif text-head font-semibold">
        {name}, set up once
        <span role="status" className="font-sans text-body font-normal text-muted">
          {done === all.length ? "all done" : `${done} of ${all.length} done`}
          {checked_at &&
            `, gone through on ${new Date(checked_at).toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" })}`}
        </span>
      </h2>
      <p className="flex flex-wrap gap-3 pt-2 pb-3">
        <a className="plain inline-flex items-center" href={`/api/uses/set-up/${camera}/card.pdf`} download>
          On paper
        </a>
        <button
          type="button"
          className="plain"
          disabled={note.isPending}
          onClick={() => note.mutate({ checked: true })}
        >
          Gone through today
        </button>
        <button
          type="button"
          className="plain text-muted"
          disabled={done === 0}
          onClick={() => void say(Object.fromEntries(all.map((id) => [id, false])))}
        >
          Begin anew
        </button>
        {says && (
          <span role="status" className="self-center text-small text-note">
            {says}
          </span>
        )}
        {note.error && (
          <b role="alert" className="text-note">
            {refusalWords(note.error)}
          </b>
        )}
      </p>
      {told.data.counting && (
        <p role="status" className="pb-2 text-muted">
          Counting which presets take the fewest taps.
        </p>
      )}
      {card.presets.length === 0 && !told.data.counting ? (
        <p className="pb-3">
          No presets yet:{" "}
          <Link className="underline decoration-deep underline-offset-2" to="/uses">
            choose what you film
          </Link>
          . What is set once stands below all the same.
        </p>
      ) : (
        <Presets card={card} ticks={ticks} tick={tick} />
      )}
      <Habits card={card} ticks={ticks} tick={tick} />
    </>
  );
}

type Ticks = Record<string, boolean>;

const NONE: Ticks = {};

/** What was ticked of a camera: kept here at once, handed over when the service is there. */
function useTicks(camera: string, shown: Ticks) {
  const { engine, now, say } = useChanges<Ticks>({
    place: `set-up.${camera}`,
    shown,
    revision: 0,
    overlay: false,
    send: async (_, change) => {
      const kept = await usesApi.note(camera, { ticks: change as Ticks });
      // An answer that was asked for before would not hold what was just handed over.
      await queries.cancelQueries({ queryKey: keys.setUp(camera) });
      queries.setQueryData(keys.setUp(camera), kept);
      void changed.uses();
      return { revision: 0, shown: kept.ticks };
    },
    reread: () => {},
    ofBefore: (kept: Ticks) => kept,
  });
  return { ticks: now, say, says: waitingWords(engine) };
}

type Part = { card: SetUp["card"]; ticks: Ticks; tick: (id: string, on: boolean) => void };

function Presets({ card, ticks, tick }: Part) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-ink border-b align-bottom [&>th]:pr-3 [&>th]:pb-1">
            <th className="w-[30px]" aria-label="done" />
            <th className="w-[110px] text-fine font-normal text-muted">menu</th>
            {card.presets.map((preset, n) => (
              <th key={preset} className="min-w-[92px] text-body leading-tight">
                <span className="font-serif text-lead">{n + 1}</span> {preset}
              </th>
            ))}
          </tr>
        </thead>
        {card.pages.map((page) => (
          <tbody key={page.page}>
            <tr>
              <th
                colSpan={card.presets.length + 2}
                className="pt-2 pb-1 font-serif text-body font-normal text-muted italic"
              >
                {page.page}
              </th>
            </tr>
            {page.rows.map((row) => (
              <tr
                key={row.id}
                className={`border-hair border-b align-baseline ${ticks[row.id] ? "text-muted" : ""}`}
              >
                <td>
                  <Tick id={row.id} says={row.label} ticks={ticks} tick={tick} />
                </td>
                <td className="pr-3 text-small text-muted">{row.label}</td>
                {row.same ? (
                  <td colSpan={card.presets.length} className="py-[7px] text-body font-bold">
                    {row.values[0]}{" "}
                    {card.presets.length > 1 && (
                      <span className="text-fine font-normal text-muted">in all</span>
                    )}
                  </td>
                ) : (
                  row.values.map((value, n) => (
                    <td key={n} className="py-[7px] pr-3 text-body font-bold">
                      {value}
                    </td>
                  ))
                )}
              </tr>
            ))}
          </tbody>
        ))}
      </table>
      {card.quick.length > 0 && (
        <p className="flex items-center gap-3 pt-2 text-body">
          <Tick id="quick" says="Buttons" ticks={ticks} tick={tick} />
          on buttons: <b>{card.quick.join(", ")}</b>
        </p>
      )}
    </div>
  );
}

function Habits({ card, ticks, tick }: Part) {
  return (
    <section aria-label="Once" className="pt-5">
      <h3 className="border-ink border-b pb-1 font-serif text-title font-semibold">Once</h3>
      <ul>
        {card.habits.map((habit) => (
          <li
            key={habit.id}
            className={`grid grid-cols-[30px_minmax(0,1fr)_minmax(0,0.8fr)_minmax(0,1.5fr)] items-baseline gap-x-3 border-hair border-b py-[7px] max-sm:grid-cols-[30px_minmax(0,1fr)] ${ticks[habit.id] ? "text-muted" : ""}`}
          >
            <Tick id={habit.id} says={habit.name} ticks={ticks} tick={tick} />
            <span className="leading-tight">
              {habit.name}
              <span className={`block text-fine ${habit.known ? "text-muted" : "text-note"}`}>
                {habit.where}
              </span>
            </span>
            <b className="text-body max-sm:col-start-2">{habit.value}</b>
            <span className="text-small leading-tight text-muted max-sm:col-start-2">{habit.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

type TickProps = { id: string; says: string } & Pick<Part, "ticks" | "tick">;

function Tick({ id, says, ticks, tick }: TickProps) {
  return (
    <input
      type="checkbox"
      className="[--tick:20px]"
      aria-label={`${says} done`}
      checked={ticks[id] ?? false}
      onChange={(event) => tick(id, event.target.checked)}
    />
  );
}
