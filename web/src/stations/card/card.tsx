// The Card: the plan as taken outside, in the camera's menu order. Made for one thumb.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { shotQuery } from "../../api/bench";
import { cardQuery } from "../../api/card";
import { shootsQuery, shotsQuery } from "../../api/shoots";
import type { Card } from "../../api/types";
import { remember } from "../../changes/storage";
import { FramingSketch } from "../../instruments/framing-sketch";
import { Picture } from "../../instruments/picture";
import { useGround } from "../../parts/ground";
import { useShortcuts } from "../../parts/keyboard";
import { Loading } from "../../parts/loading";
import { PaperChoice, usePaper } from "../../parts/paper";
import { Trouble } from "../../parts/trouble";
import { stops } from "../../parts/words";
import { useOutside } from "./outside";
import { TakeBar } from "./take-bar";

export default function CardStation() {
  const { shotId = "" } = useParams();
  const card = useQuery(cardQuery(shotId));
  useEffect(() => remember("last-shot", shotId), [shotId]);
  useEffect(() => {
    document.title = `${card.data?.title ?? "Card"} · Card · Steady Tide`;
  }, [card.data]);
  if (card.error && !card.data) return <Trouble error={card.error} retry={() => card.refetch()} />;
  if (!card.data) return <Loading what="Loading the card." />;
  return <Drawn key={shotId} shotId={shotId} card={card.data} />;
}

function Drawn({ shotId, card }: { shotId: string; card: Card }) {
  const outside = useOutside(shotId);
  const { title, camera, held, light, when, glass, pages, checks, warnings, cautions } = card;
  const done = checks.filter((check) => outside.ticks[check.id]).length;
  return (
    <main className="mx-auto flex w-full max-w-[1000px] flex-wrap items-start gap-x-10 print:block print:max-w-none">
      <article
        className="card-sheet w-full max-w-[480px] px-4 pb-4 print:max-w-none print:p-0"
        aria-label="Field card"
      >
        <header className="-mx-4 border-ink border-b-2 px-4 pt-4 pb-3 print:mx-0 print:px-0 print:pt-0 print:pb-1">
          <h1 className="font-serif text-title leading-tight font-semibold">{title}</h1>
          <p className="pt-1 text-small text-muted">
            {camera}, {held}
            <br />
            {light}
            {when && (
              <>
                <br />
                {when}
              </>
            )}
          </p>
          {warnings
            .filter((warning) => warning.severity === "stop")
            .map((warning) => (
              <p
                key={warning.code}
                role="alert"
                className="lost-edge mt-2 border-2 border-note py-1 pr-2 pl-5 text-body"
              >
                <b className="text-note">Stop.</b> {warning.text}
              </p>
            ))}
        </header>
        {card.begin && <Begin begin={card.begin} />}
        {card.counting && (
          <p role="status" className="no-print -mx-4 border-ink border-b px-4 py-2 text-small text-muted">
            Counting what has to be turned.
          </p>
        )}
        {card.story && <Told story={card.story} />}
        <div className="print:columns-2 print:gap-8">
          <section className="break-inside-avoid">
            <h2 className="pt-3 pb-1 font-serif text-body italic text-muted print:pt-[5px] print:pb-0 print:text-fine">
              Before the lens
            </h2>
            <div className="flex min-h-[44px] items-center border-hair border-b py-[5px] print:min-h-0 print:py-[2px]">
              <span className="w-[100px] flex-none text-body text-muted print:text-fine">Filter</span>
              <b className="text-title leading-[1.15] print:text-body">{glass}</b>
            </div>
            {(card.glass_times ?? []).map((span) => (
              <p key={span} className="pt-1 pl-[100px] text-small">
                {span}
              </p>
            ))}
          </section>
          {pages.map((page) => (
            <section key={page.page} className="break-inside-avoid">
              <h2 className="pt-3 pb-1 font-serif text-body italic text-muted print:pt-[5px] print:pb-0 print:text-fine">
                {page.page}
              </h2>
              {page.rows.map((row) => (
                <CardLine
                  key={row.dial}
                  {...row}
                  really={outside.reallySet[row.dial]}
                  onSet={(value) => outside.set(row.dial, value)}
                />
              ))}
            </section>
          ))}
          {(card.frames ?? []).length > 0 && (
            <section className="break-inside-avoid print:hidden" aria-label="As it should look">
              <h2 className="pt-3 pb-1 font-serif text-body italic text-muted">As it should look</h2>
              <div className="grid grid-cols-2 items-start gap-3">
                {(card.frames ?? []).map((frame) => (
                  <figure key={frame.src}>
                    <Picture src={frame.src} says={`${frame.name}. ${frame.says}`} />
                    <figcaption className="pt-1 text-fine">
                      <b>{frame.name}</b> <span className="text-muted">{frame.says}</span>
                    </figcaption>
                  </figure>
                ))}
              </div>
            </section>
          )}
          <section className="break-inside-avoid">
            <h2 className="pt-3 pb-1 font-serif text-body italic text-muted print:pt-[5px] print:pb-0 print:text-fine">
              Before the take
              <span role="status" className="pl-2 font-sans text-fine not-italic">
                {done === checks.length ? "all done" : `${done} of ${checks.length}`}
              </span>
            </h2>
            {checks.map((check) => (
              <label
                key={check.id}
                className="flex min-h-[44px] items-center gap-3 border-hair border-b text-lead print:min-h-0 print:py-[1px] print:text-fine"
              >
                <input
                  type="checkbox"
                  className="border-[1.5px] [--tick:26px] print:[--tick:14px]"
                  checked={outside.ticks[check.id] ?? false}
                  onChange={(event) => outside.tick(check.id, event.target.checked)}
                />
                {check.text}
              </label>
            ))}
          </section>
          {(card.left ?? []).length > 0 && (
            <section className="break-inside-avoid" aria-label="Afterwards there is left">
              <h2 className="pt-3 pb-1 font-serif text-body italic text-muted print:pt-[5px] print:pb-0 print:text-fine">
                Afterwards there is left
              </h2>
              {(card.left ?? []).map((line) => (
                <p key={line} className="py-[2px] text-lead font-bold print:text-fine">
                  {line}
                </p>
              ))}
              {(card.fails ?? []).map((line) => (
                <p key={line} className="my-1 border-note border-l-3 pl-3 font-bold text-note">
                  {line}
                </p>
              ))}
            </section>
          )}
          <section className="pt-3 text-body print:pt-1 print:text-fine">
            {cautions.map((caution) => (
              <p key={caution.topic} className="my-2 border-note border-l-3 pl-3 print:my-1">
                <b className="text-note">Safety.</b> {caution.text}
              </p>
            ))}
            {warnings
              .filter((warning) => warning.severity !== "stop")
              .map((warning) => (
                <p
                  key={warning.code}
                  className={`my-2 border-l-3 pl-3 print:my-1 ${warning.severity === "note" ? "border-rule" : "border-note"}`}
                >
                  {warning.text}
                </p>
              ))}
          </section>
        </div>
      </article>
      <Aside shotId={shotId} card={card} clear={() => outside.clear(checks.map((check) => check.id))} />
      <Walk shotId={shotId} says={outside.says} reallySet={outside.reallySet} />
    </main>
  );
}

function Begin({ begin }: { begin: NonNullable<Card["begin"]> }) {
  return (
    <p className="-mx-4 border-rule border-b px-4 py-[10px] text-lead print:mx-0 print:px-0 print:py-1 print:text-fine">
      {begin.says}:{" "}
      {begin.changes === 0 ? (
        <b>change nothing</b>
      ) : (
        <>
          <b className="text-note">change {begin.changes}</b>, marked <Dot />
        </>
      )}
      {begin.quick.length > 0 && (
        <span className="block text-small text-muted">on a button: {begin.quick.join(", ")}</span>
      )}
    </p>
  );
}

/** What the shot is in its film: its sketch, what is still missing for the beat to cut, and the framing after it. */
function Told({ story }: { story: NonNullable<Card["story"]> }) {
  return (
    <section
      aria-label="In the film"
      className="-mx-4 grid grid-cols-[minmax(0,44%)_1fr] gap-3 border-rule border-b px-4 py-[10px] print:mx-0 print:grid-cols-[120px_1fr] print:px-0 print:py-1"
    >
      {story.sketch ? (
        <FramingSketch
          sketch={story.sketch}
          figure={story.figure as "person"}
          says={`${story.framing}, to scale`}
        />
      ) : (
        <span />
      )}
      <div className="text-body leading-snug print:text-fine">
        <p className="font-bold">{story.framing}</p>
        <p className="text-small text-muted">
          {story.film}, {story.beat}; {story.takes}
        </p>
        {story.minds.map((line) => (
          <p key={line} className="text-small font-bold text-note first-letter:uppercase">
            {line}
          </p>
        ))}
        {story.says.map((line) => (
          <p key={line} className="text-small first-letter:uppercase">
            {line}
          </p>
        ))}
      </div>
      {(story.missing.length > 0 || story.next) && (
        <div className="col-span-2 text-small">
          {story.missing.map((line) => (
            <p key={line} className="text-muted">
              {line}
            </p>
          ))}
          {story.next && (
            <p>
              Next{" "}
              <Link
                className="inline-block min-h-[28px] underline decoration-deep underline-offset-2"
                to={`/shots/${story.next.key}/card`}
              >
                {story.next.says}
              </Link>
            </p>
          )}
        </div>
      )}
    </section>
  );
}

function Dot() {
  return <span aria-hidden="true" className="inline-block size-[9px] rounded-full bg-note" />;
}

type LineProps = Card["pages"][number]["rows"][number] & {
  really?: string;
  onSet: (value: string | null) => void;
};

/** A value of the menu. Touching it asks what was really set. */
function CardLine({ label, value, unit, exact, pinned, changed, really, onSet }: LineProps) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const plain = [value, unit].filter(Boolean).join(" ");
  const keep = (said: string | null) => {
    onSet(said);
    setOpen(false);
  };
  return (
    <div className={`-mx-4 border-hair border-b px-4 print:mx-0 print:px-0 ${changed ? "bg-second" : ""}`}>
      <button
        type="button"
        className="flex min-h-[44px] w-full items-center py-[5px] text-left print:min-h-0 print:py-[1px]"
        aria-expanded={open}
        onClick={() => {
          setText(really ?? "");
          setOpen(!open);
        }}
      >
        <span className="w-[100px] flex-none text-body text-muted print:text-fine">{label}</span>
        <span className="flex-1 text-title leading-[1.15] font-bold print:text-body">
          <span className={really ? "line-through decoration-2" : ""}>{value}</span>{" "}
          <small className="text-small font-normal text-muted">
            {[unit, exact, pinned ? "pinned" : ""].filter(Boolean).join(" · ")}
          </small>
          {really && <span className="block text-lead text-note">set: {really}</span>}
        </span>
        {changed && (
          <span className="flex items-center gap-2 text-fine text-note">
            change <Dot />
          </span>
        )}
      </button>
      {open && (
        <form
          // Else the foot of the page would stand over it on a phone.
          ref={(form) => form?.scrollIntoView({ block: "center" })}
          className="no-print grid grid-cols-[1fr_auto] gap-2 pb-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep(text.trim() && text.trim() !== plain ? text.trim() : null);
          }}
        >
          <label className="col-span-2 text-small text-muted">
            {label}: what I really set, if not {plain}
            <input
              className="field min-h-[44px] text-title text-ink"
              autoFocus
              maxLength={60}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button type="submit" className="bold-plain min-h-[44px]">
            Keep
          </button>
          <button type="button" className="plain min-h-[44px]" onClick={() => keep(null)}>
            As planned
          </button>
        </form>
      )}
    </div>
  );
}

function Aside({ shotId, card, clear }: { shotId: string; card: Card; clear: () => void }) {
  const ground = useGround();
  const shot = useQuery(shotQuery(shotId));
  const [paper, setPaper] = usePaper();
  const [of, setOf] = useState("shot");
  const shoot = shot.data?.shoot_id;
  const cameraId = shot.data?.plan?.camera.id;
  const at =
    of === "shot" || !shoot
      ? [`/api/shots/${shotId}/card`, ""]
      : [`/api/shoots/${shoot}/cards`, of === "camera" ? `&camera=${cameraId}` : ""];
  return (
    <aside className="no-print w-full max-w-[400px] px-4 py-6">
      <p className="flex items-baseline gap-3 border-ink border-b pb-2">
        <strong className="big-figure">{stops(card.given_up_stops)}</strong> stops given up
      </p>
      <fieldset className="pt-3">
        <legend className="sr-only">Which cards</legend>
        <div className="grid grid-cols-3">
          {[
            ["shot", "This shot"],
            ["camera", `${card.camera}’s day`],
            ["shoot", "Whole shoot"],
          ].map(([id, says]) => (
            <label
              key={id}
              className="grid min-h-11 cursor-pointer place-content-center border border-rule px-1 text-center text-small leading-tight has-checked:border-2 has-checked:border-ink has-checked:font-bold has-focus-visible:outline-2 has-focus-visible:outline-note"
            >
              <input
                type="radio"
                name="which"
                className="sr-only"
                checked={of === id}
                onChange={() => setOf(id as string)}
              />
              {says}
            </label>
          ))}
        </div>
      </fieldset>
      <div className="grid grid-cols-[1fr_96px] gap-2 pt-3">
        <a
          className="bold-plain grid min-h-11 place-content-center"
          href={`${at[0]}.pdf?paper=${paper}${at[1]}`}
          download
        >
          Save as PDF
        </a>
        <PaperChoice paper={paper} onChange={setPaper} />
        <a
          className="plain col-span-2 grid min-h-11 place-content-center"
          href={`${at[0]}.html?download=true&ground=${ground}${at[1]}`}
          download
        >
          Save as a file for the phone
        </a>
        <Link className="plain col-span-2 grid min-h-11 place-content-center" to={`/shots/${shotId}`}>
          Back to the Bench
        </Link>
        <button type="button" className="plain col-span-2 min-h-11" onClick={clear}>
          Clear the ticks
        </button>
      </div>
      {ground !== "red" && (
        <details className="pt-3">
          <summary className="min-h-8 cursor-pointer">The settings as a code</summary>
          <img
            src={`/api/shots/${shotId}/code.svg`}
            alt="QR code that holds the settings as JSON"
            className="mt-1 size-[190px]"
          />
        </details>
      )}
      <p className="pt-3 text-small text-muted">
        The file opens without a network and remembers its ticks. Touch a value to note what you really set.
      </p>
    </aside>
  );
}

/** To the shot before and the next, within reach of a thumb; and what waits for the connection. */
type WalkProps = { shotId: string; says: string; reallySet: Record<string, string> };

function Walk({ shotId, says, reallySet }: WalkProps) {
  const shot = useQuery(shotQuery(shotId));
  const shots = useQuery({ ...shotsQuery(shot.data?.shoot_id ?? ""), enabled: shot.data !== undefined });
  const shoots = useQuery(shootsQuery);
  const navigate = useNavigate();
  const items = shots.data?.items ?? [];
  const place = items.findIndex((entry) => entry.id === shotId);
  const to = (step: number) => items[place + step]?.id;
  const go = (id: string | undefined) => id && navigate(`/shots/${id}/card`);
  useShortcuts("card", (id) => {
    go(to(id === "next-card" ? 1 : -1));
    return true;
  });
  const button = (step: number, says: string) => (
    <button
      type="button"
      className="min-h-[52px] flex-1 text-body disabled:text-muted disabled:opacity-60"
      disabled={place < 0 || !to(step)}
      onClick={() => go(to(step))}
    >
      {says}
    </button>
  );
  return (
    <nav
      aria-label="Walk through the shots"
      className="no-print sticky bottom-0 w-full max-w-[480px] border-ink border-t-2 bg-ground"
    >
      {says && (
        <p role="status" className="px-4 pt-1 text-small text-note">
          {says}
        </p>
      )}
      <TakeBar
        shotId={shotId}
        reallySet={reallySet}
        zone={shoots.data?.items.find(({ id }) => id === shot.data?.shoot_id)?.zone ?? "UTC"}
        hands={shot.data?.brief.camera_move.hands ?? null}
      />
      <div className="flex divide-x divide-hair">
        {button(-1, "Previous")}
        <span className="grid min-w-[72px] place-content-center text-small text-muted">
          {place < 0 ? "" : `${place + 1} of ${items.length}`}
        </span>
        {button(1, "Next")}
      </div>
    </nav>
  );
}
