// Look: a plan before it is filmed, beside another one.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { shotQuery, vocabularyQuery } from "../../api/bench";
import { changed } from "../../api/keys";
import { type Frame, frameQuery, type Side, type Sight, toldQuery } from "../../api/look";
import {
  type Brief,
  heldBy,
  type Pins,
  type Plan,
  pinsOf,
  type Shot,
  type Vocabulary,
  withPins,
} from "../../api/types";
import { remember } from "../../changes/storage";
import { Framed, Picture } from "../../instruments/picture";
import { Split } from "../../instruments/split";
import { useGround } from "../../parts/ground";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { Toggle } from "../../parts/toggle";
import { Trouble } from "../../parts/trouble";
import { pinShot } from "../bench/shot-changes";
import { LightBand } from "./light-band";
import { Motion } from "./motion";
import { type Other, OtherPlan } from "./other";
import { OnCard, Save } from "./out";
import { SceneChoice } from "./scene-choice";
import { Strip } from "./strip";
import { Limits, Prices, Table } from "./told";

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
  if (!shot.data || !vocabulary.data) return <Loading what="Loading the shot." />;
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
    mutationFn: ({ pins }: { pins: Pins; says: string; back: Pins | null }) =>
      pinShot(shot.id, (kept) => known({ ...kept, ...pins })),
    onSuccess: () => changed.sheetOf(shot.id),
  });
  /** Undo gives one dial back what it was held at, and touches no other. */
  const pin = (dial: string, value: unknown, says: string) =>
    pinned.mutate({ pins: { [dial]: value }, says, back: { [dial]: pinsOf(shot.brief)[dial] } });

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
        <h1 className="font-serif text-title leading-[1.55] font-normal">
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
          <span className="whitespace-nowrap">
            <button type="button" className="token" onClick={() => setGraded(!isGraded)}>
              {isGraded ? "as graded" : "as recorded"}
            </button>
            .
          </span>
        </h1>
      </section>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)_400px] max-lg:grid-cols-[minmax(0,1fr)]">
        <div className="grid content-start gap-3 px-6 pt-3 pb-5 max-sm:px-4">
          <div className="flex flex-wrap justify-between gap-x-6 text-body">
            <p>
              <b>this plan</b> <span className="text-small text-muted">{told.data?.made[0]}</span>
            </p>
            {other && (
              <p className="ml-auto text-right">
                <span className="text-small text-muted">{told.data?.made[1]}</span> <b>{other.says}</b>
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
              pin={pin}
            />
          )}
          {pinned.error && <Trouble error={pinned.error} retry={() => pinned.mutate(pinned.variables)} />}
          {pinned.isSuccess && pinned.variables.back && (
            <p role="status" className="text-small">
              Pinned: {pinned.variables.says}.{" "}
              <button
                type="button"
                className="underline"
                onClick={() =>
                  pinned.mutate({ pins: pinned.variables.back ?? {}, says: "as it was", back: null })
                }
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
          <div role="group" aria-label="How it is shown" className="flex flex-wrap gap-x-4 pb-3 text-small">
            <Toggle on={!moving} says="still" take={() => setMoving(false)} />
            <Toggle on={moving} says="motion" take={() => setMoving(true)} />
            {other && !moving && <Toggle on={beside} says="side by side" take={() => setBeside(!beside)} />}
            <Toggle on={marked} says="marks" take={() => setMarked(!marked)} />
            {ground === "red" && <Toggle on={coloured} says="colours" take={() => setColoured(!coloured)} />}
          </div>
          <h2 className="border-ink border-b pb-1 font-serif text-lead font-semibold">At delivered pixels</h2>
          <div className="grid grid-cols-2 gap-2 pt-2 max-lg:max-w-[460px]">
            <Near side={own} sight={near} place="near left" says="this plan" coloured={coloured} />
            {other && (
              <Near side={other.side} sight={near} place="near right" says={other.says} coloured={coloured} />
            )}
          </div>
          <p className="pt-1 text-fine text-muted">
            One pixel of the delivery to one of the screen; the loupe in the frame says where.
          </p>
          <h2 className="mt-4 border-ink border-b pb-1 font-serif text-lead font-semibold">
            What it came to
          </h2>
          {told.data ? <Table told={told.data} /> : <Loading what="Measuring the frames." className="py-2" />}
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

/** Without those that are held no more. */
function known(pins: Pins): Pins {
  return Object.fromEntries(Object.entries(pins).filter(([, value]) => value !== undefined));
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
  const pins = { ...pinsOf(brief), camera: plan.camera.id, [dial]: next.value };
  return {
    says: `${vocabulary.dials[dial] ?? dial} ${next.label}`,
    side: { brief: withPins(brief, pins), chosen: {}, held },
  };
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
      <figcaption className="pt-[2px] text-fine text-muted">{says}</figcaption>
    </figure>
  );
}
