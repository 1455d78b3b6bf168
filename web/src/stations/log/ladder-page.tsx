// One ladder: how it is filmed, its frames side by side, and what is good enough.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { queries } from "../../api/http";
import { changed, inTurn, keys } from "../../api/keys";
import { type Answer, type Ladder, ladderQuery, logApi, type Said, takesQuery } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { recall, remember } from "../../changes/storage";
import type { Gone } from "../../parts/gone";
import { Loading } from "../../parts/loading";
import { PersonField } from "../../parts/person-field";
import { Toggle } from "../../parts/toggle";
import { Trouble } from "../../parts/trouble";
import { JudgePair } from "./judge-pair";
import { JudgeRow } from "./judge-row";

type View = "film" | "pairs" | "row";

export default function LadderPage({ onGone }: { onGone: (gone: Gone) => void }) {
  const { ladderId = "" } = useParams();
  const ladder = useQuery(ladderQuery(ladderId));
  const takes = useQuery(takesQuery({}));
  const navigate = useNavigate();
  const [view, setView] = useState<View | null>(null);
  const began = useRef<View | null>(null);
  const [who, setWho] = useState<string | null>(() => recall<string>("judging-as"));
  const [blind, setBlind] = useState(true);
  const said = useMutation({
    ...inTurn("answers", ladderId),
    mutationFn: (answer: Said) =>
      logApi.answer(ladderId, crypto.randomUUID(), {
        ...answer,
        at: new Date().toISOString(),
        who: who ?? "",
        blind,
      } as Answer),
    onSuccess: told,
  });
  const back = useMutation({
    ...inTurn("answers", ladderId),
    mutationFn: (answer: string) => logApi.takeBack(ladderId, answer),
    onSuccess: told,
  });
  if (ladder.error && !ladder.data) return <Trouble error={ladder.error} retry={() => ladder.refetch()} />;
  if (!ladder.data) return <Loading what="Loading the ladder." />;
  const found = ladder.data;
  // Where one begins: with filming until all of it is filmed; what happens meanwhile moves nobody on.
  began.current ??=
    found.rungs.reduce((sum, rung) => sum + rung.takes, 0) >= found.order.length ? "pairs" : "film";
  const shown = view ?? began.current;
  const mine = found.answers.filter((one) => one.answer.who === who);
  const remove = () =>
    logApi.removeLadder(ladderId).then(() => {
      void changed.log();
      navigate("/log/ladders");
      onGone({
        says: "The ladder was removed.",
        back: () => logApi.restoreLadder(ladderId).then(changed.log),
      });
    });
  const error = said.error ?? back.error;
  const last = mine.at(-1);
  return (
    <section className="min-w-0 px-6 pb-8 max-sm:px-4" aria-label="Ladder">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 border-rule border-b py-3">
        <h2 className="font-serif text-title">{found.title}</h2>
        <span className="flex items-center gap-4 text-small">
          {found.shot_id && (
            <Link className="underline" to={`/shots/${found.shot_id}`}>
              the shot
            </Link>
          )}
          <button type="button" className="min-h-6 underline" onClick={() => remove()}>
            remove
          </button>
        </span>
      </div>
      <Told found={found} />
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 py-3">
        <span className="flex gap-5 pb-1">
          <Toggle on={shown === "film"} says="film it" take={() => setView("film")} />
          <Toggle on={shown === "pairs"} says="choose between two" take={() => setView("pairs")} />
          <Toggle on={shown === "row"} says="rate in order" take={() => setView("row")} />
        </span>
        {shown !== "film" && (
          <>
            <span className="w-52">
              <PersonField
                label="Who judges"
                value={who}
                people={takes.data?.people ?? []}
                needed
                onChange={(name) => {
                  setWho(name);
                  remember("judging-as", name);
                }}
              />
            </span>
            <label className="flex min-h-9 items-center gap-2">
              <input type="checkbox" checked={blind} onChange={(event) => setBlind(event.target.checked)} />
              labels hidden until it is said
            </label>
          </>
        )}
      </div>
      {shown === "film" && <Film found={found} />}
      {shown !== "film" && !who && (
        <p className="border-note border-l-3 pl-3">
          Say first who judges: good enough differs from one to another.
        </p>
      )}
      {shown === "pairs" && who && (
        <JudgePair
          key={`${who}${mine.length}`}
          found={found}
          who={who}
          blind={blind}
          busy={said.isPending || back.isPending}
          say={(answer) => said.mutate(answer)}
          before={last ? answerWords(found, last.answer) : null}
          undo={last ? () => back.mutate(last.id) : null}
        />
      )}
      {shown === "row" && who && (
        <JudgeRow found={found} blind={blind} busy={said.isPending} say={(answer) => said.mutate(answer)} />
      )}
      {error && (
        <p role="alert" className="pt-2 text-note">
          {refusalWords(error)}
        </p>
      )}
      {shown !== "film" && found.answers.length > 0 && (
        <Answers found={found} take={(id) => back.mutate(id)} />
      )}
    </section>
  );
}

/** An answer brings the whole ladder anew; what it teaches is read again. */
function told(ladder: Ladder): void {
  queries.setQueryData(keys.ladder(ladder.id), ladder);
  void queries.invalidateQueries({ queryKey: keys.numbers });
  void queries.invalidateQueries({ queryKey: keys.ladders, exact: true });
}

function Told({ found }: { found: Ladder }) {
  return (
    <div className="max-w-[56rem] pt-3">
      {found.limits.map((limit) => (
        <p key={limit.who} className={limit.enough ? "font-serif text-lead leading-[1.5]" : "text-muted"}>
          {limit.says}
          {limit.enough && found.quantity === "snr" && (
            <>
              {" "}
              <Link className="font-sans text-small underline" to="/log/own">
                make it {limit.who}’s own limit
              </Link>
            </>
          )}
        </p>
      ))}
      {found.contradictions.map((says) => (
        <p key={says} className="mt-1 border-note border-l-3 pl-3">
          {says}
        </p>
      ))}
      {found.gone && <p className="text-note">Its shot was removed; the ladder stays as it was made.</p>}
      {found.changed.length > 0 && (
        <p className="mt-1 border-note border-l-3 pl-3">
          <b>The shot’s plan has changed since.</b> {found.changed.join("; ")}. What was filmed by this ladder
          stays; film the rest as it says here, or make another.
        </p>
      )}
    </div>
  );
}

function Film({ found }: { found: Ladder }) {
  const [logged, setLogged] = useState(() => found.rungs.reduce((sum, rung) => sum + rung.takes, 0));
  const put = useMutation({
    mutationFn: (rung: number) =>
      logApi.put(crypto.randomUUID(), {
        shot_id: found.shot_id,
        ladder_id: found.id,
        rung,
        said: { at: new Date().toISOString() },
      }),
    onSuccess: () => {
      setLogged((now) => now + 1);
      void changed.log();
    },
  });
  const next = found.order[logged];
  return (
    <div className="grid gap-x-10 gap-y-4 lg:grid-cols-2">
      <div>
        <p className="pb-2">
          <b>{found.word}</b> on the {found.camera}, {Math.max(1, Math.round(found.minutes))} minutes, there
          and back: a light that drifts evenly favours none.
        </p>
        <ol>
          {found.steps.map((says, place) => (
            <li
              key={place}
              aria-current={place === logged ? "step" : undefined}
              className={`grid min-h-10 grid-cols-[2rem_minmax(0,1fr)_auto] items-center border-hair border-b ${place === logged ? "bg-second font-bold" : place < logged ? "text-muted" : ""}`}
            >
              <span className="pl-1">{place + 1}</span>
              {says}
              <span className="pr-2">{place < logged ? "filmed" : ""}</span>
            </li>
          ))}
        </ol>
        {found.shot_id && next !== undefined && (
          <p className="pt-2 text-small">
            <Link className="underline" to={`/shots/${found.shot_id}/card`}>
              Its steps stand on the card
            </Link>
            , where the thumb that logs a take goes through them.
          </p>
        )}
        {next !== undefined ? (
          <button
            type="button"
            className="bold-plain mt-3 min-h-11 w-full"
            disabled={put.isPending}
            onClick={() => put.mutate(next)}
          >
            Filmed: {found.rungs[next]?.label}
          </button>
        ) : (
          <p className="pt-3">All of it is filmed. Let Rushes measure the clips, then choose.</p>
        )}
        {put.error && (
          <p role="alert" className="pt-2 text-note">
            {refusalWords(put.error)}
          </p>
        )}
      </div>
      <div>
        <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">Result</h3>
        <table className="w-full">
          <tbody>
            {found.rungs.map((rung) => (
              <tr key={rung.label} className="border-hair border-b">
                <td className="py-1 font-bold">{rung.label}</td>
                <td>{rung.amount}</td>
                <td className="text-right text-muted">
                  {rung.takes > 0 ? `${rung.takes} ${rung.takes === 1 ? "take" : "takes"}` : ""}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {found.not_held.length > 0 && (
          <>
            <h3 className="border-ink border-b pt-4 pb-1 font-serif text-lead font-semibold">
              What cannot be held
            </h3>
            {found.not_held.map((says) => (
              <p key={says} className="py-1">
                {says}
              </p>
            ))}
          </>
        )}
        <p className="pt-3 text-small text-muted">
          Only {found.word} moves; leave every other dial, the place and the route as they are. Riding, diving
          and flying go by your training and the rules of the place, not by a ladder.
        </p>
      </div>
    </div>
  );
}

function Answers({ found, take }: { found: Ladder; take: (id: string) => void }) {
  return (
    <details className="pt-5">
      <summary className="cursor-pointer text-muted">
        {found.answers.length} {found.answers.length === 1 ? "answer" : "answers"}, and what they say
      </summary>
      <ul className="pt-1">
        {found.told.map((says) => (
          <li key={says}>{says}</li>
        ))}
      </ul>
      <ol className="pt-2 text-small">
        {found.answers.map(({ id, answer }) => (
          <li key={id} className="flex flex-wrap justify-between gap-x-4 border-hair border-b py-[2px]">
            <span>
              {answer.who}: {answerWords(found, answer)}
              {answer.blind ? "" : ", labels seen"}
            </span>
            <button type="button" className="underline" onClick={() => take(id)}>
              take back
            </button>
          </li>
        ))}
      </ol>
    </details>
  );
}

function answerWords(found: Ladder, answer: Answer): string {
  const label = (rung: number | null | undefined) =>
    rung === null || rung === undefined ? "" : (found.rungs[rung]?.label ?? "");
  if (answer.how === "row") {
    const last = answer.up_to ?? -1;
    return last < 0 ? "none of the row is good enough" : `good up to ${label(found.best_first[last])}`;
  }
  const good = answer.good ?? [];
  const pair = `${label(answer.left)} and ${label(answer.right)}`;
  if (good.length === 2) return `${pair}: both good enough`;
  if (good.length === 0) return `${pair}: neither`;
  return `${pair}: ${label(good[0])} is good enough, the other is not`;
}
