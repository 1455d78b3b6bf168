// Usual uses: what one films, how often, the presets that follow for each camera, and the card by which it is set up once.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import { changed, inTurn } from "../../api/keys";
import { kitQuery } from "../../api/kit";
import { sharingQuery, standingQuery, type Use, usesApi, usesQuery } from "../../api/uses";
import { Met } from "../../changes/met";
import { refusalWords } from "../../changes/refusals";
import { useChanges } from "../../changes/use-changes";
import { Fold } from "../../parts/fold";
import { type Gone, GoneNote } from "../../parts/gone";
import { Loading } from "../../parts/loading";
import { useShelf } from "../../parts/shelf";
import { Trouble } from "../../parts/trouble";
import { useTyped } from "../../parts/typed";
import { Beside } from "./beside";
import { UsesFiles } from "./files";
import { SetUpCard } from "./set-up";

const BESIDE = "beside"; // of the address, in the place of a camera

export default function UsesPage() {
  const { cameraId } = useParams();
  const uses = useQuery(usesQuery);
  const kit = useQuery(kitQuery);
  const [gone, setGone] = useState<Gone | null>(null);
  useEffect(() => {
    document.title = "Usual uses · Steady Tide";
  }, []);
  if (uses.error && !uses.data) return <Trouble error={uses.error} retry={() => uses.refetch()} />;
  if (!uses.data || !kit.data) return <Loading what="Loading uses." />;
  const cameras = kit.data.cameras;
  const camera = cameras.find((one) => one.id === cameraId);
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1 max-md:content-start">
      <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
        <h1 className="border-ink border-b pb-2 font-serif text-title font-semibold max-md:sr-only">
          Usual uses
        </h1>
        <Fold
          says={
            camera
              ? `Set up: ${camera.name}`
              : cameraId === BESIDE
                ? "Two side by side"
                : "Usual uses: the shelf"
          }
        >
          <ul>
            <li className="border-hair border-b">
              <NavLink
                to="/uses"
                end
                className={({ isActive }) => `block py-[9px] hover:bg-second ${isActive ? "font-bold" : ""}`}
              >
                What you film
              </NavLink>
            </li>
            <li className="border-hair border-b">
              <NavLink
                to={`/uses/${BESIDE}`}
                className={({ isActive }) => `block py-[9px] hover:bg-second ${isActive ? "font-bold" : ""}`}
              >
                Two side by side
              </NavLink>
            </li>
            {cameras.map((one) => (
              <li key={one.id} className="border-hair border-b">
                <NavLink
                  to={`/uses/${one.id}`}
                  className={({ isActive }) =>
                    `block py-[9px] leading-tight hover:bg-second ${isActive ? "font-bold" : ""}`
                  }
                >
                  Set up the {one.name}
                </NavLink>
              </li>
            ))}
          </ul>
        </Fold>
        <GoneNote gone={gone} over={() => setGone(null)} />
      </aside>
      <section className="min-w-0 px-7 py-5 max-md:px-4 max-md:py-3" aria-label="Usual uses">
        {cameraId === undefined ? (
          <>
            <Shelf items={uses.data.items} cameras={cameras} onGone={setGone} />
            <UsesFiles />
          </>
        ) : cameraId === BESIDE ? (
          <Beside items={uses.data.items} cameras={cameras} />
        ) : camera ? (
          <SetUpCard key={camera.id} camera={camera.id} name={camera.name} />
        ) : (
          <p className="text-muted">There is no camera of that name in the kit; it may have been put away.</p>
        )}
      </section>
    </main>
  );
}

type ShelfProps = { items: Use[]; cameras: { id: string; name: string }[]; onGone: (gone: Gone) => void };

function Shelf({ items, cameras, onGone }: ShelfProps) {
  const [words, setWords] = useState("");
  const chosen = items.filter((use) => use.chosen);
  const { found: shown, boards } = useShelf(items, words);
  const remove = useMutation({
    ...inTurn("uses"),
    mutationFn: (use: Use) => usesApi.remove(use.id),
    onSuccess: (_, use) => {
      onGone({ says: `“${use.name}” was removed.`, back: () => usesApi.restore(use.id).then(changed.uses) });
      return changed.uses();
    },
  });
  const times = chosen.reduce((sum, use) => sum + use.per_year, 0);
  return (
    <>
      <h2 className="font-serif text-head font-semibold">What do you usually film?</h2>
      <p className="border-hair border-b pb-3 font-serif text-lead leading-relaxed">
        {chosen.length === 0
          ? "Choose what you film and say how often in a year. For each camera follow the presets to store, and what lies on its buttons."
          : `${chosen.length} ${chosen.length === 1 ? "use" : "uses"}, ${Math.round(times)} times a year.`}
      </p>
      {chosen.length > 0 && (
        <div className="grid gap-x-8 gap-y-4 pt-3 xl:grid-cols-2">
          {cameras.map((camera) => (
            <StandingOf
              key={camera.id}
              camera={camera}
              chosen={chosen.map((use) => `${use.id}=${use.per_year}`).join()}
            />
          ))}
        </div>
      )}
      <p className="flex flex-wrap items-baseline gap-x-4 pt-5">
        <label className="text-small text-muted">
          find{" "}
          <input
            className="field !min-h-[30px] !w-[220px] text-ink"
            value={words}
            placeholder="walk, dive, night"
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
        {remove.error && (
          <b role="alert" className="text-note">
            {refusalWords(remove.error)}
          </b>
        )}
      </p>
      {boards.map((kind) => (
        <section key={kind.id} aria-label={kind.name} className="pt-4">
          <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold first-letter:uppercase">
            {kind.name}
          </h3>
          <ul className="grid gap-x-8 lg:grid-cols-2">
            {kind.uses.map((use) => (
              <UseLine key={use.id} use={use} remove={use.own ? () => remove.mutate(use) : null} />
            ))}
          </ul>
        </section>
      ))}
      {shown.length === 0 && <p className="pt-4 text-muted">No use has that word in it.</p>}
    </>
  );
}

type LineProps = { use: Use; remove: (() => void) | null };

function UseLine({ use, remove }: LineProps) {
  const { engine, now, say } = useChanges({
    place: `use.${use.id}`,
    shown: { chosen: use.chosen, per_year: use.per_year },
    revision: use.revision,
    send: async (revision, change) => {
      const kept = await usesApi.change(use.id, revision, change);
      return { revision: kept.items.find((one) => one.id === use.id)?.revision ?? revision };
    },
    reread: changed.uses,
  });
  const { field } = useTyped(String(now.per_year), (typed) => {
    const read = Number(typed.replace(",", "."));
    if (typed.trim() && read >= 0 && read <= 10_000 && read !== now.per_year)
      void say({ per_year: read, chosen: true });
  });
  return (
    <li className="flex items-baseline gap-3 border-hair border-b py-[6px]">
      <label className="flex min-w-0 flex-1 items-baseline gap-3">
        <input
          type="checkbox"
          className="[--tick:17px]"
          checked={now.chosen}
          onChange={(event) => void say({ chosen: event.target.checked })}
        />
        <span className="min-w-0">
          <b className="text-body">{use.name}</b>{" "}
          <span className="text-small leading-tight text-muted">{use.says}</span> <Met engine={engine} />
        </span>
      </label>
      <span className="flex-none text-small text-muted">
        <input
          aria-label={`${use.name}, times a year`}
          className="start-field !w-[46px] text-right text-ink"
          inputMode="numeric"
          onFocus={(event) => event.target.select()}
          {...field}
        />{" "}
        a year
      </span>
      {remove && (
        <button
          type="button"
          className="text-fine text-muted underline"
          aria-label={`Remove ${use.name}`}
          onClick={remove}
        >
          remove
        </button>
      )}
    </li>
  );
}

function StandingOf({ camera, chosen }: { camera: { id: string; name: string }; chosen: string }) {
  const told = useQuery(standingQuery(camera.id, chosen));
  const found = told.data?.standing;
  const without = told.data?.without ?? [];
  if (told.data && !found && !told.data.counting)
    return (
      <section aria-label={camera.name}>
        <h3 className="border-ink border-b pb-1 font-serif text-title font-semibold">{camera.name}</h3>
        <p className="pt-1 text-small text-muted">It can film none of these uses.</p>
      </section>
    );
  return (
    <section aria-label={camera.name} className="min-w-0">
      <h3 className="flex flex-wrap items-baseline gap-x-3 border-ink border-b pb-1 font-serif text-title font-semibold">
        {camera.name}
        <Link
          to={`/uses/${camera.id}`}
          className="ml-auto font-sans text-small font-normal underline decoration-deep underline-offset-2"
        >
          set it up
        </Link>
      </h3>
      {told.error && <Trouble error={told.error} retry={() => told.refetch()} />}
      {!found && !told.error && (
        <p role="status" className="pt-1 text-small text-muted">
          Counting the taps of a year.
        </p>
      )}
      {found && (
        <>
          <p className="pt-1 text-small">
            <b>{found.says.split(",")[0]}</b>,{found.says.split(",").slice(1).join(",")}
            <span className="text-muted">; {found.proof}</span>
          </p>
          <ol>
            {found.presets.map((preset) => (
              <li
                key={preset.number}
                className="flex items-baseline gap-3 border-hair border-b py-[4px] text-small"
              >
                <b className="w-4 flex-none font-serif text-lead">{preset.number}</b>
                <span className="min-w-0">
                  <b className="text-body">{preset.name}</b>
                  {preset.serves
                    .filter((serves) => serves !== preset.name)
                    .map((serves) => (
                      <span key={serves} className="block leading-tight text-muted">
                        {serves}
                      </span>
                    ))}
                </span>
              </li>
            ))}
          </ol>
          {found.quick.length > 0 && (
            <p className="pt-1 text-small">
              on buttons: <b>{found.quick.join(", ")}</b>
            </p>
          )}
        </>
      )}
      {found && found.presets.length > 0 && <Sharing camera={camera.id} chosen={chosen} />}
      {without.length > 0 && (
        <p className="pt-1 text-fine text-muted">
          It cannot film {without.map((one) => one.name).join(", ")}.
        </p>
      )}
    </section>
  );
}

/** Fewer presets, or fewer taps, for a price in stops; asked when it is opened. */
function Sharing({ camera, chosen }: { camera: string; chosen: string }) {
  const [open, setOpen] = useState(false);
  const told = useQuery(sharingQuery(camera, chosen, open));
  return (
    <details className="pt-1 text-small" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-muted">what sharing a preset would cost</summary>
      {told.error && <Trouble error={told.error} retry={() => told.refetch()} />}
      {!told.error && (!told.data || told.data.counting) && (
        <p role="status" className="text-muted">
          Planning each use with the presets of the others.
        </p>
      )}
      <ul>
        {told.data?.items.map((one) => (
          <li key={one.use} className="border-hair border-b py-[3px] leading-tight">
            {one.says}
          </li>
        ))}
      </ul>
    </details>
  );
}
