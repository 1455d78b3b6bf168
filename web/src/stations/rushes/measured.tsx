// One clip: frames of it, its time, as planned beside as filmed, next time, and what is in doubt.
import { useMutation, useQuery } from "@tanstack/react-query";
import { changed } from "../../api/keys";
import { RATINGS, type Rating } from "../../api/log";
import { type ClipRow, type ClipWhole, clipQuery, framePath, rushesApi } from "../../api/rushes";
import { Framed, Picture } from "../../instruments/picture";
import { TakeTimeline } from "../../instruments/take-timeline";
import { Toggle } from "../../parts/toggle";
import { Trouble } from "../../parts/trouble";
import { Doubts } from "./doubts";
import { Heading } from "./heading";
import { NextTime } from "./next-time";

const SOON = { waiting: true, measuring: true } as Record<string, boolean>;

type Props = {
  row: ClipRow;
  other: ClipRow | null;
  canCompare: boolean;
  comparing: boolean;
  onCompare: () => void;
  marked: boolean;
  onMarked: () => void;
  rate: (rating: Rating) => void;
  rating: Rating | null;
};

export function Measured({
  row,
  other,
  canCompare,
  comparing,
  onCompare,
  marked,
  onMarked,
  rate,
  rating,
}: Props) {
  const whole = useQuery(clipQuery(row.id));
  const beside = useQuery({ ...clipQuery(other?.id ?? ""), enabled: other !== null });
  if (whole.error && !whole.data) return <Trouble error={whole.error} retry={() => whole.refetch()} />;
  const clip = whole.data;
  return (
    <>
      <div
        role="group"
        aria-label="This take"
        className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2 text-small"
      >
        {RATINGS.map((one) => (
          <Toggle key={one} on={rating === one} says={one} take={() => rate(one)} />
        ))}
        <span className="ml-auto" />
        {canCompare && <Toggle on={comparing} says="compare" take={onCompare} />}
        {row.frames.length > 0 && <Toggle on={marked} says="marks" take={onMarked} />}
        <Again row={row} />
      </div>
      <State row={row} />
      <Filmed row={row} clip={clip} marked={marked} />
      {other && (
        <>
          <p className="pt-3 text-small">
            beside it <b>{other.name}</b>: {other.verdict?.line}
          </p>
          <Filmed row={other} clip={beside.data} marked={marked} />
        </>
      )}
      {clip?.measures && (
        <div className="grid grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-x-7 gap-y-4 pt-3 max-lg:grid-cols-[minmax(0,1fr)]">
          <section aria-label="As planned, as filmed">
            <Heading says="As planned, as filmed" />
            <Beside
              rows={clip.rows}
              planned={clip.camera !== null}
              theirs={comparing && beside.data ? beside.data.rows : null}
            />
          </section>
          <div className="grid content-start gap-4">
            {row.verdict && row.verdict.findings.length > 1 && (
              <section aria-label="What came out otherwise">
                <Heading says="What came out otherwise" />
                <ul className="pt-1">
                  {row.verdict.findings.map((finding) => (
                    <li
                      key={finding.code}
                      className={`border-hair border-b py-[5px] ${finding.severity === "bad" ? "font-bold text-note" : ""}`}
                    >
                      {finding.text}
                    </li>
                  ))}
                </ul>
              </section>
            )}
            {row.take && row.take.of > 1 && (
              <p>
                <b>
                  {row.take.place === 1 ? "The best" : `Number ${row.take.place}`} of {row.take.of} takes.
                </b>{" "}
                {row.take.why}
              </p>
            )}
            {row.shot && clip.camera && <NextTime shot={row.shot.id} shoot={row.shot.shoot_id} />}
            <Doubts clip={clip.measures} />
          </div>
        </div>
      )}
    </>
  );
}

/** Measure it again, or stop measuring it. */
function Again({ row }: { row: ClipRow }) {
  const again = useMutation({
    mutationFn: (quick: boolean) => rushesApi.measure(row.id, quick),
    onSettled: () => changed.rushes(),
  });
  const stopped = useMutation({
    mutationFn: () => rushesApi.cancel(row.id),
    onSettled: () => changed.rushes(),
  });
  const error = again.error ?? stopped.error;
  return (
    <>
      {SOON[row.state] ? (
        <button type="button" className="underline" onClick={() => stopped.mutate()}>
          stop measuring
        </button>
      ) : (
        <button
          type="button"
          className="underline"
          onClick={() => again.mutate(!row.quick && row.state === "done")}
        >
          {row.state === "done" && !row.quick ? "measure quickly" : "measure all frames"}
        </button>
      )}
      {error && (
        <span role="alert" className="basis-full text-note">
          {error.message}
        </span>
      )}
    </>
  );
}

function State({ row }: { row: ClipRow }) {
  if (row.problem)
    return (
      <p role="status" className="my-2 border-note border-l-3 py-1 pl-3">
        <b className="text-note">This clip cannot be measured:</b> {row.problem}
      </p>
    );
  if (row.state === "measuring")
    return (
      <p role="status" className="py-2">
        <progress
          className="tide mr-3 w-52 align-middle"
          value={row.share}
          aria-label="How much of it is measured"
        />
        measuring, {Math.round(100 * row.share)}&#x202f;%
      </p>
    );
  if (row.state === "waiting")
    return (
      <p role="status" className="py-2 text-muted">
        It waits for its turn.
      </p>
    );
  if (row.state === "cancelled")
    return (
      <p role="status" className="py-2 text-muted">
        Its measuring was stopped.
      </p>
    );
  return null;
}

/** Its frames, and what it was like over its time. */
function Filmed({ row, clip, marked }: { row: ClipRow; clip: ClipWhole | undefined; marked: boolean }) {
  return (
    <>
      <Frames row={row} marked={marked} />
      {clip?.whole_line && (
        <TakeTimeline
          line={clip.whole_line}
          seconds={row.seconds ?? 0}
          expected={clip.expected_stops}
          blownFrom={clip.blown_from}
          moments={clip.moments}
          says={row.verdict?.line ?? ""}
          name={row.name}
        />
      )}
    </>
  );
}

function Frames({ row, marked }: { row: ClipRow; marked: boolean }) {
  if (row.frames.length === 0) return null;
  return (
    <ol className="grid grid-cols-6 gap-[6px] pb-3 max-sm:grid-cols-3" aria-label="Frames of it">
      {row.frames.map((at, position) => (
        <li key={at}>
          <Framed shape={(row.width ?? 16) / (row.height ?? 9)}>
            <Picture
              src={framePath(row.id, position, marked)}
              says={`at ${at.toFixed(1)} s${marked ? ", what is blown and solid black striped" : ""}`}
            />
          </Framed>
          <span className="text-fine text-muted">{at.toFixed(1)}&#x202f;s</span>
        </li>
      ))}
    </ol>
  );
}

type Rows = { title: string; planned: string | null; filmed: string | null; differs: boolean }[];

function Beside({ rows, planned, theirs }: { rows: Rows; planned: boolean; theirs: Rows | null }) {
  return (
    <table className="w-full text-small">
      <thead>
        <tr className="text-right text-fine text-muted">
          <td />
          {planned && <th className="py-1 font-normal">planned</th>}
          <th className="py-1 pl-3 font-normal">filmed</th>
          {theirs && <th className="py-1 pl-3 font-normal">beside it</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.title} className="border-hair border-b align-baseline">
            <th className="py-[5px] text-left font-normal text-muted">{row.title}</th>
            {planned && <td className="py-[5px] pl-3 text-right">{row.planned ?? ""}</td>}
            <td className="py-[5px] pl-3 text-right">
              {row.filmed === null ? (
                <span className="text-muted">cannot be told</span>
              ) : (
                <b className={row.differs ? "text-note" : ""}>{row.filmed}</b>
              )}
              {row.differs && <span className="sr-only"> otherwise</span>}
            </td>
            {theirs && (
              <td className="py-[5px] pl-3 text-right">
                {theirs.find((other) => other.title === row.title)?.filmed ?? "–"}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
