// Shoots: the days, and for one of them what is planned.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, NavLink, useParams, useSearchParams } from "react-router";
import { changed } from "../../api/keys";
import { shootsQuery } from "../../api/shoots";
import { recall } from "../../changes/storage";
import { Fold } from "../../parts/fold";
import { type Gone, GoneNote } from "../../parts/gone";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { longDay } from "../../parts/words";
import { Day } from "./day";
import { Demo } from "./demo";
import { BringShoot, NewShoot } from "./new-shoot";
import { Welcome } from "./welcome";

export function Shoots() {
  const { shootId } = useParams();
  const with_ = useSearchParams()[0].get("with");
  const shoots = useQuery(shootsQuery);
  const [adding, setAdding] = useState(false);
  const [gone, setGone] = useState<Gone | null>(null);
  useEffect(() => {
    document.title = "Shoots · Steady Tide";
  }, []);
  if (shoots.error && !shoots.data) return <Trouble error={shoots.error} retry={() => shoots.refetch()} />;
  if (!shoots.data) return <Loading what="Loading shoots." />;
  const items = shoots.data.items;
  // A shoot that was just made may not be in the list yet; another one must never stand in its place.
  const named = shootId !== undefined;
  const shoot = named
    ? items.find((entry) => entry.id === shootId)
    : (items.find((entry) => entry.id === recall("last-shoot")) ?? items[0]);
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1 max-md:content-start">
      <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
        <h1 className="border-ink border-b pb-2 font-serif text-title font-semibold max-md:sr-only">
          Shoots
        </h1>
        <Fold says={shoot ? `Shoots: ${shoot.title}` : "Shoots"}>
          <ul>
            {items.map((entry) => (
              <li key={entry.id} className="border-hair border-b">
                <NavLink
                  to={`/shoots/${entry.id}`}
                  aria-current={entry.id === shoot?.id ? "true" : undefined}
                  className={`block py-[9px] leading-tight hover:bg-second ${entry.id === shoot?.id ? "font-bold" : ""}`}
                >
                  <span className="flex items-baseline justify-between gap-2">
                    {entry.title}
                    {entry.demo && <i className="text-fine font-normal text-muted">demo</i>}
                  </span>
                  <span className="block pt-[2px] text-fine font-normal text-muted">
                    {entry.day ? longDay(entry.day).replace(/^\w+,? /, "") : "no day yet"}, {entry.shots}{" "}
                    {entry.shots === 1 ? "shot" : "shots"}
                  </span>
                </NavLink>
              </li>
            ))}
          </ul>
          {items.length === 0 && <p className="py-3 text-muted">No shoot yet.</p>}
          {adding ? (
            <NewShoot close={() => setAdding(false)} />
          ) : (
            <p className="flex flex-wrap gap-2 pt-4">
              <button type="button" className="plain" onClick={() => setAdding(true)}>
                New shoot
              </button>
              <BringShoot />
            </p>
          )}
          <p className="pt-3 text-small">
            <Link className="underline decoration-deep underline-offset-2" to="/uses">
              Usual uses and presets
            </Link>
            <Link className="mt-1 block underline decoration-deep underline-offset-2" to="/practice">
              Practice
            </Link>
          </p>
          <Demo />
        </Fold>
        <GoneNote
          gone={gone}
          over={() => {
            changed.everything();
            setGone(null);
          }}
        />
      </aside>
      {shoot ? (
        <Day key={shoot.id} shoot={shoot} onGone={setGone} with_={with_} />
      ) : named ? (
        <p className="p-8 text-muted" role="status">
          {shoots.isFetching
            ? "Loading the shoot."
            : "There is no such shoot. It may have been removed; choose another from the list."}
        </p>
      ) : (
        <Welcome with_={with_} />
      )}
    </main>
  );
}
