// Budgets: what is left of charge, room and coolness after each shot, and what would mend the first that fails.

import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { budgetQuery, mendsQuery } from "../../api/day";
import { changed } from "../../api/keys";
import type { Fail, Mend, Shoot, ShootBudget, ShotBudget } from "../../api/types";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { clock, stops, withUnit } from "../../parts/words";
import { pinShot } from "../bench/shot-changes";

type Camera = ShootBudget["cameras"][number];
type Pinned = { shot: string; says: string };
type OfShoot = { shoot: Shoot; onPinned: (pinned: Pinned) => void };

export default function Budgets({ shoot }: { shoot: Shoot }) {
  const budget = useQuery(budgetQuery(shoot.id));
  // It stays though what it mended is gone from the list.
  const [pinned, setPinned] = useState<Pinned | null>(null);
  if (budget.error && !budget.data) return <Trouble error={budget.error} retry={() => budget.refetch()} />;
  if (!budget.data) return <Loading what="Working out budgets." className="py-4" />;
  const { cameras, bank_wh_left, without } = budget.data;
  const failing = cameras.filter((camera) => camera.first_fail !== null);
  if (cameras.length === 0) return <p className="py-4 text-muted">No shot has a plan yet.</p>;
  return (
    <>
      <p className="py-3 font-serif text-lead" role="status">
        {failing.length === 0
          ? "Charge, cards and coolness last through the day."
          : `${failing.map((camera) => camera.name).join(" and ")} ${failing.length === 1 ? "does" : "do"} not last through the day.`}
      </p>
      {pinned && (
        <p role="status" className="pb-2">
          Pinned: {pinned.says}. It can be released on the{" "}
          <Link className="underline" to={`/shots/${pinned.shot}`}>
            Bench
          </Link>
          .
        </p>
      )}
      {cameras.map((camera) => (
        <CameraDay key={camera.id} camera={camera} shoot={shoot} onPinned={setPinned} />
      ))}
      {bank_wh_left !== null && (
        <p className="pt-3">Left in the power banks: {withUnit(Math.round(bank_wh_left), "Wh")}.</p>
      )}
      {without.map((entry) => (
        <p key={entry.key} className="mt-3 border-note border-l-3 pl-3">
          <b>{entry.title}</b> is not counted: {entry.why}
        </p>
      ))}
      <p className="max-w-[640px] pt-5 text-fine text-muted">
        In the order of the day, all cells charged and all cards empty at its start. A cell is changed when a
        take would not fit into what is left; in the cold its last part stays shut in. Heat carries over from
        shot to shot and fades in between. Figures are the sheet’s own; nothing is measured on your cells yet.
      </p>
    </>
  );
}

function CameraDay({ camera, ...of }: OfShoot & { camera: Camera }) {
  const flies = camera.shots.some((shot) => shot.flight !== null);
  return (
    <section aria-label={camera.name} className="pt-3">
      <h3 className="flex flex-wrap items-baseline gap-x-4 border-ink border-b pb-1">
        <span className="font-serif text-title font-semibold">{camera.name}</span>
        <span className="text-small text-muted">
          {camera.cells === 1 ? "1 cell" : `${camera.cells} cells`}, {withUnit(camera.cells_wh, "Wh")} ·{" "}
          {withUnit(camera.cards_gb, "GB")} of room
        </span>
      </h3>
      <div className="stack-host">
        <table className="stack w-full border-collapse text-left">
          <thead>
            <tr className="text-fine text-muted [&>th]:py-1 [&>th]:font-normal">
              <th className="w-[70px] pl-4">start</th>
              <th className="w-[236px]">shot</th>
              <th className="w-[150px]">takes</th>
              <th>charge left</th>
              <th>room left</th>
              <th>{flies ? "warmest, flight" : "warmest"}</th>
            </tr>
          </thead>
          <tbody>
            {camera.shots.map((shot) => (
              <Row key={shot.key} shot={shot} first={camera.first_fail === shot.key} {...of} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Row({ shot, shoot, first, onPinned }: OfShoot & { shot: ShotBudget; first: boolean }) {
  const { heat, flight } = shot;
  return (
    <>
      <tr
        className={`border-hair border-t align-top [&>td]:py-[7px] ${shot.fails.length ? "lost-edge @max-[800px]:pl-5" : ""}`}
      >
        <td className="pl-4 @max-[800px]:pr-2 @max-[800px]:pl-0">
          {shot.starts_at ? clock(shot.starts_at, shoot.zone ?? "UTC") : ""}
        </td>
        <td className="pr-3">
          <Link to={`/shots/${shot.key}`} className="text-lead leading-tight font-bold">
            {shot.title}
          </Link>
        </td>
        <td className="pr-3 text-small" data-label="takes">
          <span>
            {withUnit(Number(shot.drawn_wh.toFixed(1)), "Wh")},{" "}
            {withUnit(Number(shot.recorded_gb.toFixed(1)), "GB")}
            <span className="block text-muted">
              {[
                shot.cell_changes > 0 &&
                  (shot.cell_changes === 1 ? "change the cell" : `${shot.cell_changes} cell changes`),
                shot.interrupted && "within a take",
                shot.card_changes > 0 && "next card",
                shot.from_bank_wh > 0 && `${withUnit(Math.round(shot.from_bank_wh), "Wh")} from the bank`,
                shot.clips > shot.takes && `split into ${shot.clips} clips`,
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
          </span>
        </td>
        <td className="pr-5" data-label="charge left">
          <Level
            share={shot.battery_left}
            says={`${Math.round(100 * shot.battery_left)}\u202f%`}
            more={withUnit(Number(shot.wh_left.toFixed(1)), "Wh")}
          />
        </td>
        <td className="pr-5" data-label="room left">
          <Level
            share={shot.card_left}
            says={`${Math.round(100 * shot.card_left)}\u202f%`}
            more={withUnit(Math.round(shot.gb_left), "GB")}
          />
        </td>
        <td data-label={flight ? "warmest, flight" : "warmest"}>
          <span>
            <Level
              share={Math.max(0, heat.peak_c) / heat.limit_c}
              says={withUnit(Math.round(heat.peak_c), "°C")}
              more={`of ${Math.round(heat.limit_c)}`}
            />
            <span className="block text-fine text-muted">
              {heat.minutes_still !== null &&
                `limit after ${withUnit(Math.round(heat.minutes_still), "min")} in still air${wind(heat)}`}
              {flight &&
                ` ${flight.flights === 1 ? "1 flight" : `${flight.flights} flights`}, ${withUnit(Math.round(flight.minutes_per_charge), "min")} each, ${Math.round(flight.reserve_min)} kept for the way home`}
            </span>
          </span>
        </td>
      </tr>
      {shot.fails.map((fail) => (
        <tr key={fail.kind} className="lost-edge @max-[800px]:pl-5">
          <td />
          <td colSpan={5} className="pb-2">
            <Failure fail={fail} shot={shot} shoot={shoot} first={first} onPinned={onPinned} />
          </td>
        </tr>
      ))}
    </>
  );
}

function wind(heat: ShotBudget["heat"]): string {
  const said = (minutes: number | null) => (minutes === null ? "never" : `${Math.round(minutes)}`);
  const [windy, wet] = [said(heat.minutes_wind), said(heat.minutes_water)];
  return windy === wet ? `, ${windy} in wind or water` : `, ${windy} in wind, ${wet} in water`;
}

/** How full something is, as water in a gauge; the figure says it without colour. */
function Level({ share, says, more }: { share: number; says: string; more: string }) {
  const filled = Math.max(0, Math.min(1, share));
  return (
    <span className="grid grid-cols-[78px_auto] items-center justify-start gap-2">
      <span aria-hidden="true" className="relative block h-[13px] border border-ink">
        <span className="absolute inset-y-0 left-0 bg-mid" style={{ width: `${100 * filled}%` }} />
        <span
          className="absolute inset-y-0 border-ink border-r-2"
          style={{ left: 0, width: `${100 * filled}%` }}
        />
      </span>
      <span className="text-small whitespace-nowrap">
        <b>{says}</b> <span className="text-muted">{more}</span>
      </span>
    </span>
  );
}

type FailureProps = OfShoot & { fail: Fail; shot: ShotBudget; first: boolean };

function Failure({ fail, shot, shoot, first, onPinned }: FailureProps) {
  const [asked, setAsked] = useState(false);
  const mends = useQuery({ ...mendsQuery(shoot.id, shot.key, fail.kind), enabled: asked });
  const take = useMutation({
    mutationFn: (mend: Mend) => pinShot(shot.key, (kept) => ({ ...kept, ...mend.pins })),
    onSuccess: (_, mend) => {
      onPinned({ shot: shot.key, says: mend.text });
      return changed.everything();
    },
  });
  return (
    <div>
      <p>
        <b className="text-note">{first ? "First to fail. " : ""}</b>
        <span className="text-note">{fail.text}</span>{" "}
        {!asked && (
          <button type="button" className="plain ml-2 min-h-[24px] py-[2px]" onClick={() => setAsked(true)}>
            What would mend it?
          </button>
        )}
      </p>
      {asked && mends.isPending && (
        <p role="status" className="pt-1 text-muted">
          Trying lighter modes, cells and cameras. It takes a second or two.
        </p>
      )}
      {mends.error && <Trouble error={mends.error} retry={() => mends.refetch()} />}
      {mends.data && mends.data.total === 0 && <p className="pt-1">Nothing that was tried helps.</p>}
      {mends.data && (
        <ul className="max-w-[720px] pt-1">
          {mends.data.items.map((mend) => (
            <li key={mend.id} className="flex items-baseline gap-3 border-hair border-t py-[5px]">
              <b className="w-[112px] flex-none text-right">
                {stops(Math.abs(mend.given_up_stops))} stops {mend.given_up_stops < 0 ? "less" : "more"}
              </b>
              <span className={`flex-1 ${mend.works ? "" : "text-muted"}`}>
                {mend.text}
                {!mend.works && ", not enough by itself"}
              </span>
              {Object.keys(mend.pins).length > 0 && (
                <button
                  type="button"
                  className="plain min-h-[24px] py-[2px]"
                  disabled={take.isPending || take.isSuccess}
                  onClick={() => take.mutate(mend)}
                >
                  Pin it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {take.error && <Trouble error={take.error} retry={() => take.mutate(take.variables)} />}
    </div>
  );
}
