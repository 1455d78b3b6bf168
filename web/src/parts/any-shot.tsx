// Bench and Card without a shot named: the first shot there is, or a word on how to get one.
import { useQuery } from "@tanstack/react-query";
import { Link, Navigate } from "react-router";
import { shootsQuery, shotsQuery } from "../api/shoots";
import { Trouble } from "../parts/trouble";

export function AnyShot({ suffix }: { suffix: string }) {
  const shoots = useQuery(shootsQuery);
  const shoot = shoots.data?.items.find((entry) => entry.shots > 0);
  const shots = useQuery({ ...shotsQuery(shoot?.id ?? ""), enabled: shoot !== undefined });
  const first = shots.data?.items[0];
  if (first) return <Navigate to={`/shots/${first.id}${suffix}`} replace />;
  const error = shoots.error ?? shots.error;
  if (error) return <Trouble error={error} retry={() => shoots.refetch()} />;
  if (shoots.isPending || (shoot && shots.isPending)) return <p className="p-6 text-muted">One moment.</p>;
  return (
    <p className="p-6">
      There is no shot yet. Make one in{" "}
      <Link className="underline" to="/shoots">
        Shoots
      </Link>
      .
    </p>
  );
}
