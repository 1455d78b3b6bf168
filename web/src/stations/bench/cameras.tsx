// The cameras of the kit for this shot: what each gives up at its best, and why the first is first.
import type { Plan, RankedCamera } from "../../api/types";
import { Panel } from "../../parts/panel";
import { stops } from "../../parts/words";

type Props = {
  plan: Plan;
  open: boolean;
  pinned: boolean;
  /** What is said of the others belongs to the brief as it was a moment ago. */
  othersOld: boolean;
  onOpen: (open: boolean) => void;
  onPin: (camera: string | null) => void;
};

export function Cameras({ plan, open, pinned, othersOld, onOpen, onPin }: Props) {
  const second = plan.cameras.find(
    (camera) => camera.id !== plan.camera.id && camera.given_up_stops !== null,
  );
  const worst = Math.max(1, ...plan.cameras.map((camera) => camera.given_up_stops ?? 0));
  return (
    <Panel
      label="Cameras"
      trigger={{
        className: `token font-sans text-small not-italic ${othersOld ? "text-muted" : ""}`,
        "aria-busy": othersOld,
        "aria-label": `Cameras: ${plan.camera.name}${pinned ? ", pinned" : ""}${second ? `, next best ${second.name}` : ""}`,
        "data-testid": "cameras",
      }}
      says={
        second
          ? `next best: ${second.name}, ${stops(second.given_up_stops ?? 0)} stops`
          : "no other camera can"
      }
      open={open}
      onOpen={onOpen}
      align="end"
      wide="w-[660px] p-5"
    >
      <div className="flex items-baseline justify-between border-ink border-b pb-2">
        <h2 className="font-serif text-title font-semibold">Cameras for this shot</h2>
        {pinned && (
          <button type="button" className="plain" onClick={() => onPin(null)}>
            Let the best one be found
          </button>
        )}
      </div>
      {othersOld && <p className="pt-1 text-fine text-muted">From the plan before; updating.</p>}
      <ol>
        {plan.cameras.map((camera) => (
          <Line
            key={camera.id}
            camera={camera}
            worst={worst}
            chosen={camera.id === plan.camera.id}
            pinned={pinned && camera.id === plan.camera.id}
            take={() => onPin(camera.id)}
          />
        ))}
      </ol>
    </Panel>
  );
}

type LineProps = {
  camera: RankedCamera;
  worst: number;
  chosen: boolean;
  pinned: boolean;
  take: () => void;
};

function Line({ camera, worst, chosen, pinned, take }: LineProps) {
  const can = camera.given_up_stops !== null;
  return (
    <li
      className={`grid grid-cols-[1fr_70px_92px] gap-x-3 border-hair border-b py-2 ${can ? "" : "text-muted"}`}
    >
      <div>
        <p className={`text-lead leading-tight ${chosen ? "font-bold" : ""} ${can ? "" : "line-through"}`}>
          {camera.name}
        </p>
        {can && <p className="pt-[2px] text-small">{camera.says}</p>}
        <p className="pt-[2px] text-fine text-muted">{camera.why}</p>
      </div>
      <div className="text-right">
        {camera.given_up_stops !== null && (
          <>
            <b className="text-lead">{stops(camera.given_up_stops)}</b>
            <span className="block pt-1">
              <span
                className={`ml-auto block h-[7px] ${chosen ? "bg-ink" : "bg-deep"}`}
                style={{ width: Math.max(2, (camera.given_up_stops / worst) * 64) }}
              />
            </span>
          </>
        )}
      </div>
      <div className="text-right">
        {can && (
          <button
            type="button"
            aria-pressed={pinned}
            className={`plain ${pinned ? "border-2 border-ink font-bold" : ""}`}
            aria-label={`${pinned ? "Pinned" : chosen ? "Pin" : "Use"}: ${camera.name}`}
            onClick={take}
          >
            {pinned ? "pinned" : chosen ? "pin" : "use"}
          </button>
        )}
      </div>
    </li>
  );
}
