// A new shot begins with what is filmed and where: two choices, and a plan stands.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { changed } from "../../api/keys";
import { kitQuery } from "../../api/kit";
import { shootsApi } from "../../api/shoots";
import type { Shoot } from "../../api/types";
import { type Use, usesApi, usesQuery } from "../../api/uses";
import { refusalWords } from "../../changes/refusals";
import { PlacePicture } from "../../instruments/place-picture";
import { ClockField } from "../../parts/fields";
import { Loading } from "../../parts/loading";
import { useShelf } from "../../parts/shelf";
import { Trouble } from "../../parts/trouble";
import { momentOf } from "../bench/when";

/** shoot: null where there is none yet: one is made; camera: to film with, null for the best of the kit; close: null where it stays open. */
type Props = { shoot: Shoot | null; camera?: string | null; close: (() => void) | null };

export function NewFromUse({ shoot, camera = null, close }: Props) {
  const uses = useQuery(usesQuery);
  const kit = useQuery({ ...kitQuery, enabled: camera !== null && close !== null });
  const own = kit.data?.cameras.find((one) => one.id === camera)?.name;
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const { found: items, boards } = useShelf(uses.data?.items ?? [], words);
  const [use, setUse] = useState<Use | null>(null);
  const [time, setTime] = useState("");
  const here = shoot != null && shoot.day !== null && shoot.latitude !== null && shoot.longitude !== null;
  const made = useRef<Shoot | null>(null);
  const begin = useMutation({
    mutationFn: async (place: string | null) => {
      const into = shoot ?? made.current ?? (await shootsApi.addShoot({ title: "First shots" }));
      made.current = into; // a second attempt goes into the same
      return usesApi.begin(into.id, {
        use: use?.id ?? "",
        place,
        camera,
        starts_at: time && into.day ? momentOf(`${into.day}T${time}`, into.zone ?? "UTC") : null,
      });
    },
    onSuccess: (shot) => {
      changed.shoots();
      navigate(`/shots/${shot.id}`);
    },
  });
  if (uses.error && !uses.data) return <Trouble error={uses.error} retry={() => uses.refetch()} />;
  return (
    <section aria-label="A new shot" className="mt-4 border-ink border-t-2 pt-3">
      <h3 className="flex flex-wrap items-baseline gap-x-4 font-serif text-title font-semibold">
        {use ? (
          <>
            Where do you film it?
            <button
              type="button"
              className="font-sans text-small font-normal underline"
              onClick={() => setUse(null)}
            >
              {use.name}: something else
            </button>
          </>
        ) : (
          <>
            {own ? `What do you film with the ${own}?` : "What do you film?"}
            <input
              aria-label="Find a use"
              className="field !min-h-[30px] !w-[200px] font-sans text-body font-normal"
              placeholder="walk, dive, night"
              autoFocus={close !== null}
              value={words}
              onChange={(event) => setWords(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter" && items[0]) {
                  // Else the same key would press what is focused next.
                  event.preventDefault();
                  setUse(items[0]);
                }
                if (event.key === "Escape") close?.();
              }}
            />
          </>
        )}
        {close && (
          <button
            type="button"
            className="ml-auto font-sans text-small font-normal underline"
            onClick={close}
          >
            not now
          </button>
        )}
      </h3>
      {begin.error && (
        <p role="alert" className="text-note">
          {refusalWords(begin.error)}
        </p>
      )}
      {use ? (
        <Where
          use={use}
          here={here}
          time={time}
          setTime={setTime}
          busy={begin.isPending}
          begin={(place) => begin.mutate(place)}
        />
      ) : (
        <div className="grid gap-x-8 pt-1 lg:grid-cols-2">
          {!uses.data && <Loading what="Loading uses." className="py-3" />}
          {boards.map((kind) => (
            <div key={kind.id} className="pt-2">
              <p className="font-serif text-body text-muted italic">{kind.name}</p>
              <ul>
                {kind.uses.map((one) => (
                  <li key={one.id} className="border-hair border-b">
                    <button
                      type="button"
                      className="block min-h-[34px] w-full py-[5px] text-left leading-tight hover:bg-second"
                      onClick={() => setUse(one)}
                    >
                      <b className="text-body">{one.name}</b>{" "}
                      <span className="text-small text-muted">{one.says}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          ))}
          {uses.data && items.length === 0 && (
            <p className="py-3 text-muted">No use has that word in it. Choose the nearest one.</p>
          )}
        </div>
      )}
      <p className="pt-3 text-fine text-muted">
        Everything can be changed on the Bench afterwards. What you film often gets presets under{" "}
        <Link className="underline decoration-deep underline-offset-2" to="/uses">
          usual uses
        </Link>
        .
      </p>
    </section>
  );
}

type WhereProps = {
  use: Use;
  here: boolean;
  time: string;
  setTime: (time: string) => void;
  busy: boolean;
  begin: (place: string | null) => void;
};

function Where({ use, here, time, setTime, busy, begin }: WhereProps) {
  const own = use.brief.light.kind === "lamps";
  return (
    <div className="pt-2">
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(128px,1fr))] gap-4">
        {own && (
          <li>
            <Choice says="under your own lamps" busy={busy} take={() => begin(null)}>
              <PlacePicture place="workshop" lit={0.6} />
            </Choice>
          </li>
        )}
        {!own &&
          use.asks.map((place, n) => (
            <li key={place.id}>
              <Choice says={place.name} busy={busy} first={n === 0} take={() => begin(place.id)}>
                <PlacePicture place={place.id} lit={place.lit} />
              </Choice>
            </li>
          ))}
      </ul>
      {here && !own && (
        <p className="flex flex-wrap items-center gap-3 pt-4 text-body">
          or under the sky of this day at
          <ClockField label="Start" className="start-field" value={time} onChange={setTime} />
          <button type="button" className="plain" disabled={busy || time === ""} onClick={() => begin(null)}>
            Plan it then
          </button>
        </p>
      )}
      {busy && (
        <p role="status" className="pt-2 text-muted">
          Planning.
        </p>
      )}
    </div>
  );
}

type ChoiceProps = {
  says: string;
  busy: boolean;
  first?: boolean;
  take: () => void;
  children: React.ReactNode;
};

function Choice({ says, busy, first, take, children }: ChoiceProps) {
  return (
    <button
      type="button"
      className="block w-full text-left hover:bg-second"
      autoFocus={first}
      disabled={busy}
      onClick={take}
    >
      {children}
      <span className="block py-1 text-small leading-tight">{says}</span>
    </button>
  );
}
