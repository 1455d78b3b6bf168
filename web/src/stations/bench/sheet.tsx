// The setting sheet: one row for each dial, in the order in which cameras ask for them.
import type { DialValue, Plan, Row } from "../../api/types";
import { CostProfile } from "../../instruments/cost-profile";
import { stops } from "../../parts/words";

type Props = {
  plan: Plan;
  /** What each dial is called. */
  dialWords: Record<string, string>;
  pins: Record<string, unknown>;
  wrong: string[];
  open: string | null;
  moved: Set<string>;
  estimated: Set<string>;
  onOpen: (row: string | null) => void;
  onPin: (row: Row) => void;
  onChoose: (dial: string, value: DialValue["value"]) => void;
};

export function Sheet({
  plan,
  dialWords,
  pins,
  wrong,
  open,
  moved,
  estimated,
  onOpen,
  onPin,
  onChoose,
}: Props) {
  const largest = Math.max(1.2, ...plan.rows.map((row) => row.given_up_stops));
  return (
    <div role="list" aria-label="Setting sheet">
      {plan.rows.map((row) => {
        const on = open === row.id;
        const pinned = row.dials.some((dial) => dial in pins);
        const { value, given_up_stops: cost } = row;
        const shifted = row.dials.some((dial) => moved.has(dial) && !(dial in pins));
        return (
          <div
            role="listitem"
            key={row.id}
            data-row={row.id}
            className={`border-hair border-b ${on ? "bg-second" : ""}`}
          >
            <div className="flex items-stretch">
              <button
                type="button"
                aria-expanded={on}
                className="grid min-h-[40px] flex-1 grid-cols-[92px_142px_1fr_74px] items-center gap-x-2 pl-[18px] max-sm:grid-cols-[92px_1fr_74px] max-sm:pl-4 text-left hover:bg-second"
                onClick={() => onOpen(on ? null : row.id)}
              >
                <span className="text-muted leading-[1.15]">{row.label}</span>
                <span key={value} className={`text-lead leading-[1.1] font-bold ${shifted ? "moved" : ""}`}>
                  <span data-testid={`value-${row.id}`}>
                    <Value text={value} />
                  </span>
                  {shifted && <span className="sr-only"> (moved)</span>}
                  {row.dials.some((dial) => estimated.has(dial)) && (
                    <span className="text-small font-normal text-note" title="rests on an estimate">
                      {" ≈"}
                      <span className="sr-only">, rests on an estimate</span>
                    </span>
                  )}
                </span>
                <span
                  className={`py-[3px] text-fine leading-[1.3] text-muted max-sm:order-4 max-sm:col-span-3`}
                >
                  {on ? plan.reasons[row.main] : inShort(plan.reasons[row.main] ?? "")}
                </span>
                <span className="flex items-center justify-end gap-2">
                  <span
                    className="h-[7px] bg-deep"
                    style={{ width: cost >= 0.05 ? Math.max(3, (cost / largest) * 40) : 0 }}
                  />
                  <span className="w-[26px] text-right">
                    {cost >= 0.05 ? stops(cost) : <span className="text-muted">·</span>}
                  </span>
                </span>
              </button>
              <button
                type="button"
                aria-pressed={pinned}
                aria-label={`${pinned ? "Release" : "Pin"} ${row.label}`}
                title={pinned ? "pinned: release" : "pin"}
                className="grid w-[44px] flex-none place-content-center hover:bg-second"
                onClick={() => onPin(row)}
              >
                <PinMark on={pinned} wrong={row.dials.some((dial) => wrong.includes(dial))} />
              </button>
            </div>
            {on && (
              <div className="overflow-x-auto px-[18px] pb-2">
                {row.free.map((dial) => (
                  <div key={dial} className="pt-1">
                    {row.free.length > 1 && <p className="pb-1 text-fine text-muted">{plan.reasons[dial]}</p>}
                    <CostProfile
                      name={dialWords[dial] ?? dial}
                      values={plan.profiles[dial] ?? []}
                      chosen={plan.chosen[dial]}
                      total={plan.given_up_stops}
                      pinned={dial in pins}
                      onChoose={(chosen) => onChoose(dial, chosen)}
                    />
                  </div>
                ))}
              </div>
            )}
          </div>
        );
      })}
      {plan.settled_says && (
        <p role="listitem" className="px-[18px] py-2 text-fine text-muted">
          {plan.settled_says}
        </p>
      )}
    </div>
  );
}

const SHORT = 92;

/** Whole sentences of a reason, as many as stand on two lines; the open row says all of it. */
function inShort(reason: string): string {
  const [first = "", ...rest] = reason.split(/(?<=[.!?])\s+(?=\S)/);
  let said = first;
  for (const next of rest) {
    if (said.length + next.length + 1 > SHORT) break;
    said = `${said} ${next}`;
  }
  return said;
}

/** Long values keep their main part large. */
function Value({ text }: { text: string }) {
  const [main, ...rest] = text.split(" · ");
  if (rest.length === 0 || text.length <= 17) return text;
  return (
    <>
      {main} <span className="text-small font-normal whitespace-nowrap">{rest.join(" · ")}</span>
    </>
  );
}

/** A chart pin: an open ring, filled with a cross-bar once it holds. */
function PinMark({ on, wrong }: { on: boolean; wrong: boolean }) {
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" className={wrong ? "text-note" : ""}>
      <circle
        cx="9"
        cy="6.5"
        r="4.2"
        fill={on ? "var(--note)" : "none"}
        stroke={on ? "var(--note)" : "var(--muted)"}
        strokeWidth="1.5"
      />
      <path d="M9 11v6" stroke={on ? "var(--note)" : "var(--muted)"} strokeWidth="1.5" />
      {wrong && <path d="M1 1l16 16" stroke="var(--note)" strokeWidth="2" />}
    </svg>
  );
}
