// The numbers of one's own that a plan was made with, and what each of them changed.
import { Link } from "react-router";
import type { Plan, Schemas } from "../../api/types";

type Props = { plan: Plan; changes: Schemas["ToldOwnChange"][]; shot: string };

export function OwnUsed({ plan, changes, shot }: Props) {
  const own = plan.own ?? [];
  return (
    <>
      {own.length > 0 && <Used own={own} changes={changes} />}
      <p className="pt-3 text-[12.5px] text-muted">
        Not sure of a dial?{" "}
        <Link className="underline" to={`/log/ladders?shot=${shot}`}>
          Settle it by a test ladder
        </Link>
        .
      </p>
    </>
  );
}

function Used({ own, changes }: { own: NonNullable<Plan["own"]>; changes: Props["changes"] }) {
  return (
    <section aria-label="Your own numbers" className="pt-4">
      <h2 className="flex items-baseline justify-between pb-1 font-serif text-[16px] font-semibold">
        Your own numbers
        <Link className="font-sans text-[12.5px] font-normal underline" to="/log/own">
          switch
        </Link>
      </h2>
      <ul>
        {own.map((used) => {
          const change = changes.find((one) => one.key === used.key);
          return (
            <li key={used.key} className="border-hair border-b py-[5px] text-[13px]">
              {used.says}
              {change && (
                <span className="block text-[12.5px] text-muted">
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
