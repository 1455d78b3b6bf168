// One day: its light and its shots, and the ways to its other parts.
import { useMutation, useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { changed } from "../../api/keys";
import { shootsApi, shotsQuery } from "../../api/shoots";
import type { Shoot, ShotLine, Summary } from "../../api/types";
import { remember } from "../../changes/storage";
import { LightBar } from "../../instruments/light-bar";
import { ClockField } from "../../parts/fields";
import type { Gone as GoneThing } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { Term } from "../../parts/term";
import { Trouble } from "../../parts/trouble";
import { longDay, shortDay, stops } from "../../parts/words";
import { localTime, momentOf } from "../bench/when";
import { DayLight, useMoving } from "./day-light";
import { KeepAsUse } from "./keep-as-use";
import { NewFromUse } from "./new-from-use";

const PlaceAndDay = lazy(() => import("./place-and-day"));
const Budgets = lazy(() => import("./budgets"));
const Order = lazy(() => import("./order"));
const Presets = lazy(() => import("./presets"));
const PackingList = lazy(() => import("./packing"));
const Files = lazy(() => import("./files"));
const Edit = lazy(() => import("./edit"));
const Story = lazy(() => import("./story/story"));

const VIEWS = [
  ["", "The day"],
  ["story", "Story"],
  ["budgets", "Budgets"],
  ["order", "Order"],
  ["presets", "Presets"],
  ["packing", "Packing"],
  ["edit", "Edit"],
  ["files", "Import and export"],
] as const;

type Gone = (gone: GoneThing) => void;

type Props = { shoot: Shoot; onGone: Gone; with_: string | null };

/** with_: camera that a new shot is begun with at once, null where none is asked for. */
export function Day({ shoot, onGone, with_ }: Props) {
  const { view = "" } = useParams();
  const shots = useQuery(shotsQuery(shoot.id));
  const [editing, setEditing] = useState(false);
  const moving = useMoving(shoot);
  const navigate = useNavigate();
  useEffect(() => remember("last-shoot", shoot.id), [shoot.id]);
  const [beginning, setBeginning] = useState(with_ !== null);
  useShortcuts("shoots", (id) => {
    if (id !== "new-shot") return false;
    setBeginning(true);
    return true;
  });
  const copy = useMutation({
    mutationFn: (shot: ShotLine) => shootsApi.duplicateShot(shot.id),
    onSuccess: () => changed.shoots(),
  });
  const remove = (shot: ShotLine) =>
    shootsApi.removeShot(shot.id).then(() => {
      changed.everything();
      onGone({
        says: `“${(shot.summary as Summary).title}” was removed.`,
        back: () => shootsApi.restoreShot(shot.id),
      });
    });
  const removeShoot = () =>
    shootsApi.removeShoot(shoot.id).then(() => {
      navigate("/shoots");
      changed.everything();
      onGone({ says: `“${shoot.title}” was removed.`, back: () => shootsApi.restoreShoot(shoot.id) });
    });
  const items = shots.data?.items ?? [];
  return (
    <section className="px-7 py-5 max-md:px-4 max-md:py-3" aria-label={shoot.title}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h2 className="font-serif text-head font-semibold">{shoot.title}</h2>
        <p className="text-muted">
          {[shoot.day && longDay(shoot.day), shoot.place, shoot.crew, `${shoot.mains_hz}\u202fHz mains`]
            .filter(Boolean)
            .join(" · ")}
        </p>
      </div>
      {shoot.note && <p className="pt-1 font-serif text-body italic">{shoot.note}</p>}
      <nav aria-label="Parts of the shoot" className="flex flex-wrap gap-x-5 border-hair border-b pt-2">
        {VIEWS.map(([id, says]) => (
          <Link
            key={id}
            to={`/shoots/${shoot.id}${id && `/${id}`}`}
            aria-current={view === id ? "page" : undefined}
            className={`border-b-2 py-[5px] text-body ${view === id ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
          >
            {says}
          </Link>
        ))}
      </nav>
      {view === "" ? (
        <>
          {editing && (
            <Suspense fallback={null}>
              <PlaceAndDay shoot={shoot} close={() => setEditing(false)} />
            </Suspense>
          )}
          {shots.data && <DayLight shoot={shoot} lines={items} moving={moving} />}
          {shots.error && !shots.data && <Trouble error={shots.error} retry={() => shots.refetch()} />}
          <table className="mt-3 w-full border-collapse text-left max-lg:block">
            <thead className="max-lg:sr-only">
              <tr className="border-ink border-b text-fine text-muted [&>th]:pb-2 [&>th]:font-normal">
                <th className="w-[76px]">start</th>
                <th className="w-[218px]">shot</th>
                <th className="w-[150px]">
                  light, <Term id="ev" says="EV" /> −8 to 16
                </th>
                <th>setting sheet</th>
                <th className="w-[86px] text-right">
                  <Term id="given_up" says="stops given up" />
                </th>
                <th className="w-[148px]">
                  <span className="sr-only">more</span>
                </th>
              </tr>
            </thead>
            <tbody className="max-lg:block max-lg:border-ink max-lg:border-t">
              {items.map((shot) => (
                <Line
                  key={shot.id}
                  shot={shot}
                  shoot={shoot}
                  give={(at) => void moving.give(shot.id, at)}
                  copy={() => copy.mutate(shot)}
                  remove={() => void remove(shot)}
                />
              ))}
            </tbody>
          </table>
          {shots.data && items.length === 0 && (
            <p className="py-6 font-serif text-lead text-muted">
              Nothing is planned for this day yet. Begin with the shot that the tide will not wait for.
            </p>
          )}
          {beginning && <NewFromUse shoot={shoot} camera={with_} close={() => setBeginning(false)} />}
          {copy.error && (
            <Trouble error={copy.error} retry={() => copy.variables && copy.mutate(copy.variables)} />
          )}
          <p className="flex gap-3 pt-4">
            <button
              type="button"
              className="bold-plain"
              aria-expanded={beginning}
              onClick={() => setBeginning(!beginning)}
            >
              New shot
            </button>
            <button type="button" className="plain" onClick={() => setEditing(!editing)}>
              Place and day
            </button>
            <button type="button" className="plain text-muted" onClick={() => void removeShoot()}>
              Remove this shoot
            </button>
          </p>
        </>
      ) : (
        <Suspense fallback={<p className="py-4 text-muted">One moment.</p>}>
          {view === "story" && <Story shoot={shoot} />}
          {view === "budgets" && <Budgets shoot={shoot} />}
          {view === "order" && <Order shoot={shoot} lines={items} />}
          {view === "presets" && <Presets shoot={shoot} />}
          {view === "packing" && <PackingList shoot={shoot} />}
          {view === "edit" && <Edit shoot={shoot} />}
          {view === "files" && <Files shoot={shoot} />}
        </Suspense>
      )}
    </section>
  );
}

type LineProps = {
  shot: ShotLine;
  shoot: Shoot;
  give: (at: string | null) => void;
  copy: () => void;
  remove: () => void;
};

function Line({ shot, shoot, give, copy, remove }: LineProps) {
  const summary = shot.summary as Summary;
  return (
    <tr className="border-hair border-b align-middle hover:bg-second max-lg:grid max-lg:grid-cols-[76px_minmax(0,1fr)_auto] max-lg:gap-x-2 max-lg:py-2 lg:[&>td]:py-[9px]">
      <td>
        <StartField shot={shot} shoot={shoot} title={summary.title} give={give} />
      </td>
      <td className="pr-4 max-lg:pr-0">
        <Link to={`/shots/${shot.id}`} className="block min-h-[24px] text-lead leading-tight font-bold">
          {summary.title}
        </Link>
        <span className="text-fine text-muted">{summary.camera}</span>
      </td>
      <td className="max-lg:col-start-2 max-lg:row-start-2">
        {summary.ev100 && <LightBar ev100={summary.ev100} />}
      </td>
      <td
        className={`max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-3 ${shot.as_it_was ? "pr-4" : "pr-4 text-muted italic"}`}
      >
        {summary.sheet ?? <span className="text-note">{summary.problem}</span>}
        {!shot.as_it_was && <span className="block text-fine">old figures; being planned anew</span>}
        {((summary.warnings ?? 0) > 0 || (summary.pins ?? 0) > 0) && (
          <span className="block text-fine text-muted">
            {[
              summary.warnings ? `${summary.warnings} to watch for` : "",
              summary.pins ? `${summary.pins} pinned` : "",
            ]
              .filter(Boolean)
              .join(", ")}
          </span>
        )}
      </td>
      <td
        className={`text-right text-lead max-lg:col-start-3 max-lg:row-start-1 ${shot.as_it_was ? "font-bold" : "text-muted italic"}`}
      >
        {summary.given_up_stops == null ? "" : stops(summary.given_up_stops)}
      </td>
      <td className="pl-5 text-fine text-muted max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-4 max-lg:pt-1 max-lg:pl-0">
        <span className="grid grid-cols-2 items-baseline justify-items-start gap-x-3 max-lg:flex max-lg:flex-wrap max-lg:gap-x-5">
          <Link
            className="underline decoration-deep underline-offset-2 hover:text-ink max-lg:min-h-[25px]"
            to={`/shots/${shot.id}/card`}
            aria-label={`Card of ${summary.title}`}
          >
            card
          </Link>
          <button
            type="button"
            className="block underline decoration-deep underline-offset-2 hover:text-ink max-lg:inline"
            aria-label={`Duplicate ${summary.title}`}
            onClick={copy}
          >
            duplicate
          </button>
          <KeepAsUse shot={shot.id} title={summary.title} />
          <button
            type="button"
            className="underline decoration-deep underline-offset-2 hover:text-ink"
            aria-label={`Remove ${summary.title}`}
            onClick={remove}
          >
            remove
          </button>
        </span>
      </td>
    </tr>
  );
}

type StartProps = { shot: ShotLine; shoot: Shoot; title: string; give: (at: string | null) => void };

/** When a shot begins, as it is typed: on the day that it has, else on the shoot's. */
function StartField({ shot, shoot, title, give }: StartProps) {
  const zone = shot.summary.zone ?? shoot.zone ?? "UTC";
  const stands = shot.starts_at ? localTime(shot.starts_at, zone) : "";
  const day = stands.slice(0, 10) || (shoot.day ?? localTime(new Date().toISOString(), zone).slice(0, 10));
  return (
    <>
      <ClockField
        label={`${title}, start`}
        className="start-field"
        value={stands.slice(11)}
        onChange={(time) => {
          // What the sky lights always has a time: its light's.
          if (time !== "") give(momentOf(`${day}T${time}`, zone));
          else if (!(shot.summary as Summary).sky) give(null);
        }}
      />
      {stands && shoot.day && stands.slice(0, 10) !== shoot.day && (
        <span className="block text-fine text-muted">{shortDay(stands)}</span>
      )}
    </>
  );
}
