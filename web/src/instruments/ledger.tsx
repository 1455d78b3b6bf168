// What is given up, largest first; what to mind; what others would do.

import { memo } from "react";
import type { Plan } from "../api/types";
import { Term } from "../parts/term";
import { stops } from "../parts/words";

const SHOWN = 0.05;

type Props = {
  plan: Plan;
  /** All of it belongs to the brief as it was a moment ago. */
  old: boolean;
  /** What others would do belongs to the brief as it was a moment ago. */
  othersOld: boolean;
  onTry: (rival: Plan["schools"][number]) => void;
  /** What was tried last and still holds, with the way back. */
  tried: { name: string; back: () => void } | null;
};

export const Ledger = memo(function Ledger({ plan, old, othersOld, onTry, tried }: Props) {
  const shown = plan.ledger.filter((item) => item.given_up_stops >= SHOWN);
  const rest = plan.given_up_stops - shown.reduce((sum, item) => sum + item.given_up_stops, 0);
  const largest = Math.max(1.2, ...shown.map((item) => item.given_up_stops));
  const main = shown.slice(0, 5);
  const small = shown.slice(5);
  const stopping = plan.warnings.filter((warning) => warning.severity === "stop");
  return (
    <aside aria-label="Ledger" className="w-full">
      {stopping.map((warning) => (
        <Caution key={warning.code} lead={warning.text} severity="stop" />
      ))}
      <p className="flex items-baseline gap-3 border-ink border-b pb-2">
        <strong className={`big-figure ${old ? "text-muted italic" : ""}`} data-testid="total">
          {stops(plan.given_up_stops)}
        </strong>
        <span>
          <Term id="given_up" says="stops given up" />{" "}
          <span className="text-fine text-muted">
            {old ? "from the plan before; updating" : "less is better"}
          </span>
        </span>
        <span role="status" className="sr-only" data-testid="total-told">
          {old ? "" : `${stops(plan.given_up_stops)} stops given up`}
        </span>
      </p>
      {main.map((item) => (
        <details key={item.item} className="border-hair border-b [&_summary]:list-none">
          <summary className="flex cursor-pointer items-baseline py-[7px] hover:bg-second">
            <b className="w-[38px] flex-none">{stops(item.given_up_stops)}</b>
            <span className="flex-1">{item.title}</span>
            <span
              className="h-[7px] flex-none self-center bg-deep"
              style={{ width: (item.given_up_stops / largest) * 60 }}
            />
          </summary>
          <p className="pb-2 pl-[38px] text-fine text-muted">
            {item.why}. {item.weight_why}
          </p>
        </details>
      ))}
      {(small.length > 0 || rest >= SHOWN) && (
        <p className="flex border-hair border-b py-[7px] text-fine text-muted">
          <span className="w-[38px] flex-none">
            {stops(small.reduce((sum, item) => sum + item.given_up_stops, 0) + rest)}
          </span>
          <span>{small.length > 0 ? small.map((item) => item.title).join(", ") : "many small things"}</span>
        </p>
      )}
      {shown.length === 0 && <p className="py-2 text-muted">Nothing is given up.</p>}
      {(plan.warnings.length > stopping.length || plan.cautions.length > 0) && (
        <section aria-label="Watch for" className="pt-4">
          <h2 className="pb-1 font-serif text-lead font-semibold">Watch for</h2>
          {plan.warnings
            .filter((warning) => !stopping.includes(warning))
            .map((warning) => (
              <Caution key={warning.code} lead={warning.text} severity={warning.severity} />
            ))}
          {plan.cautions.map((caution) => (
            <Caution key={caution.topic} lead={`Safety. ${caution.text}`} severity="warn" />
          ))}
        </section>
      )}
      {(plan.schools.length > 0 || tried) && (
        <section
          aria-label="Others would"
          aria-busy={othersOld}
          className={`pt-4 ${othersOld ? "text-muted" : ""}`}
        >
          <h2 className="pb-1 font-serif text-lead font-semibold">
            Others would
            {othersOld && (
              <span className="font-sans text-fine font-normal"> (from the plan before; updating)</span>
            )}
          </h2>
          {tried && (
            <p role="status" className="border-hair border-b py-[6px]">
              Trying: <b>{tried.name}</b>.{" "}
              <button type="button" className="underline" onClick={tried.back}>
                take it back
              </button>
            </p>
          )}
          {plan.schools.map((rival) => (
            <div key={rival.name} className="flex gap-3 border-hair border-b py-[6px]">
              <div className="flex-1 leading-tight">
                {rival.name}
                <div className="pt-[2px] text-fine text-muted">{rival.says}</div>
              </div>
              <span title="stops given up by this plan's own prices">{stops(rival.given_up_stops)}</span>
              <button
                type="button"
                className="plain min-h-[25px] self-start py-0 text-fine"
                aria-label={`Try it: ${rival.name}`}
                disabled={othersOld}
                onClick={() => onTry(rival)}
              >
                try
              </button>
            </div>
          ))}
        </section>
      )}
    </aside>
  );
});

const EDGE = {
  stop: "lost-edge border-[1.5px] border-note pl-5",
  warn: "border-note border-l-3",
  note: "border-rule border-l-3",
} as const;

/** A stop is hatched at its edge, so that it is told from a warning without colour. */
function Caution({ lead, severity }: { lead: string; severity: keyof typeof EDGE }) {
  const cut = lead.indexOf(". ") + 1;
  return (
    <p
      role={severity === "stop" ? "alert" : undefined}
      className={`my-[6px] py-[2px] pl-3 text-small leading-[1.35] ${EDGE[severity]}`}
    >
      <b className={severity === "note" ? "" : "text-note"}>
        {severity === "stop" && "Stop. "}
        {cut > 0 ? lead.slice(0, cut) : lead}
      </b>
      {cut > 0 && lead.slice(cut)}
    </p>
  );
}
