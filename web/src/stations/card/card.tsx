// The Card: the plan as taken outside, in the camera's menu order.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { cardQuery } from "../../api/client";
import { useGround } from "../../app/ground";
import { recall, remember } from "../../app/remembered";
import { stops } from "../../app/words";
import { Trouble } from "../../parts/trouble";

export default function CardStation() {
  const { shotId = "" } = useParams();
  const card = useQuery(cardQuery(shotId));
  const ground = useGround();
  const [ticks, setTicks] = useState<Record<string, boolean>>(() => recall(`ticks.${shotId}`) ?? {});
  useEffect(() => remember("last-shot", shotId), [shotId]);
  useEffect(() => {
    document.title = `${card.data?.title ?? "Card"} · Card · Steady Tide`;
  }, [card.data]);
  const tick = (id: string, on: boolean) => {
    const next = { ...ticks, [id]: on };
    setTicks(next);
    remember(`ticks.${shotId}`, next);
  };
  if (card.error && !card.data) return <Trouble error={card.error} retry={() => card.refetch()} />;
  if (!card.data) return <p className="p-6 text-muted">Drawing the card.</p>;
  const { title, camera, held, light, when, glass, pages, checks, warnings, cautions } = card.data;
  return (
    <main className="mx-auto flex w-full max-w-[1000px] flex-wrap items-start gap-x-10 print:block print:max-w-none">
      <article
        className="card-sheet w-full max-w-[480px] px-4 pb-8 print:max-w-none print:px-0"
        aria-label="Field card"
      >
        <header className="-mx-4 border-ink border-b-2 px-4 pt-4 pb-3 print:mx-0 print:px-0">
          <h1 className="font-serif text-[21px] leading-tight font-semibold">{title}</h1>
          <p className="pt-1 text-[13.5px] text-muted">
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
                className="lost-edge mt-2 border-2 border-note py-1 pr-2 pl-5 text-[14px]"
              >
                <b className="text-note">Stop.</b> {warning.text}
              </p>
            ))}
        </header>
        <div className="print:columns-2 print:gap-8">
          <section className="break-inside-avoid">
            <h2 className="pt-3 pb-1 font-serif text-[14.5px] italic text-muted">Before the lens</h2>
            <dl>
              <CardLine label="Glass" value={glass} unit="" exact="" />
            </dl>
          </section>
          {pages.map((page) => (
            <section key={page.page} className="break-inside-avoid">
              <h2 className="pt-3 pb-1 font-serif text-[14.5px] italic text-muted">{page.page}</h2>
              <dl>
                {page.rows.map((row) => (
                  <CardLine key={row.dial} {...row} />
                ))}
              </dl>
            </section>
          ))}
          <section className="break-inside-avoid">
            <h2 className="pt-3 pb-1 font-serif text-[14.5px] italic text-muted">Before the take</h2>
            {checks.map((check) => (
              <label
                key={check.id}
                className="flex min-h-[44px] items-center gap-3 border-hair border-b text-[15.5px] print:min-h-0 print:py-1 print:text-[12px]"
              >
                <input
                  type="checkbox"
                  className="grid size-[26px] flex-none appearance-none place-content-center border-[1.5px] border-ink after:hidden after:h-[15px] after:w-[8px] after:-translate-y-[2px] after:rotate-45 after:border-ink after:border-r-[2.5px] after:border-b-[2.5px] checked:after:block print:size-[14px]"
                  checked={ticks[check.id] ?? false}
                  onChange={(event) => tick(check.id, event.target.checked)}
                />
                {check.text}
              </label>
            ))}
          </section>
          <section className="break-inside-avoid pt-3 text-[14px] print:text-[11px]">
            {cautions.map((caution) => (
              <p key={caution.topic} className="my-2 border-note border-l-3 pl-3">
                <b className="text-note">Safety.</b> {caution.text}
              </p>
            ))}
            {warnings
              .filter((warning) => warning.severity !== "stop")
              .map((warning) => (
                <p
                  key={warning.code}
                  className={`my-2 border-l-3 pl-3 ${warning.severity === "note" ? "border-rule" : "border-note"}`}
                >
                  {warning.text}
                </p>
              ))}
          </section>
        </div>
      </article>
      <aside className="no-print w-full max-w-[360px] px-4 py-6">
        <p className="flex items-baseline gap-3 border-ink border-b pb-2">
          <strong className="big-figure">{stops(card.data.given_up_stops)}</strong> stops given up
        </p>
        <p className="py-3 text-muted">
          Print it on one page, or keep the file on a phone: it opens without a network and remembers its
          ticks.
        </p>
        <div className="grid gap-2">
          <button type="button" className="bold-plain min-h-11" onClick={() => window.print()}>
            Print
          </button>
          <a
            className="plain grid min-h-11 place-content-center"
            href={`/api/shots/${shotId}/card.html?download=true&ground=${ground}`}
            download
          >
            Save as a file
          </a>
          <Link className="plain grid min-h-11 place-content-center" to={`/shots/${shotId}`}>
            Back to the Bench
          </Link>
          <button
            type="button"
            className="plain min-h-11"
            onClick={() => {
              setTicks({});
              remember(`ticks.${shotId}`, null);
            }}
          >
            Clear the ticks
          </button>
        </div>
      </aside>
    </main>
  );
}

type LineProps = { label: string; value: string; unit: string; exact: string; pinned?: boolean };

function CardLine({ label, value, unit, exact, pinned }: LineProps) {
  return (
    <div className="flex min-h-[40px] items-baseline border-hair border-b py-[5px] print:min-h-0 print:py-[2px]">
      <dt className="w-[100px] flex-none text-[14.5px] text-muted print:text-[11px]">{label}</dt>
      <dd className="text-[22px] leading-[1.15] font-bold print:text-[15px]">
        {value}{" "}
        <small className="text-[13px] font-normal text-muted">
          {[unit, exact, pinned ? "pinned" : ""].filter(Boolean).join(" · ")}
        </small>
      </dd>
    </div>
  );
}
