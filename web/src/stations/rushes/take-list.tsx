// The clips by their shots: when, how long, what is thought of each, and its verdict in a line.
import { useMutation, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { changed } from "../../api/keys";
import { type ClipRow, type Clips, reportQuery, rushesApi } from "../../api/rushes";
import { clock } from "../../parts/words";

const SAID = { waiting: "waiting", failed: "not read", cancelled: "cancelled" } as const;

type Props = { clips: Clips; items: ClipRow[]; chosen: string };

export function TakeList({ clips, items, chosen }: Props) {
  const groups = new Map<string, ClipRow[]>();
  for (const item of items) {
    const shot = item.shot?.id ?? "";
    groups.set(shot, [...(groups.get(shot) ?? []), item]);
  }
  return (
    <>
      {[...groups].map(([shot, takes]) => (
        <section key={shot} aria-label={takes[0]?.shot?.title ?? "No shot found"} className="pt-3">
          <h2 className="border-ink border-b pb-1 font-serif text-lead font-semibold">
            {takes[0]?.shot?.title ?? "No shot found"}
            <span className="font-normal">
              , {takes.length} {takes.length === 1 ? "take" : "takes"}
            </span>
          </h2>
          <AreTheseRight takes={takes} />
          <ol>
            {takes.map((take, place) => (
              <Take key={take.id} take={take} number={place + 1} on={take.id === chosen} />
            ))}
          </ol>
          <Best takes={takes} />
        </section>
      ))}
      <Clocks clips={clips} />
      <Day shoot={items.find((item) => item.id === chosen)?.shot?.shoot_id ?? null} />
    </>
  );
}

/** Clips find their shots by themselves; until somebody says that it is so they count for nothing. */
function AreTheseRight({ takes }: { takes: ClipRow[] }) {
  const shot = takes[0]?.shot;
  const guessed = takes.filter((take) => !take.confirmed).length;
  const confirm = useMutation({
    mutationFn: (id: string) => rushesApi.confirm(id),
    onSuccess: () => changed.rushes(),
  });
  if (!shot || guessed === 0) return null;
  return (
    <div className="border-hair border-b py-[6px] text-small">
      <p className="flex flex-wrap items-baseline justify-between gap-x-3 gap-y-2">
        <span>
          <b>{guessed === 1 ? "Is this one right?" : `Are these ${guessed} right?`}</b>
          <span className="text-muted"> Until then they change no plan and no number.</span>
        </span>
        <button
          type="button"
          className="bold-plain min-h-[30px]"
          disabled={confirm.isPending}
          aria-label={`${shot.title}: ${guessed === 1 ? "it is" : "they are"} of this shot`}
          onClick={() => confirm.mutate(shot.id)}
        >
          yes
        </button>
      </p>
      {confirm.error && (
        <p role="alert" className="text-note">
          {confirm.error.message}
        </p>
      )}
    </div>
  );
}

function Take({ take, number, on }: { take: ClipRow; number: number; on: boolean }) {
  const worst = take.verdict?.findings[0];
  return (
    <li className="border-hair border-b">
      <Link
        to={`/rushes/${take.id}`}
        replace
        aria-current={on ? "true" : undefined}
        className={`grid grid-cols-[1.1rem_minmax(0,1fr)_auto] gap-x-2 px-1 py-[6px] ${on ? "bg-second" : "hover:bg-second"}`}
      >
        <b>{number}</b>
        <span className="truncate">{take.name}</span>
        <span className="text-fine text-muted">
          {take.recorded_at && `${clock(take.recorded_at, "UTC")} `}
          {take.seconds !== null &&
            `${take.seconds < 10 ? take.seconds.toFixed(1) : Math.round(take.seconds)} s`}
        </span>
        <span className="col-span-2 col-start-2 flex justify-between gap-2 text-fine">
          <span className={worst?.severity === "bad" || take.problem ? "text-note" : "text-muted"}>
            {take.gone && "file away · "}
            {take.state === "measuring"
              ? `measuring, ${Math.round(100 * take.share)} %`
              : take.state === "done"
                ? (worst?.text ?? "as planned")
                : SAID[take.state]}
          </span>
          {take.rating && <b>{take.rating}</b>}
        </span>
      </Link>
    </li>
  );
}

function Best({ takes }: { takes: ClipRow[] }) {
  const best = takes.find((take) => take.take?.place === 1);
  if (!best?.take || best.take.of < 2) return null;
  return (
    <p className="pt-1 text-fine text-muted">
      Take {takes.indexOf(best) + 1}: {best.take.why.charAt(0).toLowerCase() + best.take.why.slice(1)}
    </p>
  );
}

function Clocks({ clips }: { clips: Clips }) {
  const off = clips.clocks.filter((one) => Math.abs(one.ahead_s) >= 60 && one.clips > 0);
  if (off.length === 0) return null;
  return (
    <p className="pt-4 text-fine text-muted">
      {off
        .map(
          (one) =>
            `The clock of the ${one.camera} is ${span(Math.abs(one.ahead_s))} ${one.ahead_s > 0 ? "fast" : "slow"}.`,
        )
        .join(" ")}
    </p>
  );
}

function span(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

function Day({ shoot }: { shoot: string | null }) {
  const report = useQuery(reportQuery(shoot));
  if (!report.data) return null;
  return (
    <section aria-label="The day so far" className="pt-4">
      <h2 className="border-ink border-b pb-1 font-serif text-lead font-semibold">The day so far</h2>
      <p className="pt-2 leading-[1.45]">{report.data.line}</p>
      {report.data.faults.length > 0 && (
        <ul className="pt-1 leading-[1.45]">
          {report.data.faults.slice(0, 4).map((fault) => (
            <li key={fault.code}>
              {fault.text}:{" "}
              <Link className="underline" to={`/rushes/${fault.clip}`} replace>
                {fault.worst}
              </Link>
              .
            </li>
          ))}
        </ul>
      )}
      {report.data.first && <p className="pt-1 font-bold leading-[1.45]">{report.data.first}</p>}
      {report.data.well && <p className="pt-1 text-muted leading-[1.45]">{report.data.well}</p>}
    </section>
  );
}
