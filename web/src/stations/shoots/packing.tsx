// Packing: what the plans need, to be ticked into the bag, and what the kit lacks.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { packingQuery } from "../../api/day";
import type { Shoot } from "../../api/types";
import { recall, remember } from "../../changes/storage";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";

export default function PackingList({ shoot }: { shoot: Shoot }) {
  const packing = useQuery(packingQuery(shoot.id));
  const key = `packed.${shoot.id}`;
  const [packed, setPacked] = useState<Record<string, boolean>>(() => recall(key) ?? {});
  if (packing.error && !packing.data)
    return <Trouble error={packing.error} retry={() => packing.refetch()} />;
  if (!packing.data) return <Loading what="Working out the packing list." className="py-4" />;
  const { lines, missing } = packing.data;
  const groups = [...new Set(lines.map((line) => line.group))];
  const put = (id: string, on: boolean) => {
    const next = { ...packed, [id]: on };
    setPacked(next);
    remember(key, next);
  };
  const left = lines.filter((line) => !packed[line.id]).length;
  if (lines.length === 0) return <p className="py-4 text-muted">No shot has a plan yet.</p>;
  return (
    <div className="max-w-[980px]">
      {missing.length > 0 && (
        <section aria-label="Missing" className="lost-edge mt-3 py-1 pl-6">
          <h3 className="font-serif text-lead font-semibold text-note">Missing from the kit</h3>
          <ul>
            {missing.map((line) => (
              <li key={line} className="py-[2px]">
                {line}
              </li>
            ))}
          </ul>
        </section>
      )}
      <p role="status" className="pt-3 text-muted">
        {left === 0 ? "Everything is packed." : `${left} of ${lines.length} to pack.`}
      </p>
      <div className="gap-x-10 lg:columns-2">
        {groups.map((group) => (
          <section key={group} aria-label={group} className="break-inside-avoid pt-2 pb-2">
            <h3 className="border-ink border-b pb-1 font-serif text-lead italic">{group}</h3>
            {lines
              .filter((line) => line.group === group)
              .map((line) => {
                const lacks = line.have !== null && line.have < line.count;
                return (
                  <label
                    key={line.id}
                    className="flex min-h-[40px] items-center gap-3 border-hair border-b py-1 hover:bg-second"
                  >
                    <input
                      type="checkbox"
                      className="border-[1.5px] [--tick:20px]"
                      checked={packed[line.id] ?? false}
                      onChange={(event) => put(line.id, event.target.checked)}
                    />
                    <span className="leading-tight">
                      <b>
                        {line.count > 1 ? `${line.count}\u202f×\u202f` : ""}
                        {line.name}
                      </b>
                      {lacks && <b className="text-note"> not in the kit</b>}
                      <span className="block text-fine text-muted">
                        {[
                          line.note,
                          line.shots.length > 3 ? `${line.shots.length} shots` : line.shots.join(", "),
                        ]
                          .filter(Boolean)
                          .join(" · ")}
                      </span>
                    </span>
                  </label>
                );
              })}
          </section>
        ))}
      </div>
    </div>
  );
}
