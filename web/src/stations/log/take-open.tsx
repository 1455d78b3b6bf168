// One take, opened beside its plan: what was set otherwise, what went wrong, whose hands, what is thought of it.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changed } from "../../api/keys";
import {
  type FaultCode,
  logApi,
  RATINGS,
  type Rating,
  type Take,
  type Takes,
  takeQuery,
} from "../../api/log";
import { Met } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";
import type { Gone } from "../../parts/gone";
import { useShortcuts } from "../../parts/keyboard";
import { PersonField } from "../../parts/person-field";
import { Toggle } from "../../parts/toggle";
import { ShotPick } from "./shot-pick";
import { timeOf } from "./words";

/** Changes of a take, kept as soon as they are made, and had back with one click. */
function useTakeChange(take: Take) {
  // Of which shot it is stands beside what is said of it.
  const send = (revision: number, { shot_id, ...change }: Record<string, unknown>) =>
    logApi.change(take.id, {
      revision,
      change,
      ...(shot_id === undefined ? {} : { shot_id: shot_id as string | null }),
    });
  const shown = { ...take.said, shot_id: take.shot?.id ?? null };
  const { engine, now, say } = useChanges({
    place: `take.${take.id}`,
    shown,
    revision: take.revision,
    send,
    reread: changed.log,
  });
  const put = (change: Record<string, unknown>) => void say(change);
  return {
    said: now,
    engine,
    put,
    move: (shot_id: string | null) => put({ shot_id }),
    undo: engine.history.canUndo ? engine.undo : null,
    rate: (rating: Rating) => put({ rating: now.rating === rating ? null : rating }),
  };
}

const KEYS: Record<string, Rating> = { "log-keep": "keep", "log-maybe": "maybe", "log-no": "no" };

type Props = {
  take: Take;
  people: string[];
  /** What faults are called. */
  words: Takes["faults"];
  onGone: (gone: Gone) => void;
  close: () => void;
};

export function TakeOpen({ take, people, words, onGone, close }: Props) {
  const whole = useQuery(takeQuery(take.id));
  const { said, put, move, undo, rate, engine } = useTakeChange(take);
  const [elsewhere, setElsewhere] = useState<string | null>(null);
  useShortcuts("log", (id) => {
    const rating = KEYS[id];
    if (!rating) return false;
    rate(rating);
    return true;
  });
  const mark = (fault: FaultCode) => {
    const faults = said.faults ?? [];
    put({ faults: faults.includes(fault) ? faults.filter((one) => one !== fault) : [...faults, fault] });
  };
  const remove = () =>
    logApi.remove(take.id).then(() => {
      close();
      void changed.log();
      onGone({
        says: `Take ${take.number} was removed.`,
        back: () => logApi.restore(take.id).then(changed.log),
      });
    });
  const otherwise = (whole.data?.rows ?? []).filter((row) => row.really !== null);
  const asPlanned = (whole.data?.rows ?? []).filter((row) => row.really === null);
  return (
    <section
      aria-label={`Take ${take.number}, ${timeOf(take)}`}
      className="grid gap-x-8 gap-y-3 border-ink border-b bg-second px-4 pt-3 pb-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,22rem)]"
    >
      <div className="grid content-start gap-3">
        <fieldset className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <legend className="sr-only">Rating</legend>
          {RATINGS.map((rating) => (
            <Toggle key={rating} on={said.rating === rating} says={rating} take={() => rate(rating)} />
          ))}
          {undo && (
            <button type="button" className="ml-auto text-small underline" onClick={undo}>
              undo
            </button>
          )}
        </fieldset>
        <fieldset className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <legend className="pb-1 text-fine text-muted">What went wrong</legend>
          {(Object.keys(words) as FaultCode[]).map((fault) => (
            <Toggle
              key={fault}
              on={(said.faults ?? []).includes(fault)}
              says={`${words[fault] ?? fault}${take.measured.includes(fault) ? ", measured" : ""}`}
              take={() => mark(fault)}
            />
          ))}
        </fieldset>
        <Said label="Note" value={said.note ?? ""} keep={(note) => put({ note })} />
        <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-3">
          <PersonField
            label="Whose hands"
            value={said.hands ?? null}
            people={people}
            onChange={(hands) => put({ hands })}
          />
          <button type="button" className="plain" onClick={() => remove()}>
            Remove
          </button>
        </div>
        <Met engine={engine} />
      </div>
      <div className="grid content-start gap-2 text-small">
        {take.line && <p className="font-serif text-lead">{take.line}</p>}
        {otherwise.map((row) => (
          <p key={row.dial} className="flex justify-between gap-3 border-hair border-b py-[2px]">
            <span className="text-muted">{row.word}</span>
            <span>
              <s className="text-muted">{row.planned}</s> <b>{row.really}</b>
            </span>
          </p>
        ))}
        {asPlanned.length > 0 && (
          <details open={otherwise.length === 0 || undefined}>
            <summary className="cursor-pointer text-muted">As planned</summary>
            <dl className="columns-1">
              {asPlanned.map((row) => (
                <div key={row.dial} className="flex justify-between gap-3 border-hair border-b py-[2px]">
                  <dt className="text-muted">{row.word}</dt>
                  <dd>{row.planned}</dd>
                </div>
              ))}
            </dl>
          </details>
        )}
        <p className="flex flex-wrap gap-x-4 pt-1">
          <button
            type="button"
            className="underline"
            aria-expanded={elsewhere !== null}
            onClick={() => setElsewhere(elsewhere === null ? "" : null)}
          >
            it is of another shot
          </button>
          {take.shot && (
            <Link className="underline" to={`/shots/${take.shot.id}`}>
              its plan on the Bench
            </Link>
          )}
          {take.clip_id && (
            <Link className="underline" to={`/rushes/${take.clip_id}`}>
              its clip in Rushes
            </Link>
          )}
          {take.ladder_id && (
            <Link className="underline" to={`/log/ladders/${take.ladder_id}`}>
              its ladder
            </Link>
          )}
        </p>
        {elsewhere !== null && (
          <div className="flex flex-wrap items-end gap-2">
            <ShotPick shot={elsewhere} onChange={setElsewhere} none="no shoot" />
            <button
              type="button"
              className="plain"
              disabled={elsewhere === (take.shot?.id ?? "")}
              onClick={() => {
                move(elsewhere || null);
                setElsewhere(null);
              }}
            >
              {elsewhere ? "Put it there" : "Take it from its shot"}
            </button>
          </div>
        )}
      </div>
    </section>
  );
}

/** A text that is kept when the field is left. */
function Said({ label, value, keep }: { label: string; value: string; keep: (text: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed !== null && typed.trim() !== value) keep(typed.trim());
    setTyped(null);
  };
  return (
    <label className="grid gap-[2px] text-fine text-muted">
      {label}
      <input
        className="field text-ink"
        maxLength={2000}
        value={typed ?? value}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={done}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setTyped(null);
        }}
      />
    </label>
  );
}
