// What the frames came to and what their plans give up, in tables.
import { useQuery } from "@tanstack/react-query";
import { type Frame, type LookText, scenesQuery } from "../../api/look";
import { stops } from "../../parts/words";

/** The numbers of one frame or of two, the worse of two marked. */
export function Table({ told }: { told: LookText }) {
  const both = told.made.length > 1;
  return (
    <table className="w-full text-small">
      <thead>
        <tr className="text-right text-fine text-muted">
          <td />
          <th className="py-1 font-normal">this plan</th>
          {both && <th className="max-w-[110px] py-1 pl-3 font-normal">the other</th>}
        </tr>
      </thead>
      <tbody>
        {told.rows.map((row) => (
          <tr key={row.item} className="border-hair border-b align-baseline">
            <th className="py-[5px] text-left font-normal text-muted">{row.title}</th>
            <Value value={row.left} unit={row.unit} worse={row.worse === "left"} plan={row.plan} />
            {row.right !== null && (
              <Value value={row.right} unit={row.unit} worse={row.worse === "right"} plan={null} />
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type PricesProps = { told: LookText; total: [Frame["numbers"], Frame["numbers"] | undefined] };

/** What the plans give up, in the ledger's words, so that picture and price can be compared. */
export function Prices({ told, total: [own, theirs] }: PricesProps) {
  return (
    <table className="mt-3 w-full text-small">
      <caption className="border-ink border-b pb-1 text-left font-serif text-lead font-semibold">
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
      <b className={worse ? "text-note" : ""}>{value}</b> <span className="text-fine text-muted">{unit}</span>
      {worse && <span className="sr-only"> worse</span>}
      {plan !== null && plan !== value && <span className="block text-fine text-muted">plan {plan}</span>}
    </td>
  );
}

/** What every picture leaves out. */
export function Limits() {
  const scenes = useQuery(scenesQuery);
  return <p className="pt-3 text-fine text-muted">{scenes.data?.limits}</p>;
}
