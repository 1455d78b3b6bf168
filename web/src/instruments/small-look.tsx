// The Bench's small frame of the plan at hand: it follows each change.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { frameQuery, toldQuery } from "../api/look";
import type { Brief, Plan } from "../api/types";
import { Framed, Picture } from "./picture";

type Props = { shot: string; brief: Brief; plan: Plan; held: string | null };

const WIDTH = 400;

export function SmallLook({ shot, brief, plan, held }: Props) {
  const sight = { scene: null, at: 0.5, width: WIDTH, loupe: null, graded: plan.graded, marked: false };
  const frame = useQuery(frameQuery({ brief, chosen: plan.chosen, held }, sight, "small"));
  const told = useQuery({
    ...toldQuery(frame.data?.numbers as NonNullable<typeof frame.data>["numbers"], null),
    enabled: frame.data !== undefined,
  });
  return (
    <figure>
      <Framed shape={brief.delivery.width / brief.delivery.height}>
        <Picture
          src={frame.data?.src ?? null}
          says={
            told.data ? `A drawn frame of this plan. ${told.data.text}` : "A frame of this plan, being drawn"
          }
          old={frame.isPlaceholderData}
        />
      </Framed>
      <figcaption className="pt-2 text-small">
        {frame.error ? <span className="text-note">{frame.error.message}</span> : told.data?.text}
        <span className="block pt-1 text-fine text-muted">
          Midway through its light, {plan.graded ? "as graded" : "as recorded"}.{" "}
          <Link className="underline" to={`/shots/${shot}/look`}>
            Look at it beside another plan
          </Link>
        </span>
      </figcaption>
    </figure>
  );
}
