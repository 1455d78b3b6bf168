// Shoots: the days, and for one of them what is planned.

import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, lazy, Suspense, useEffect, useState } from "react";
import { Link, NavLink, useNavigate, useParams } from "react-router";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import { shootsApi, shootsQuery, shotsQuery } from "../../api/shoots";
import type { Brief, Shoot, ShotLine, Summary } from "../../api/types";
import { LightBar } from "../../instruments/light-bar";
import { ClockField } from "../../parts/fields";
import { FileButton } from "../../parts/file-button";
import { Fold } from "../../parts/fold";
import { GoneNote, type Gone as GoneThing } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { type FoundPlace, PlaceField } from "../../parts/place-field";
import { recall, remember } from "../../parts/remembered";
import { Trouble } from "../../parts/trouble";
import { longDay, shortDay, stops } from "../../parts/words";
import { localTime, momentOf } from "../bench/when";
import { DayLight, useMoving } from "./day-light";
import { PlaceAndDay } from "./place-and-day";

const Budgets = lazy(() => import("./budgets"));
const Order = lazy(() => import("./order"));
const Presets = lazy(() => import("./presets"));
const PackingList = lazy(() => import("./packing"));
const Files = lazy(() => import("./files"));

const VIEWS = [
  ["", "The day"],
  ["budgets", "Budgets"],
  ["order", "Order"],
  ["presets", "Presets"],
  ["packing", "Packing"],
  ["files", "Out and in"],
] as const;

export function Shoots() {
  const { shootId } = useParams();
  const shoots = useQuery(shootsQuery);
  const [adding, setAdding] = useState(false);
  const [gone, setGone] = useState<GoneThing | null>(null);
  useEffect(() => {
    document.title = "Shoots · Steady Tide";
  }, []);
  if (shoots.error && !shoots.data) return <Trouble error={shoots.error} retry={() => shoots.refetch()} />;
  if (!shoots.data) return <p className="p-6 text-muted">Unrolling the chart.</p>;
  const items = shoots.data.items;
  // A shoot that was just made may not be in the list yet; another one must never stand in its place.
  const named = shootId !== undefined;
  const shoot = named
    ? items.find((entry) => entry.id === shootId)
    : (items.find((entry) => entry.id === recall("last-shoot")) ?? items[0]);
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1">
      <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
        <h1 className="border-ink border-b pb-2 font-serif text-[19px] font-semibold max-md:sr-only">
          Shoots
        </h1>
        <Fold says={shoot ? `Shoots: ${shoot.title}` : "Shoots"}>
          <ul>
            {items.map((entry) => (
              <li key={entry.id} className="border-hair border-b">
                <NavLink
                  to={`/shoots/${entry.id}`}
                  aria-current={entry.id === shoot?.id ? "true" : undefined}
                  className={`block py-[9px] leading-tight hover:bg-second ${entry.id === shoot?.id ? "font-bold" : ""}`}
                >
                  {entry.title}
                  <span className="block pt-[2px] text-[12.5px] font-normal text-muted">
                    {entry.day ? longDay(entry.day).replace(/^\w+,? /, "") : "no day yet"}, {entry.shots}{" "}
                    {entry.shots === 1 ? "shot" : "shots"}
                  </span>
                </NavLink>
              </li>
            ))}
          </ul>
          {items.length === 0 && <p className="py-3 text-muted">No shoot yet.</p>}
          {adding ? (
            <NewShoot close={() => setAdding(false)} />
          ) : (
            <p className="flex flex-wrap gap-2 pt-4">
              <button type="button" className="plain" onClick={() => setAdding(true)}>
                New shoot
              </button>
              <BringShoot />
            </p>
          )}
        </Fold>
        <GoneNote
          gone={gone}
          over={() => {
            changed.everything();
            setGone(null);
          }}
        />
      </aside>
      {shoot ? (
        <Day key={shoot.id} shoot={shoot} onGone={setGone} />
      ) : named ? (
        <p className="p-8 text-muted" role="status">
          {shoots.isFetching
            ? "Unrolling the chart."
            : "There is no such shoot. It may have been removed; choose another from the list."}
        </p>
      ) : (
        <Empty />
      )}
    </main>
  );
}

function Empty() {
  return (
    <p className="max-w-md p-8 font-serif text-[18px] leading-relaxed text-muted">
      A shoot is a day at a place. Make one, put a shot in it, and the Bench will say how to set the camera.
    </p>
  );
}

type Gone = (gone: GoneThing) => void;

function Day({ shoot, onGone }: { shoot: Shoot; onGone: Gone }) {
  const { view = "" } = useParams();
  const shots = useQuery(shotsQuery(shoot.id));
  const [editing, setEditing] = useState(false);
  const moving = useMoving(shoot);
  const navigate = useNavigate();
  useEffect(() => remember("last-shoot", shoot.id), [shoot.id]);
  const add = useMutation({
    mutationFn: () => shootsApi.addShot(shoot.id, { brief: firstBrief(shoot), starts_at: null }),
    onSuccess: (shot) => {
      changed.shoots();
      navigate(`/shots/${shot.id}`);
    },
  });
  useShortcuts("shoots", (id) => {
    if (id === "new-shot") add.mutate();
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
        <h2 className="font-serif text-[26px] font-semibold">{shoot.title}</h2>
        <p className="text-muted">
          {[shoot.day && longDay(shoot.day), shoot.place, shoot.crew, `${shoot.mains_hz}\u202fHz mains`]
            .filter(Boolean)
            .join(" · ")}
        </p>
      </div>
      {shoot.note && <p className="pt-1 font-serif text-[15px] italic">{shoot.note}</p>}
      <nav aria-label="Parts of the shoot" className="flex flex-wrap gap-x-5 border-hair border-b pt-2">
        {VIEWS.map(([id, says]) => (
          <Link
            key={id}
            to={`/shoots/${shoot.id}${id && `/${id}`}`}
            aria-current={view === id ? "page" : undefined}
            className={`border-b-2 py-[5px] text-[14px] ${view === id ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
          >
            {says}
          </Link>
        ))}
      </nav>
      {view === "" ? (
        <>
          {editing && <PlaceAndDay shoot={shoot} close={() => setEditing(false)} />}
          {shots.data && <DayLight shoot={shoot} lines={items} moving={moving} />}
          {shots.error && !shots.data && <Trouble error={shots.error} retry={() => shots.refetch()} />}
          <table className="mt-3 w-full border-collapse text-left max-lg:block">
            <thead className="max-lg:sr-only">
              <tr className="border-ink border-b text-[12.5px] text-muted [&>th]:pb-2 [&>th]:font-normal">
                <th className="w-[76px]">start</th>
                <th className="w-[218px]">shot</th>
                <th className="w-[150px]">light, EV −8 to 16</th>
                <th>setting sheet</th>
                <th className="w-[86px] text-right">stops given up</th>
                <th className="w-[74px]">
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
            <p className="py-6 font-serif text-[17px] text-muted">
              Nothing is planned for this day yet. Begin with the shot that the tide will not wait for.
            </p>
          )}
          {add.error && <Trouble error={add.error} retry={() => add.mutate()} />}
          {copy.error && (
            <Trouble error={copy.error} retry={() => copy.variables && copy.mutate(copy.variables)} />
          )}
          <p className="flex gap-3 pt-4">
            <button
              type="button"
              className="bold-plain"
              disabled={add.isPending}
              onClick={() => add.mutate()}
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
          {view === "budgets" && <Budgets shoot={shoot} />}
          {view === "order" && <Order shoot={shoot} lines={items} />}
          {view === "presets" && <Presets shoot={shoot} />}
          {view === "packing" && <PackingList shoot={shoot} />}
          {view === "files" && <Files shoot={shoot} />}
        </Suspense>
      )}
    </section>
  );
}

/** A whole shoot from its file. */
function BringShoot() {
  const navigate = useNavigate();
  const bring = useMutation({
    mutationFn: (file: File) => shootsApi.importShoot(file),
    onSuccess: (read) => {
      changed.everything();
      navigate(`/shoots/${read.id}`);
    },
  });
  return (
    <>
      <FileButton
        label="Shoot as JSON or ZIP"
        accept=".json,.zip,application/json,application/zip"
        says="Import a shoot"
        busy={bring.isPending}
        onFile={(file) => bring.mutate(file)}
      />
      {bring.error && (
        <span role="alert" className="border-note border-l-3 pl-3 text-[13px]">
          <b className="text-note">Not read.</b>{" "}
          {bring.error instanceof Problem && bring.error.faults[0]
            ? `${bring.error.faults[0].where}: ${bring.error.faults[0].what}. ${bring.error.faults[0].mend}`
            : bring.error.message}
        </span>
      )}
    </>
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
        <Link to={`/shots/${shot.id}`} className="block min-h-[24px] text-[16px] leading-tight font-bold">
          {summary.title}
        </Link>
        <span className="text-[12.5px] text-muted">{summary.camera}</span>
      </td>
      <td className="max-lg:col-start-2 max-lg:row-start-2">
        {summary.ev100 && <LightBar ev100={summary.ev100} />}
      </td>
      <td
        className={`max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-3 ${shot.as_it_was ? "pr-4" : "pr-4 text-muted italic"}`}
      >
        {summary.sheet ?? <span className="text-note">{summary.problem}</span>}
        {!shot.as_it_was && <span className="block text-[12.5px]">old figures; being planned anew</span>}
        {((summary.warnings ?? 0) > 0 || (summary.pins ?? 0) > 0) && (
          <span className="block text-[12.5px] text-muted">
            {[
              summary.warnings ? `${summary.warnings} to mind` : "",
              summary.pins ? `${summary.pins} pinned` : "",
            ]
              .filter(Boolean)
              .join(", ")}
          </span>
        )}
      </td>
      <td
        className={`text-right text-[16px] max-lg:col-start-3 max-lg:row-start-1 ${shot.as_it_was ? "font-bold" : "text-muted italic"}`}
      >
        {summary.given_up_stops == null ? "" : stops(summary.given_up_stops)}
      </td>
      <td className="pl-5 text-[12.5px] text-muted max-lg:col-span-2 max-lg:col-start-2 max-lg:row-start-4 max-lg:flex max-lg:items-baseline max-lg:gap-5 max-lg:pt-1 max-lg:pl-0">
        <Link
          className="block underline decoration-deep underline-offset-2 hover:text-ink max-lg:min-h-[25px]"
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
        <button
          type="button"
          className="underline decoration-deep underline-offset-2 hover:text-ink"
          aria-label={`Remove ${summary.title}`}
          onClick={remove}
        >
          remove
        </button>
      </td>
    </tr>
  );
}

type StartProps = { shot: ShotLine; shoot: Shoot; title: string; give: (at: string | null) => void };

/** When a shot begins, as it is typed: on the day that it has, else on the shoot's. */
function StartField({ shot, shoot, title, give }: StartProps) {
  const zone = shoot.zone ?? "UTC";
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
        <span className="block text-[12px] text-muted">{shortDay(stands)}</span>
      )}
    </>
  );
}

/** A brief to begin with: an everyday shot in the middle of everything. */
function firstBrief(shoot: Shoot): Brief {
  return {
    title: "A new shot",
    scenario: "everyday",
    light: { kind: "place", place: "full_sun" },
    mains_hz: shoot.mains_hz ?? 50,
    delivery: { graded: true },
  } as unknown as Brief;
}

function NewShoot({ close }: { close: () => void }) {
  const [fields, setFields] = useState({ title: "", place: "", day: "" });
  const [at, setAt] = useState<FoundPlace | null>(null);
  const navigate = useNavigate();
  const add = useMutation({
    mutationFn: () =>
      shootsApi.addShoot({
        title: fields.title.trim(),
        place: fields.place.trim(),
        day: fields.day || null,
        zone: at?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
        latitude: at?.latitude ?? null,
        longitude: at?.longitude ?? null,
        mains_hz: 50,
        note: "",
      }),
    onSuccess: (shoot) => {
      changed.shoots();
      close();
      navigate(`/shoots/${shoot.id}`);
    },
  });
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (fields.title.trim()) add.mutate();
  };
  const put = (name: keyof typeof fields) => (event: { target: { value: string } }) =>
    setFields({ ...fields, [name]: event.target.value });
  return (
    <form className="mt-4 grid gap-2" onSubmit={send}>
      <label className="text-[12.5px] text-muted">
        Name
        <input
          className="field"
          required
          maxLength={200}
          autoFocus
          value={fields.title}
          onChange={put("title")}
        />
      </label>
      <label className="text-[12.5px] text-muted">
        Place
        <input className="field" maxLength={200} value={fields.place} onChange={put("place")} />
      </label>
      <PlaceField
        label="Where, by the next town or its position"
        at={at}
        onPlace={(found) => {
          setAt(found);
          setFields((now) => ({ ...now, place: now.place || found.name }));
        }}
        onClear={() => setAt(null)}
      />
      <label className="text-[12.5px] text-muted">
        Day
        <input className="field" type="date" value={fields.day} onChange={put("day")} />
      </label>
      {add.error && (
        <p role="alert" className="text-[13px] text-note">
          {add.error instanceof Problem ? add.error.message : "It could not be kept."} What you typed is still
          here.
        </p>
      )}
      <div className="flex gap-2 pt-1">
        <button type="submit" className="bold-plain" disabled={add.isPending}>
          Keep
        </button>
        <button type="button" className="plain" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
