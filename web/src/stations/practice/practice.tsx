// Practice: five minutes of questions of the planner's own, asked again when they are due.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { changed } from "../../api/keys";
import { kitQuery } from "../../api/kit";
import {
  type Judged,
  type PracticeSession,
  practiceApi,
  practiceQuery,
  type Question,
  questionQuery,
  type With,
} from "../../api/practice";
import { shootsApi, shootsQuery } from "../../api/shoots";
import type { Brief } from "../../api/types";
import { refusalWords } from "../../changes/refusals";
import { recall, remember } from "../../changes/storage";
import { SelectField } from "../../parts/fields";
import { Fold } from "../../parts/fold";
import { useShortcuts } from "../../parts/keyboard";
import { Toggle } from "../../parts/toggle";
import { Trouble } from "../../parts/trouble";
import { Frames } from "./frames";

const SESSION_MS = 5 * 60_000;
const LETTERS = "abcdefgh";

/** One thing to ask: counts is false where it is asked once more within its session. */
type Turn = { topic: string; seed: number; counts: boolean };

export default function Practice() {
  const kit = useQuery(kitQuery);
  const [kinds, setKinds] = useState<string>(() => recall("practice-kinds") ?? "");
  const [camera, setCamera] = useState<string>(() => recall("practice-camera") ?? "");
  const [deck, setDeck] = useState<string>(() => recall("practice-deck") ?? "");
  const by = { camera, deck };
  const [seed, setSeed] = useState(() => Math.floor(Date.now() / 1000) % 1_000_000_000);
  const session = useQuery(practiceQuery(kinds, by, seed));
  const known = useRef<PracticeSession["decks"]>([]);
  if (session.data) known.current = session.data.decks;
  const decks = known.current;
  useEffect(() => {
    document.title = "Practice · Steady Tide";
  }, []);
  const anew = (change: () => void) => {
    change();
    setSeed((last) => last + 1);
  };
  const forget = useMutation({ mutationFn: practiceApi.forget, onSuccess: () => anew(() => {}) });
  const all = session.data?.kinds ?? [];
  const chosen = kinds ? kinds.split(",") : all.map((one) => one.id);
  const choose = (id: string) => {
    const next = chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id];
    const said = next.length === all.length ? "" : next.sort().join();
    remember("practice-kinds", said);
    anew(() => setKinds(said));
  };
  return (
    <main className="grid flex-1 grid-cols-[236px_minmax(0,1fr)] max-md:grid-cols-1 max-md:content-start">
      <aside className="border-rule border-r px-6 py-5 max-md:border-b max-md:px-4 max-md:py-1">
        <h1 className="border-ink border-b pb-2 font-serif text-title font-semibold max-md:sr-only">
          Practice
        </h1>
        <Fold says="Practice: what is asked">
          <p className="pt-3 text-small text-muted">what is asked</p>
          <p className="flex flex-wrap gap-x-4 gap-y-1">
            {all.map((one) => (
              <Toggle key={one.id} on={chosen.includes(one.id)} says={one.name} take={() => choose(one.id)} />
            ))}
          </p>
          <div className="pt-3">
            <SelectField
              label="camera"
              value={camera}
              options={[
                ["", "any"],
                ...(kit.data?.cameras ?? []).map((one): [string, string] => [one.id, one.name]),
              ]}
              onChange={(id) => {
                remember("practice-camera", id);
                anew(() => setCamera(id));
              }}
            />
          </div>
          <div className="pt-3">
            <SelectField
              label="of"
              value={deck}
              options={[
                ["", "everything"],
                ...decks.map((one): [string, string] => [one.id, one.name]),
                ...(deck && !decks.some((one) => one.id === deck) ? [[deck, ""] as [string, string]] : []),
              ]}
              onChange={(id) => {
                remember("practice-deck", id);
                anew(() => setDeck(id));
              }}
            />
          </div>
          {deck === "log" && session.data && (
            <p className="pt-1 text-small text-muted">{session.data.past}</p>
          )}
          <p className="pt-4 text-small" role="status" data-testid="practice-standing">
            {session.data?.says ?? "Counting what is due."}
          </p>
          <p className="flex flex-wrap items-baseline gap-x-4 pt-2 text-small">
            <a
              className="underline decoration-deep underline-offset-2"
              href="/api/practice/practice.json"
              download
            >
              take it along
            </a>
            <button type="button" className="underline" onClick={() => forget.mutate()}>
              begin anew
            </button>
          </p>
        </Fold>
      </aside>
      <section className="min-w-0 px-7 py-5 max-md:px-4 max-md:py-3" aria-label="Questions">
        {session.error && !session.data ? (
          <Trouble error={session.error} retry={() => session.refetch()} />
        ) : session.data ? (
          <Sitting
            key={seed}
            topics={session.data.topics}
            by={by}
            without={all.filter((one) => one.pictures).map((one) => one.id)}
            seed={seed}
            more={() => anew(() => {})}
          />
        ) : (
          <p role="status" className="text-muted">
            Looking for what is due.
          </p>
        )}
      </section>
    </main>
  );
}

type SittingProps = {
  topics: string[];
  by: With;
  without: string[];
  seed: number;
  more: () => void;
};

/** Five minutes of it. without: kinds that are left out where somebody wants no pictures. */
function Sitting({ topics, by, without, seed, more }: SittingProps) {
  const queries = useQueryClient();
  const [turns, setTurns] = useState<Turn[]>(() => topics.map((topic) => ({ topic, seed, counts: true })));
  const [done, setDone] = useState<boolean[]>([]);
  const [ends] = useState(() => Date.now() + SESSION_MS);
  const turn = turns[0];
  const asked = useQuery(questionQuery(turn?.topic ?? "", by, turn?.seed ?? 0));
  const { camera, deck } = by;
  // The next one is made while one thinks.
  const next = turns[1];
  useEffect(() => {
    if (next) void queries.prefetchQuery(questionQuery(next.topic, { camera, deck }, next.seed));
  }, [next, camera, deck, queries]);
  const refused = asked.error !== null && asked.data === undefined;
  useEffect(() => {
    // What this camera cannot film is not asked of it.
    if (refused) setTurns((waiting) => waiting.slice(1));
  }, [refused]);
  const right = done.filter(Boolean).length;
  const over = (judged: Judged) => {
    setDone((before) => [...before, judged.right]);
    if (!judged.right && turn?.counts)
      setTurns((waiting) => [...waiting, { topic: turn.topic, seed: turn.seed + 1, counts: false }]);
  };
  const on = () => setTurns((waiting) => (Date.now() > ends ? [] : waiting.slice(1)));
  if (!turn)
    return (
      <div className="max-w-[640px]">
        <h2 className="font-serif text-head font-semibold">
          {done.length === 0 ? "Nothing is due" : `${right} of ${done.length} right`}
        </h2>
        <p className="py-2 font-serif text-lead leading-relaxed">
          {done.length === 0
            ? "What you know is asked again when it is due. Choose another kind or another camera to go on."
            : "What was missed comes again tomorrow, what is known later and later."}
        </p>
        <button type="button" className="bold-plain" onClick={more}>
          Go on
        </button>
      </div>
    );
  return (
    <div className="max-w-[760px]">
      <p className="pb-2 text-small text-muted">
        {done.length === 0 ? "five minutes; stop when you like" : `${right} of ${done.length} right`}
        {turn.counts ? "" : " · once more, with other numbers"}
      </p>
      {asked.data ? (
        <Asked
          key={`${turn.topic}/${turn.seed}`}
          question={asked.data}
          by={by}
          counts={turn.counts}
          without={() =>
            setTurns((waiting) => waiting.filter((one) => !without.includes(one.topic.split(":")[0] ?? "")))
          }
          over={over}
          on={on}
        />
      ) : (
        <p role="status" className="text-muted">
          Making a question.
        </p>
      )}
    </div>
  );
}

type AskedProps = {
  question: Question;
  by: With;
  counts: boolean;
  without: () => void;
  over: (judged: Judged) => void;
  on: () => void;
};

function Asked({ question, by, counts, without, over, on }: AskedProps) {
  const [typed, setTyped] = useState("");
  const [places, setPlaces] = useState<number[]>([]);
  const [id] = useState(() => crypto.randomUUID());
  const began = useRef(performance.now());
  const heading = useRef<HTMLHeadingElement>(null);
  const order = question.form === "order";
  const number = question.form === "number";
  useEffect(() => {
    if (!number) heading.current?.focus();
  }, [number]);
  const judge = useMutation({
    mutationFn: () =>
      practiceApi.answer({
        id,
        topic: question.topic,
        seed: question.seed,
        camera: by.camera || null,
        deck: by.deck,
        said: number ? typed : places.map((place) => place + 1).join(" "),
        took_s: Math.min(86_400, (performance.now() - began.current) / 1000),
        counts,
      }),
    onSuccess: over,
  });
  const judged = judge.data;
  const wanted = order ? (question.rows[0]?.values.length ?? 0) : question.rows.length;
  const ready = number ? typed.trim() !== "" : places.length === wanted;
  const take = (row: number, place: number) => {
    if (judged) return;
    if (order)
      setPlaces((said) => (said.includes(place) ? said.filter((one) => one !== place) : [...said, place]));
    else
      setPlaces((said) => {
        const next = [...said];
        next[row] = place;
        return next;
      });
  };
  const go = () => {
    if (judged) on();
    else if (ready && !judge.isPending) judge.mutate();
  };
  useShortcuts("practice", (key) => {
    if (key === "practice-on") {
      if (document.activeElement?.tagName === "BUTTON" || document.activeElement?.tagName === "A")
        return false;
      go();
      return true;
    }
    if (key === "practice-back") {
      setPlaces((said) => said.slice(0, -1));
      return true;
    }
    const place = Number(key.replace("choice-", ""));
    const row = order ? 0 : Math.min(places.length, question.rows.length - 1);
    if (number || place >= (question.rows[row]?.values.length ?? 0)) return false;
    take(row, place);
    return true;
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    go();
  };
  return (
    <form onSubmit={submit}>
      <h2
        ref={heading}
        tabIndex={-1}
        className="font-serif text-head leading-snug font-semibold outline-none max-md:text-title"
      >
        {question.says}
      </h2>
      {question.frames.length > 0 && (
        <Frames question={question} told={judged !== undefined} without={without} />
      )}
      {number ? (
        <p className="flex items-baseline gap-3 pt-4">
          <input
            aria-label="Answer"
            className="field !w-[160px] text-title"
            autoFocus
            autoComplete="off"
            value={typed}
            readOnly={judged !== undefined}
            onChange={(event) => setTyped(event.target.value)}
          />
          <span className="text-muted">{question.hint}</span>
        </p>
      ) : (
        question.rows.map((row, n) => (
          <fieldset key={row.word || "values"} className="mt-4">
            <legend className="text-small text-muted">
              {row.word || (order ? "in their order" : "choose")}
            </legend>
            <div className="flex flex-wrap gap-2 pt-1">
              {row.values.map((value, place) => {
                const at = order ? places.indexOf(place) : places[n] === place ? 0 : -1;
                const best = judged && (order ? judged.best[at] === place + 1 : judged.best[n] === place + 1);
                return (
                  <button
                    key={value}
                    type="button"
                    aria-pressed={at >= 0}
                    aria-disabled={judged !== undefined}
                    className={`min-h-[44px] border px-3 text-left text-lead ${at >= 0 ? "border-ink bg-ink font-bold text-ground" : "border-rule hover:bg-second"} ${best && !order ? "outline-2 outline-note outline-offset-2" : ""}`}
                    onClick={() => take(n, place)}
                  >
                    <span className="pr-2 text-fine opacity-80">
                      {order && at >= 0 ? at + 1 : LETTERS[place]}
                    </span>
                    {value}
                    {best && !order && <span className="sr-only">, the best</span>}
                  </button>
                );
              })}
            </div>
          </fieldset>
        ))
      )}
      {judge.error && (
        <p role="alert" className="pt-3 text-note">
          {refusalWords(judge.error)}
        </p>
      )}
      <div role="status" className="pt-4">
        {judged && (
          <>
            <p className={`font-serif text-title leading-snug ${judged.right ? "" : "text-note"}`}>
              {judged.lines[0]}
            </p>
            <ul className="pt-1">
              {judged.lines.slice(1).map((line) => (
                <li
                  key={line}
                  className="border-hair border-b py-[5px] text-body leading-snug first-letter:uppercase"
                >
                  {line}
                </li>
              ))}
            </ul>
            {judged.again && <p className="pt-2 text-small text-muted">{judged.again}</p>}
          </>
        )}
      </div>
      <p className="flex flex-wrap items-center gap-3 pt-4">
        <button type="submit" className="bold-plain" disabled={!judged && (!ready || judge.isPending)}>
          {judged ? "Next" : "Answer"}
        </button>
        {judged?.brief && <OnBench brief={judged.brief as Brief} />}
        {judged?.camera && (
          <Link className="plain inline-flex items-center" to={`/kit/cameras/${judged.camera}`}>
            Open its sheet
          </Link>
        )}
      </p>
    </form>
  );
}

const SHOOT = "Practice"; // what is opened on the Bench goes into a shoot of that name

/** The question as a shot on the Bench. */
function OnBench({ brief }: { brief: Brief }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const open = useMutation({
    mutationFn: async () => {
      const there = (await queries.fetchQuery(shootsQuery)).items.find((one) => one.title === SHOOT);
      const shoot = there ?? (await shootsApi.addShoot({ title: SHOOT }));
      return shootsApi.addShot(shoot.id, { brief, starts_at: null });
    },
    onSuccess: (shot) => {
      changed.shoots();
      navigate(`/shots/${shot.id}`);
    },
  });
  return (
    <>
      <button type="button" className="plain" disabled={open.isPending} onClick={() => open.mutate()}>
        Open it on the Bench
      </button>
      {open.error && (
        <span role="alert" className="text-note">
          {refusalWords(open.error)}
        </span>
      )}
    </>
  );
}
