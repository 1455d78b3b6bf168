// Two uses side by side on one camera: where their settings differ, and what each costs in the other's light.
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { besideQuery, type Use } from "../../api/uses";
import { SelectField } from "../../parts/fields";
import { Trouble } from "../../parts/trouble";
import { stops } from "../../parts/words";

type Props = { items: Use[]; cameras: { id: string; name: string }[] };

export function Beside({ items, cameras }: Props) {
  const [said, say] = useSearchParams();
  const likely = [...items.filter((use) => use.chosen), ...items];
  const camera = said.get("camera") ?? cameras[0]?.id ?? "";
  const first = said.get("first") ?? likely[0]?.id ?? "";
  const second = said.get("second") ?? likely.find((use) => use.id !== first)?.id ?? "";
  const told = useQuery(besideQuery(camera, first, second));
  const found = told.data;
  const choose = (name: string, value: string) =>
    say({ camera, first, second, [name]: value }, { replace: true });
  const pick = (label: string, name: string, value: string, all: { id: string; name: string }[]) => (
    <SelectField
      label={label}
      value={value}
      options={all.map((one) => [one.id, one.name])}
      onChange={(id) => choose(name, id)}
    />
  );
  return (
    <section aria-label="Two side by side" className="max-w-[860px]">
      <h2 className="font-serif text-head font-semibold">Two side by side</h2>
      <p className="pb-3 font-serif text-lead leading-relaxed">
        Where their settings differ, and what it costs to film one with the other’s.
      </p>
      <div className="flex flex-wrap gap-x-6 gap-y-2 border-hair border-b pb-4">
        {pick("camera", "camera", camera, cameras)}
        {pick("one", "first", first, items)}
        {pick("other", "second", second, items)}
      </div>
      {told.error && <Trouble error={told.error} retry={() => told.refetch()} />}
      {told.isFetching && !found && (
        <p role="status" className="pt-3 text-muted">
          Planning both.
        </p>
      )}
      {found && !told.error && (
        <>
          <ul className="py-3 font-serif text-lead leading-snug">
            {found.says.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <table className="w-full border-collapse text-left text-body">
            <thead>
              <tr className="border-ink border-b align-bottom [&>th]:pr-3 [&>th]:pb-1">
                <th className="w-[18%] font-normal text-muted">
                  <span className="sr-only">dial</span>
                </th>
                {found.titles.map((title) => (
                  <th key={title}>{title}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {found.dials.map((line) => (
                <tr key={line.dial} className="border-hair border-b align-baseline [&>*]:py-[6px] [&>*]:pr-3">
                  <th className="font-normal text-muted">{line.word}</th>
                  {line.values.map((value, side) => (
                    <td key={side}>
                      <b className="text-body">{value}</b>
                      <span className="block text-fine leading-tight text-muted">
                        {line.costs[side] == null
                          ? "not to be had in the other"
                          : `${stops(line.costs[side])} stops in the other’s light`}
                      </span>
                    </td>
                  ))}
                </tr>
              ))}
              <tr className="align-baseline [&>*]:pt-2">
                <th className="font-normal text-muted">gives up</th>
                {found.given_up.map((price, side) => (
                  <td key={side}>{stops(price)} stops in its own light</td>
                ))}
              </tr>
            </tbody>
          </table>
          <p className="pt-3 text-fine text-muted">
            {found.same} more dials are set alike. A value’s price is that of the best plan which has it.
          </p>
        </>
      )}
    </section>
  );
}
