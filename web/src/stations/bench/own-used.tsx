// The numbers of one's own that a plan was made with, and what each of them changed.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { benchApi } from "../../api/bench";
import { keys } from "../../api/keys";
import type { Brief, Plan, Schemas } from "../../api/types";

type Props = {
  plan: Plan;
  shot: string;
  brief: Brief;
  held: string | null;
  /** Whether another plan is on its way. */
  pending: boolean;
};

export function OwnUsed({ plan, shot, brief, held, pending }: Props) {
  const own = plan.own ?? [];
  // Asked after the plan: it is planned again without each of them, which nobody waits for.
  const asked = useQuery({
    queryKey: keys.ownChanges({ brief, held, own }),
    queryFn: ({ signal }) => benchApi.ownChanges(brief, held, signal),
    enabled: own.length > 0 && !pending,
    staleTime: 60_000,
    gcTime: 60_000,
  });
  const changes = pending ? [] : (asked.data?.items ?? []);
  return (
    <>
      {own.length > 0 && <Used own={own} changes={changes} />}
      <p className="pt-3 text-fine text-muted">
        Not sure of a dial?{" "}
        <Link className="underline" to={`/log/ladders?shot=${shot}`}>
          Settle it by a test ladder
        </Link>
        .
      </p>
    </>
  );
}

function Used({ own, changes }: { own: NonNullable<Plan["own"]>; changes: Schemas["OwnChangeText"][] }) {
  return (
    <section aria-label="Your numbers" className="pt-4">
      <h2 className="flex items-baseline justify-between pb-1 font-serif text-lead font-semibold">
        Your numbers
        <Link className="font-sans text-fine font-normal underline" to="/log/own">
          switch
        </Link>
      </h2>
      <ul>
        {own.map((used) => {
          const change = changes.find((one) => one.key === used.key);
          return (
            <li key={used.key} className="border-hair border-b py-[5px] text-small">
              {used.says}
              {change && (
                <span className="block text-fine text-muted">
                  {[...change.changes.map((says) => `${says}.`), change.price].join(" ")}
                </span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
