// A shoot and one of its shots, each chosen from a list.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { shootsQuery, shotsQuery } from "../../api/shoots";

type Props = {
  shot: string;
  onChange: (shot: string) => void;
  /** What stands for no shoot; left out, one is always chosen. */
  none?: string;
};

export function ShotPick({ shot, onChange, none }: Props) {
  const shoots = useQuery(shootsQuery);
  const items = shoots.data?.items ?? [];
  const [picked, setPicked] = useState("");
  const shoot = picked || (none ? "" : (items[0]?.id ?? ""));
  const shots = useQuery({ ...shotsQuery(shoot), enabled: shoot !== "" });
  const first = shots.data?.items[0]?.id;
  useEffect(() => {
    if (!none && !shot && first) onChange(first);
  }, [none, shot, first, onChange]);
  return (
    <>
      <label className="grid gap-[2px] text-fine text-muted">
        Shoot
        <select
          className="field max-w-[22rem] text-ink"
          value={shoot}
          onChange={(event) => {
            setPicked(event.target.value);
            onChange("");
          }}
        >
          {none && <option value="">{none}</option>}
          {items.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-[2px] text-fine text-muted">
        Shot
        <select
          className="field max-w-[22rem] text-ink"
          value={shot}
          disabled={!shoot}
          onChange={(event) => onChange(event.target.value)}
        >
          {none && <option value="">none</option>}
          {(shots.data?.items ?? []).map((one) => (
            <option key={one.id} value={one.id}>
              {one.summary.title}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}
