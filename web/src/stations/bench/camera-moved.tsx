// Said when a change made another camera the best one.
import type { Plan } from "../../api/types";
import { stops } from "../../parts/words";

type Props = { left: Plan["camera"]; plan: Plan; stay: () => void };

export function CameraMoved({ left, plan, stay }: Props) {
  const before = plan.cameras.find((camera) => camera.id === left.id);
  const more = (before?.given_up_stops ?? 0) - plan.given_up_stops;
  return (
    <p role="status" className="pt-1 text-small">
      <b>Now on the {plan.camera.name}.</b>{" "}
      {before?.given_up_stops == null ? (
        `The ${left.name} cannot do this: ${before?.why ?? "it is not in the kit."}`
      ) : (
        <>
          The {left.name} would give up {stops(more)} stops more.
          <button type="button" className="plain ml-2 min-h-[24px] py-0" onClick={stay}>
            stay on the {left.name}
          </button>
        </>
      )}
    </p>
  );
}
