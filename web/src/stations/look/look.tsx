// Look: a plan before it is filmed, beside another one.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { benchApi, shotQuery, vocabularyQuery } from "../../api/bench";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import {
  drawFrame,
  type Frame,
  frameQuery,
  type LookTold,
  lookApi,
  type Side,
  type Sight,
  scenesQuery,
  toldQuery,
} from "../../api/look";
import { type Brief, heldBy, type Plan, type Shot, type Vocabulary } from "../../api/types";
import { Framed, Picture } from "../../instruments/picture";
import { Split } from "../../instruments/split";
import { useGround } from "../../parts/ground";
import { useShortcuts } from "../../parts/keyboard";
import { remember } from "../../parts/remembered";
import { Trouble } from "../../parts/trouble";
import { stops } from "../../parts/words";
import { Motion } from "./motion";
import { type Other, OtherPlan, withPins } from "./other";
import { fileName, saveAs } from "./saving";
import { SceneChoice } from "./scene-choice";
import { Strip } from "./strip";

const WIDTH = 960;
const LOUPE_PX = 176;

export default function LookStation() {
  const { shotId = "" } = useParams();
  const shot = useQuery(shotQuery(shotId));
  const vocabulary = useQuery(vocabularyQuery);
  useEffect(() => remember("last-shot", shotId), [shotId]);
  useEffect(() => {
    document.title = `${shot.data?.brief.title ?? "Look"} · Look · Steady Tide`;
  }, [shot.data]);
  const error = shot.error ?? vocabulary.error;
  if (error && !shot.data)
    return (
      <Trouble
        error={error}
        retry={() => {
          shot.refetch();
          vocabulary.refetch();
        }}
      />
    );
  if (!shot.data || !vocabulary.data) return <p className="p-6 text-muted">Setting up the scene.</p>;
  if (!shot.data.plan)
    return (
      <p className="p-6">
        This shot has no plan to look at. Mend its brief on the{" "}
        <Link className="underline" to={`/shots/${shotId}`}>
          Bench
        </Link>
        .
      </p>
    );
  return <Looking key={shotId} shot={shot.data} plan={shot.data.plan} vocabulary={vocabulary.data} />;
}

type LookingProps = { shot: Shot; plan: Plan; vocabulary: Vocabulary };

function Looking({ shot, plan, vocabulary }: LookingProps) {
  const held = heldBy(shot);
  const own: Side = { brief: shot.brief, chosen: plan.chosen, held };
  const [other, setOther] = useState<Other | null>(() => firstOther(shot.brief, plan, held, vocabulary));
  const [choosing, setChoosing] = useState(false);
  const [scene, setScene] = useState<string | null>(null);
  const [at, setAt] = useState(0.5);
  const [graded, setGraded] = useState<boolean | null>(null);
  const [marked, setMarked] = useState(false);
  const [beside, setBeside] = useState(false);
  const [line, setLine] = useState(0.5);
  const [loupe, setLoupe] = useState<[number, number]>([0.15, 0.07]);
  const [moving, setMoving] = useState(false);
  const [coloured, setColoured] = useState(false);
  const ground = useGround();
  const isGraded = graded ?? plan.graded;
  const sight: Sight = { scene, at, width: WIDTH, loupe: null, graded: isGraded, marked };
  const left = useQuery(frameQuery(own, sight, "left"));
  const right = useQuery({ ...frameQuery(other?.side ?? own, sight, "right"), enabled: other !== null });
  const rightFrame = other ? (right.data ?? null) : null;
  const told = useQuery({
    ...toldQuery(left.data?.numbers as Frame["numbers"], rightFrame?.numbers ?? null),
    enabled: left.data !== undefined,
  });
  const pinned = useMutation({
    mutationFn: async ({ pins }: { pins: Record<string, unknown>; says: string }) => {
      const kept = await benchApi.shot(shot.id);
      return benchApi.saveShot(shot.id, {
        brief: withPins(kept.brief, pins),
        starts_at: kept.starts_at,
        revision: kept.revision,
      });
    },
    retry: (tried, error) => tried < 3 && error instanceof Problem && error.status === 409,
    retryDelay: 50,
    onSuccess: () => changed.sheetOf(shot.id),
  });
  const pins = (shot.brief.pins ?? {}) as Record<string, unknown>;
  const [before, setBefore] = useState<Record<string, unknown> | null>(null);
  const pin = (next: Record<string, unknown>, says: string) => {
    setBefore(pins);
    pinned.mutate({ pins: next, says });
  };

  useShortcuts("look", (id) => {
    if (id === "look-other") setChoosing(true);
    else if (id === "look-swap") setBeside((now) => !now);
    else if (id === "look-line") document.getElementById("look-line")?.focus();
    else if (id === "look-loupe") document.querySelector<HTMLElement>("[data-loupe]")?.focus();
    else if (id === "look-marks") setMarked((now) => !now);
    else if (id === "look-grade") setGraded(!isGraded);
    else if (id === "look-dim") setAt(0);
    else if (id === "look-bright") setAt(1);
    else if (id === "look-motion") setMoving((now) => !now);
    else return false;
    return true;
  });

  const shape = shot.brief.delivery.width / shot.brief.delivery.height;
  const words = told.data?.text ?? "";
  const name = left.data ? `This plan. ${words}` : "This plan, being drawn.";
  const trouble = left.error ?? (other ? right.error : null);
  const near: Sight = { ...sight, width: LOUPE_PX, loupe };
  return (
    <main className="flex flex-1 flex-col">
      <section aria-label="What is compared" className="border-rule border-b px-6 py-[10px] max-sm:px-4">
        <h1 className="font-serif text-[19.5px] leading-[1.55] font-normal">
          What{" "}
          <Link className="token" to={`/shots/${shot.id}`}>
            {shot.brief.title}
          </Link>{" "}
          would look like with <b>this plan</b> and with{" "}
          <OtherPlan
            shot={shot}
            plan={plan}
            held={held}
            vocabulary={vocabulary}
            other={other}
            choose={setOther}
            open={choosing}
            onOpen={setChoosing}
          />
          , drawn as{" "}
          <SceneChoice
            scene={scene ?? left.data?.numbers.scene ?? null}
            kind={shot.brief.scenario}
            choose={setScene}
          />
          ,{" "}
          <button type="button" className="token" onClick={() => setGraded(!isGraded)}>
            {isGraded ? "as graded" : "as recorded"}
          </button>
          .
        </h1>
      </section>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)_400px] max-lg:grid-cols-[minmax(0,1fr)]">
        <div className="grid content-start gap-3 px-6 pt-3 pb-5 max-sm:px-4">
          <div className="flex flex-wrap justify-between gap-x-6 text-[14px]">
            <p>
              <b>this plan</b> <span className="text-[13px] text-muted">{told.data?.made[0]}</span>
            </p>
            {other && (
              <p className="text-right">
                <span className="text-[13px] text-muted">{told.data?.made[1]}</span> <b>{other.says}</b>
              </p>
            )}
          </div>
          {moving ? (
            <Motion
              title={shot.brief.title}
              sides={other ? [own, other.side] : [own]}
              sight={sight}
              coloured={coloured}
              names={other ? ["this plan", other.says] : ["this plan"]}
            />
          ) : (
            <Split
              shape={shape}
              left={{ src: left.data?.src ?? null, says: name, old: left.isPlaceholderData }}
              right={
                other && {
                  src: rightFrame?.src ?? null,
                  says: `${other.says}. ${words}`,
                  old: right.isPlaceholderData,
                }
              }
              beside={beside}
              at={line}
              onMove={setLine}
              coloured={coloured}
              loupe={loupe}
              loupeWide={LOUPE_PX / shot.brief.delivery.width}
              onLoupe={setLoupe}
              words={words}
            />
          )}
          {trouble && (
            <Trouble error={trouble} retry={() => (left.error ? left.refetch() : right.refetch())} />
          )}
          <LightBand plan={plan} at={at} onAt={setAt} ev={left.data?.numbers.ev100 ?? null} />
          {!moving && (
            <Strip
              shot={shot}
              plan={plan}
              held={held}
              vocabulary={vocabulary}
              sight={sight}
              coloured={coloured}
              pin={(dial, value, says) => pin({ ...pins, [dial]: value }, says)}
            />
          )}
          {pinned.error && <Trouble error={pinned.error} retry={() => pinned.mutate(pinned.variables)} />}
          {pinned.isSuccess && before && (
            <p role="status" className="text-[13px]">
              Pinned: {pinned.variables.says}.{" "}
              <button
                type="button"
                className="underline"
                onClick={() => {
                  pinned.mutate({ pins: before, says: "as it was" });
                  setBefore(null);
                }}
              >
                Undo
              </button>
            </p>
          )}
        </div>
        <aside
          aria-label="What it was made from"
          className="border-rule border-l px-5 pt-3 pb-6 max-lg:border-t max-lg:border-l-0 max-sm:px-4"
        >
          <div role="group" aria-label="How it is shown" className="flex flex-wrap gap-x-4 pb-3 text-[13px]">
            <Tab on={!moving} says="still" take={() => setMoving(false)} />
            <Tab on={moving} says="motion" take={() => setMoving(true)} />
            {other && !moving && <Tab on={beside} says="side by side" take={() => setBeside(!beside)} />}
            <Tab on={marked} says="marks" take={() => setMarked(!marked)} />
            {ground === "red" && <Tab on={coloured} says="colours" take={() => setColoured(!coloured)} />}
          </div>
          <h2 className="border-ink border-b pb-1 font-serif text-[17px] font-semibold">
            At delivered pixels
          </h2>
          <div className="grid grid-cols-2 gap-2 pt-2 max-lg:max-w-[460px]">
            <Near side={own} sight={near} place="near left" says="this plan" coloured={coloured} />
            {other && (
              <Near side={other.side} sight={near} place="near right" says={other.says} coloured={coloured} />
            )}
          </div>
          <p className="pt-1 text-[12px] text-muted">
            One pixel of the delivery to one of the screen; the loupe in the frame says where.
          </p>
          <h2 className="mt-4 border-ink border-b pb-1 font-serif text-[17px] font-semibold">
            What it came to
          </h2>
          {told.data ? (
            <table className="w-full text-[13.5px]">
              <thead>
                <tr className="text-right text-[12px] text-muted">
                  <td />
                  <th className="py-1 font-normal">this plan</th>
                  {other && <th className="max-w-[110px] py-1 pl-3 font-normal">the other</th>}
                </tr>
              </thead>
              <tbody>
                {told.data.rows.map((row) => (
                  <tr key={row.item} className="border-hair border-b align-baseline">
                    <th className="py-[5px] text-left font-normal text-muted">{row.title}</th>
                    <Value value={row.left} unit={row.unit} worse={row.worse === "left"} plan={row.plan} />
                    {row.right !== null && other && (
                      <Value value={row.right} unit={row.unit} worse={row.worse === "right"} plan={null} />
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
          ) : (
            <p className="py-2 text-muted">Measuring the frames.</p>
          )}
          <p className="pt-3" role="status">
            {words}
          </p>
          {told.data && left.data && (
            <Prices told={told.data} total={[left.data.numbers, rightFrame?.numbers]} />
          )}
          <Limits />
          <div className="flex flex-wrap gap-2 pt-3">
            <Save side={own} sight={sight} name={`${shot.brief.title} this plan`} says="Save this frame" />
            {other && (
              <Save
                side={other.side}
                sight={sight}
                name={`${shot.brief.title} ${other.says}`}
                says="Save the other"
              />
            )}
          </div>
          <OnCard
            shot={shot.id}
            frames={[
              { name: "this plan", side: own },
              ...(other ? [{ name: other.says, side: other.side }] : []),
            ]}
            sight={sight}
          />
        </aside>
      </div>
    </main>
  );
}

/** To begin with: what the crew's rivals would do about noise, else the value next to the plan's own. */
function firstOther(brief: Brief, plan: Plan, held: string | null, vocabulary: Vocabulary): Other | null {
  const rival =
    plan.schools.find((one) => ["noise", "shutter", "colour"].includes(one.axis)) ?? plan.schools[0];
  if (rival)
    return {
      says: rival.name,
      side: { brief, chosen: { ...plan.chosen, ...rival.chosen }, held },
    };
  const dial = "iso_ceiling";
  const next = (plan.profiles[dial] ?? []).findLast(
    (value) => value.legal && value.value !== plan.chosen[dial],
  );
  if (!next) return null;
  const pins = { ...brief.pins, camera: plan.camera.id, [dial]: next.value } as Record<string, unknown>;
  return {
    says: `${vocabulary.dials[dial] ?? dial} ${next.label}`,
    side: { brief: withPins(brief, pins), chosen: {}, held },
  };
}

function Tab({ on, says, take }: { on: boolean; says: string; take: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`border-b-2 ${on ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
      onClick={take}
    >
      {says}
    </button>
  );
}

type PricesProps = { told: LookTold; total: [Frame["numbers"], Frame["numbers"] | undefined] };

/** What the plans give up, in the ledger's words, so that picture and price can be compared. */
function Prices({ told, total: [own, theirs] }: PricesProps) {
  return (
    <table className="mt-3 w-full text-[13.5px]">
      <caption className="border-ink border-b pb-1 text-left font-serif text-[17px] font-semibold">
        What it gives up
      </caption>
      <tbody>
        {told.prices.map((price) => (
          <tr key={price.item} className="border-hair border-b align-baseline">
            <th className="py-[4px] text-left font-normal text-muted">{price.title}</th>
            <td className="py-[4px] pl-3 text-right">{price.left < 0.05 ? "–" : stops(price.left)}</td>
            {price.right !== null && (
              <td className="py-[4px] pl-3 text-right">{price.right < 0.05 ? "–" : stops(price.right)}</td>
            )}
          </tr>
        ))}
        <tr className="font-bold">
          <th className="py-[4px] text-left">in all, stops</th>
          <td className="py-[4px] pl-3 text-right">{stops(own.given_up_stops)}</td>
          {theirs && <td className="py-[4px] pl-3 text-right">{stops(theirs.given_up_stops)}</td>}
        </tr>
      </tbody>
    </table>
  );
}

type ValueProps = { value: string; unit: string; worse: boolean; plan: string | null };

function Value({ value, unit, worse, plan }: ValueProps) {
  return (
    <td className="py-[5px] pl-3 text-right whitespace-nowrap">
      <b className={worse ? "text-note" : ""}>{value}</b>{" "}
      <span className="text-[12px] text-muted">{unit}</span>
      {worse && <span className="sr-only"> worse</span>}
      {plan !== null && plan !== value && <span className="block text-[12px] text-muted">plan {plan}</span>}
    </td>
  );
}

type NearProps = { side: Side; sight: Sight; place: string; says: string; coloured: boolean };

function Near({ side, sight, place, says, coloured }: NearProps) {
  const frame = useQuery(frameQuery(side, sight, place));
  return (
    <figure style={{ width: LOUPE_PX, maxWidth: "100%" }}>
      <Framed shape={16 / 9}>
        <Picture
          src={frame.data?.src ?? null}
          says={`${says}, at delivered pixels`}
          coloured={coloured}
          old={frame.isPlaceholderData}
          sharp
        />
      </Framed>
      <figcaption className="pt-[2px] text-[12px] text-muted">{says}</figcaption>
    </figure>
  );
}

type LightBandProps = { plan: Plan; at: number; ev: number | null; onAt: (at: number) => void };

/** The light of the shot from its dimmest to its brightest moment. */
function LightBand({ plan, at, ev, onAt }: LightBandProps) {
  const [low, high] = plan.exposure.ev100;
  if (high - low < 0.1) return <p className="text-[13px] text-muted">The light stays at EV {stops(low)}.</p>;
  return (
    <label className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-3 text-[13px] text-muted">
      <span>dimmest, EV {stops(low)}</span>
      <input
        type="range"
        className="w-full accent-[var(--ink)]"
        min={0}
        max={1}
        step={0.05}
        value={at}
        aria-label="Moment of the light"
        aria-valuetext={`EV ${stops(ev ?? low + at * (high - low))}`}
        onChange={(event) => onAt(Number(event.target.value))}
      />
      <span>brightest, EV {stops(high)}</span>
    </label>
  );
}

function Limits() {
  const scenes = useQuery(scenesQuery);
  return <p className="pt-3 text-[12.5px] text-muted">{scenes.data?.limits}</p>;
}

type OnCardProps = { shot: string; frames: { name: string; side: Side }[]; sight: Sight };

function OnCard({ shot, frames, sight }: OnCardProps) {
  const put = useMutation({
    mutationFn: (put: typeof frames) => lookApi.putOnCard(shot, put, sight),
    onSuccess: () => changed.cardFrames(shot),
  });
  return (
    <p className="flex flex-wrap items-center gap-2 pt-2 text-[13px]">
      <button type="button" className="plain" disabled={put.isPending} onClick={() => put.mutate(frames)}>
        {put.isPending
          ? "Drawing for the card"
          : frames.length > 1
            ? "Put both on the card"
            : "Put it on the card"}
      </button>
      {put.data && (
        <span role="status">
          {put.data.total === 0 ? "Taken off the card." : "On the "}
          {put.data.total > 0 && (
            <>
              <Link className="underline" to={`/shots/${shot}/card`}>
                card
              </Link>
              .{" "}
              <button type="button" className="underline" onClick={() => put.mutate([])}>
                Take off
              </button>
            </>
          )}
        </span>
      )}
      {put.error && (
        <span role="alert" className="text-note">
          {put.error.message}
        </span>
      )}
    </p>
  );
}

type SaveProps = { side: Side; sight: Sight; name: string; says: string };

function Save({ side, sight, name, says }: SaveProps) {
  const save = useMutation({
    mutationFn: (form: "png" | "webp") =>
      drawFrame(side, { ...sight, width: 1920 }, `save ${name}`, undefined, form),
    onSuccess: (frame, form) => saveAs(fileName(name, form), frame.src),
  });
  return (
    <span className="inline-flex items-center gap-1">
      <button type="button" className="plain" disabled={save.isPending} onClick={() => save.mutate("png")}>
        {save.isPending ? "Drawing it large" : says}
      </button>
      <button
        type="button"
        className="text-[12.5px] text-muted underline"
        aria-label={`${says} as WebP`}
        disabled={save.isPending}
        onClick={() => save.mutate("webp")}
      >
        WebP
      </button>
      {save.error && (
        <span role="alert" className="text-[12.5px] text-note">
          {save.error.message}
        </span>
      )}
    </span>
  );
}
