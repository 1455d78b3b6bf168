// The Bench: plan one shot.
import { useMutation, useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { benchApi, shotQuery, vocabularyQuery } from "../../api/bench";
import { placesQuery } from "../../api/places";
import { shootsQuery } from "../../api/shoots";
import type { Brief, DialValue, Pins, Plan, Row, Shot, Vocabulary } from "../../api/types";
import { heldBy, pinsOf, withPins } from "../../api/types";
import type { Status } from "../../changes/engine";
import { Conflict } from "../../changes/met";
import { remember } from "../../changes/storage";
import { Gauge } from "../../instruments/gauge";
import { Ledger } from "../../instruments/ledger";
import { HeadTools } from "../../parts/head-tools";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { stops } from "../../parts/words";
import { CameraMoved } from "./camera-moved";
import { Cameras } from "./cameras";
import type { Change, Day } from "./editors";
import { LightSide } from "./light-side";
import { OlderSheet } from "./older-sheet";
import { OwnUsed } from "./own-used";
import { usePlanning } from "./planning";
import { RestsOn } from "./rests-on";
import { togglePins } from "./rows";
import { schoolWords } from "./school-editor";
import { Beside, Sentence } from "./sentence";
import { Sheet } from "./sheet";
import { type Entry, useShotChanges } from "./shot-changes";
import { tokensOf } from "./tokens";
import { skyOf } from "./when";

const Compare = lazy(() => import("./compare"));

export default function BenchStation() {
  const { shotId = "" } = useParams();
  const shot = useQuery({ ...shotQuery(shotId), refetchOnWindowFocus: false, refetchOnReconnect: false });
  const vocabulary = useQuery(vocabularyQuery);
  const shoots = useQuery(shootsQuery);
  const error = shot.error ?? vocabulary.error ?? shoots.error;
  if (shot.data && vocabulary.data && shoots.data) {
    const shoot = shoots.data.items.find((entry) => entry.id === shot.data.shoot_id);
    const day = {
      zone: shoot?.zone ?? "UTC",
      day: shoot?.day ?? null,
      latitude: shoot?.latitude ?? null,
      longitude: shoot?.longitude ?? null,
    };
    return (
      <Bench
        key={`${shotId} ${shot.data.sheet?.edition}`}
        shot={shot.data}
        vocabulary={vocabulary.data}
        day={day}
      />
    );
  }
  if (error) {
    return (
      <Trouble
        error={error}
        retry={() => {
          shot.refetch();
          vocabulary.refetch();
          shoots.refetch();
        }}
      />
    );
  }
  return <Loading what="Loading the shot." />;
}

/** The zone in which a shot's times are told: that of the place whose sky lights it, else the shoot's. */
function useZone(light: Brief["light"], day: Day): string {
  const sky = skyOf(light);
  const isHere = sky?.latitude === day.latitude && sky?.longitude === day.longitude;
  const isAsked = sky !== null && !sky.zone && !isHere && (sky.latitude !== 0 || sky.longitude !== 0);
  const asked = isAsked ? `${sky.latitude} ${sky.longitude}` : "";
  const found = useQuery({ ...placesQuery(asked), enabled: isAsked });
  if (sky?.zone) return sky.zone;
  return (isAsked && !found.isPlaceholderData && found.data?.items[0]?.zone) || day.zone;
}

function Bench({ shot, vocabulary, day: ofShoot }: { shot: Shot; vocabulary: Vocabulary; day: Day }) {
  const held = heldBy(shot);
  const { engine, entry, change: changeEntry, status: saving, begun, planAnew } = useShotChanges(shot);
  const { history } = engine;
  const { brief, starts_at } = entry;
  const zone = useZone(brief.light, ofShoot);
  const day = useMemo(() => ({ ...ofShoot, zone }), [ofShoot, zone]);
  const change: Change = (update, tag) =>
    changeEntry((before) => atOneTime(before, update(before.brief)), tag);
  const place = useMutation({
    mutationFn: (at: string) => benchApi.placed(brief, at),
    onSuccess: (placed, at) => changeEntry(() => ({ brief: placed, starts_at: at }), "start"),
  });
  const setStart = (at: string | null) => {
    if (at !== null && skyOf(brief.light)) place.mutate(at);
    else changeEntry((before) => ({ ...before, starts_at: at }), "start");
  };
  const { plan, answer, problem, moved, pending, old, othersOld, left } = usePlanning(
    brief,
    begun ? null : shot.plan,
    held,
  );
  const standing = plan ?? shot.plan;
  const [open, setOpen] = useState<string | null>(null);
  const [comparing, setComparing] = useState(false);
  const [ways, setWays] = useState(false);
  // A phone shows one part at a time.
  const [part, setPart] = useState<Part>("sentence");
  const away = (...parts: Part[]) => (parts.includes(part) ? "" : "max-sm:hidden");
  const pins = pinsOf(brief);
  // What rests on estimates stands in whole answers alone.
  const check = pending ? null : (answer?.estimates ?? null);
  const estimated = useMemo(
    () => new Set(check?.matters.flatMap((matter) => matter.dials.map(({ dial }) => dial)) ?? []),
    [check],
  );

  useEffect(() => remember("last-shot", shot.id), [shot.id]);
  useEffect(() => {
    document.title = `${brief.title} · Bench · Steady Tide`;
  }, [brief.title]);

  const setPins = (update: (pins: Pins) => Pins) => change((b) => withPins(b, update(pinsOf(b))));
  const latestPins = useRef(setPins);
  latestPins.current = setPins;
  const choose = useCallback(
    (dial: string, value: DialValue["value"]) => latestPins.current((now) => ({ ...now, [dial]: value })),
    [],
  );
  const pinCamera = (camera: string | null) =>
    setPins(({ camera: _, ...rest }) => (camera === null ? rest : { ...rest, camera }));
  // Another way of working can be tried with one click, and taken back with one.
  const [trial, setTrial] = useState<Trial | null>(null);
  const tryWay = useCallback((rival: Rival) => latestTry.current(rival), []);
  const latestTry = useRef((_: Rival) => {});
  latestTry.current = (rival) => {
    const axis = rival.axis as keyof Brief["school"];
    setTrial({
      name: rival.name,
      axis,
      before: (brief.school?.[axis] ?? null) as string | null,
      school: rival.school,
    });
    change((b) => ({ ...b, school: { ...b.school, [axis]: rival.school } }));
  };
  const tried =
    trial && brief.school?.[trial.axis] === trial.school
      ? {
          name: trial.name,
          back: () => {
            change((b) => ({ ...b, school: { ...b.school, [trial.axis]: trial.before } }) as Brief);
            setTrial(null);
          },
        }
      : null;
  const togglePin = (row: Row) => setPins((now) => (standing ? togglePins(row, standing, now) : now));

  useShortcuts("bench", (id) => {
    const row = standing?.rows.find((entry) => id === `row-${entry.id}`);
    if (row) {
      setPart("sheet");
      setOpen((now) => (now === row.id ? null : row.id));
      document.querySelector<HTMLElement>(`[data-row=${row.id}] button`)?.focus();
      return true;
    }
    if (id === "sentence") document.querySelector<HTMLElement>("#sentence .token")?.focus();
    else if (id === "cameras") setComparing(true);
    else if (id === "ways") setWays(true);
    else if (id === "undo") engine.undo();
    else if (id === "redo") engine.redo();
    else if (id === "pin") {
      const held = standing?.rows.find((entry) => entry.id === open);
      if (!held) return false;
      togglePin(held);
    } else return false;
    return true;
  });
  useEffect(() => {
    const close = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || event.defaultPrevented || document.querySelector("[role=dialog]")) return;
      const row = document.activeElement?.closest("[data-row]");
      row?.querySelector<HTMLElement>("button")?.focus();
      setOpen(null);
    };
    window.addEventListener("keydown", close);
    return () => window.removeEventListener("keydown", close);
  }, []);

  const words = {
    tokens: tokensOf(
      entry,
      vocabulary,
      day,
      standing?.graded ?? null,
      answer?.instruments.contrast_matters ? answer.instruments.contrast_stops : null,
    ),
    faults: problem?.faults ?? [],
    brief,
    change,
    starts_at,
    setStart,
    settle: () => history.settle(),
    vocabulary,
    day,
    instruments: answer?.instruments ?? null,
  };
  return (
    <main className="flex flex-1 flex-col">
      <h1 className="sr-only">{brief.title}: what to set</h1>
      <HeadTools
        says={savingWords(saving)}
        grave={["away", "refused", "conflict"].includes(saving.kind)}
        canUndo={history.canUndo}
        canRedo={history.canRedo}
        undo={engine.undo}
        redo={engine.redo}
      />
      {part !== "sentence" && (problem || left || saving.kind === "conflict") && (
        <p role="alert" className="border-note border-b px-4 py-2 text-small sm:hidden">
          {problem ? (
            <b className="text-note">
              {problem.faults[0] ? "The brief cannot be planned so." : problem.title}
            </b>
          ) : saving.kind === "conflict" ? (
            <b className="text-note">This shot was changed elsewhere.</b>
          ) : (
            `Now on the ${standing?.camera.name ?? "other camera"}.`
          )}{" "}
          <button type="button" className="underline" onClick={() => setPart("sentence")}>
            See the brief
          </button>
        </p>
      )}
      <section
        aria-label="Brief"
        className={`flex flex-none gap-6 border-rule border-b px-6 pt-[9px] pb-[10px] max-sm:flex-col max-sm:gap-2 max-sm:px-4 ${away("sentence")}`}
      >
        <div className="min-w-0 flex-1">
          <Sentence {...words} />
          {saving.kind === "conflict" && <Conflict what="This shot" engine={engine} />}
          {place.error && (
            <p role="alert" className="pt-1 text-small text-note">
              The start was not taken: {place.error.message}
            </p>
          )}
          {problem && problem.faults.length === 0 && (
            <p role="alert" className="pt-1 text-small">
              <b className="text-note">{problem.title}.</b> {problem.message}
              {problem.pins.length > 0 && (
                <>
                  {" "}
                  {problem.pins.map((pin) => (
                    <button
                      key={pin}
                      type="button"
                      className="plain ml-1 min-h-[24px] py-0"
                      onClick={() => setPins(({ [pin]: _, ...rest }) => rest)}
                    >
                      release {vocabulary.dials[pin] ?? pin}
                    </button>
                  ))}
                </>
              )}
              {standing && " The last good plan stands below."}
            </p>
          )}
          {shot.sheet && <OlderSheet shot={shot} sheet={shot.sheet} planAnew={planAnew} />}
          {left && standing && !problem && (
            <CameraMoved left={left} plan={standing} stay={() => pinCamera(left.id)} />
          )}
        </div>
        <div className="w-[214px] flex-none border-rule border-l pl-[18px] text-small leading-[1.5] text-muted max-sm:w-full max-sm:border-t max-sm:border-l-0 max-sm:pt-2 max-sm:pl-0">
          <p className="flex items-baseline gap-3">
            <span className="text-lead font-bold text-ink">{standing?.camera.name ?? "No camera yet"}</span>
            <Link
              className="underline decoration-deep underline-offset-3 hover:text-ink"
              to={`/shots/${shot.id}/card`}
            >
              card
            </Link>
            <button
              type="button"
              className="underline decoration-deep underline-offset-3 hover:text-ink"
              onClick={() => setWays(true)}
            >
              compare
            </button>
          </p>
          {standing && ways && (
            <Suspense>
              <Compare
                shot={shot.id}
                brief={brief}
                plan={standing}
                way={schoolWords(brief, vocabulary)}
                held={held}
                open={ways}
                onOpen={setWays}
                use={({ pins, school }) => change((b) => ({ ...b, pins, school }) as Brief)}
              />
            </Suspense>
          )}
          {standing && (
            <Cameras
              plan={standing}
              open={comparing}
              pinned={"camera" in pins}
              othersOld={othersOld}
              onOpen={setComparing}
              onPin={pinCamera}
            />
          )}
          <Beside {...words} />
          {Object.keys(pins).length > 0 && (
            <button
              type="button"
              className="underline decoration-deep underline-offset-3 hover:text-ink"
              onClick={() => setPins(() => ({}))}
            >
              {Object.keys(pins).length === 1
                ? "release the pin"
                : `release all ${Object.keys(pins).length} pins`}
            </button>
          )}
        </div>
      </section>
      {standing ? (
        <div
          className={`grid flex-1 grid-cols-[316px_minmax(0,1fr)_330px] max-xl:grid-cols-[316px_minmax(0,1fr)] max-sm:grid-cols-[minmax(0,1fr)] ${problem ? "opacity-60" : ""}`}
          aria-busy={pending}
        >
          <div className={`border-rule border-r px-2 pt-2 max-sm:border-0 ${away("light")}`}>
            <div className="sticky top-2">
              <LightSide
                shot={shot.id}
                held={held}
                brief={brief}
                plan={standing}
                vocabulary={vocabulary}
                zone={day.zone}
                answer={answer}
                change={change}
              >
                <Gauge plan={standing} onPin={choose} />
              </LightSide>
            </div>
          </div>
          <div
            className={`border-rule border-r max-xl:order-3 max-xl:col-span-2 max-xl:border-t max-sm:order-2 max-sm:col-span-1 max-sm:border-0 ${away("sheet")}`}
          >
            <Sheet
              plan={standing}
              dialWords={vocabulary.dials}
              pins={pins}
              wrong={problem?.pins ?? []}
              open={open}
              moved={moved}
              estimated={estimated}
              onOpen={setOpen}
              onPin={togglePin}
              onChoose={choose}
            />
          </div>
          <div className={`px-[22px] pt-3 pb-6 max-sm:order-3 max-sm:px-4 ${away("total")}`}>
            <Ledger plan={standing} old={old} othersOld={othersOld} onTry={tryWay} tried={tried} />
            <OwnUsed shot={shot.id} plan={standing} brief={brief} held={held} pending={pending} />
            <RestsOn check={check} />
          </div>
        </div>
      ) : (
        <p className="p-6 text-muted">
          {problem ? "There is no plan yet. Mend what is marked above." : "Planning."}
        </p>
      )}
      <nav
        data-foot
        aria-label="Parts of the Bench"
        className="no-print sticky bottom-0 z-10 mt-auto grid grid-cols-4 border-ink border-t bg-ground sm:hidden"
      >
        {PARTS.map(([id, says]) => (
          <button
            key={id}
            type="button"
            data-part={id}
            aria-pressed={part === id}
            className={`min-h-13 border-t-3 text-body leading-tight ${part === id ? "border-ink font-bold" : "border-transparent text-muted"}`}
            onClick={() => {
              setPart(id);
              window.scrollTo(0, 0);
            }}
          >
            {id === "total" && standing ? (
              <>
                <b className={`text-lead ${old ? "italic" : "text-ink"}`}>{stops(standing.given_up_stops)}</b>{" "}
                {says}
              </>
            ) : (
              says
            )}
          </button>
        ))}
      </nav>
    </main>
  );
}

const PARTS = [
  ["sentence", "Brief"],
  ["sheet", "Sheet"],
  ["total", "given up"],
  ["light", "Light"],
] as const;
type Part = (typeof PARTS)[number][0];
type Rival = Plan["schools"][number];
type Trial = { name: string; axis: keyof Brief["school"]; before: string | null; school: string };

/** A changed brief with its start: a sky of another time takes the shot along. */
function atOneTime(entry: Entry, brief: Brief): Entry {
  const [before, now] = [skyOf(entry.brief.light)?.start, skyOf(brief.light)?.start];
  return { brief, starts_at: now !== undefined && now !== before ? now : entry.starts_at };
}

/** What the head says of saving. */
function savingWords(saving: Status): string {
  const clock = (at: Date) => at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return {
    new: () => "",
    saved: () => `saved ${saving.kind === "saved" ? clock(saving.at) : ""}`,
    saving: () => "saving",
    away: () => "cannot save now; kept here, trying again",
    refused: () => "not saved: mend what is marked",
    conflict: () => "changed elsewhere",
  }[saving.kind]();
}
