// One field of a sheet: what it is called, what was typed or is estimated, and where a person finds it.
import { useEffect, useId, useRef, useState } from "react";
import type { FieldNote } from "../../api/types";
import { readNumber } from "../../parts/reading";
import { shownNumber } from "./estimates";

export type EstimateOf = { low?: number | null; high?: number | null; how: string };

type Props = {
  note: FieldNote;
  value: unknown;
  filled: unknown;
  estimate: EstimateOf | undefined;
  ids: string[];
  onChange: (value: unknown) => void;
  fault?: string;
  hint?: string;
};

const FIND = {
  box: "on the box",
  manual: "in the manual",
  menu: "in the menu",
  test: "by a test",
  file: "in a file",
  choice: "as you like",
} as const;

export function FieldRow({ note, value, filled, estimate, ids, onChange, fault, hint }: Props) {
  const id = useId();
  const shown = value === undefined || value === null ? "" : textOf(note.input, value);
  const usual = filled === undefined || filled === null ? "" : textOf(note.input, filled);
  const guess = usual === "{}" || usual === "[]" ? "" : usual && estimate ? `≈ ${usual}` : usual;
  return (
    <div
      className={`grid ${note.input === "json" ? "items-start" : "items-baseline"} grid-cols-[132px_196px_minmax(0,1fr)] gap-x-3 border-hair border-b py-[4px] max-sm:grid-cols-1 lg:max-xl:grid-cols-[132px_minmax(0,1fr)]`}
      data-field={note.path}
    >
      <label htmlFor={id} className="text-small leading-tight">
        {note.name}
        {note.unit && <span className="text-muted"> {note.unit}</span>}
      </label>
      <div>
        <Control
          id={id}
          note={note}
          value={value}
          shown={shown}
          guess={guess}
          filled={filled}
          ids={ids}
          onChange={onChange}
        />
        {fault && <p className="pt-[2px] text-fine text-note">{fault}</p>}
      </div>
      <p className="text-fine leading-[1.3] text-muted lg:max-xl:col-start-2">
        {shown === "" && estimate && (
          <span className="text-ink">
            <span className="text-note">≈</span>{" "}
            {typeof estimate.low === "number" && typeof estimate.high === "number"
              ? `${shownNumber(estimate.low)} to ${shownNumber(estimate.high)}, `
              : ""}
            {estimate.how}.{" "}
          </span>
        )}
        {hint && <span className="text-ink">{hint} </span>}
        <i>{FIND[note.find]}:</i> {note.where}
      </p>
    </div>
  );
}

type ControlProps = {
  id: string;
  note: FieldNote;
  value: unknown;
  shown: string;
  guess: string;
  filled: unknown;
  ids: string[];
  onChange: (value: unknown) => void;
};

function Control({ id, note, value, shown, guess, filled, ids, onChange }: ControlProps) {
  if (note.input === "flag")
    return (
      <select
        id={id}
        className="field"
        value={shown}
        onChange={(event) => onChange(event.target.value === "" ? undefined : event.target.value === "yes")}
      >
        <option value="">{guess || "not said"}</option>
        <option value="yes">yes</option>
        <option value="no">no</option>
      </select>
    );
  if (note.input === "choice" || note.input === "id") {
    const options = note.input === "id" ? ids : (note.options ?? []);
    return (
      <select
        id={id}
        className="field"
        value={shown}
        onChange={(event) => onChange(event.target.value || undefined)}
      >
        <option value="">{words(guess) || "not said"}</option>
        {options.map((option) => (
          <option key={option} value={option}>
            {words(option)}
          </option>
        ))}
      </select>
    );
  }
  if (note.input === "several" || note.input === "ids")
    return (
      <Several
        id={id}
        name={note.name}
        options={note.input === "ids" ? ids : [...(note.options ?? [])]}
        value={value}
        filled={filled}
        onChange={onChange}
      />
    );
  return <Typed id={id} note={note} shown={shown} guess={guess} onChange={onChange} />;
}

function Several(props: {
  id: string;
  name: string;
  options: string[];
  value: unknown;
  filled: unknown;
  onChange: (value: unknown) => void;
}) {
  const { id, name, options, value, filled, onChange } = props;
  const typed = Array.isArray(value);
  const chosen = (typed ? value : Array.isArray(filled) ? filled : []) as string[];
  const all = chosen.includes("all");
  return (
    <span id={id} role="group" aria-label={name} className="flex flex-wrap gap-x-3">
      {options.map((option) => (
        <label
          key={option}
          className={`flex min-h-[24px] items-center gap-[6px] ${typed ? "" : "text-muted italic"}`}
        >
          <input
            type="checkbox"
            checked={all || chosen.includes(option)}
            onChange={(event) => {
              const now = all ? options : chosen;
              onChange(event.target.checked ? [...now, option] : now.filter((entry) => entry !== option));
            }}
          />
          {words(option)}
        </label>
      ))}
      {options.length === 0 && <span className="text-fine text-muted">none yet</span>}
      {typed && (
        <button
          type="button"
          className="min-h-[24px] text-fine underline"
          onClick={() => onChange(undefined)}
        >
          not said
        </button>
      )}
    </span>
  );
}

function Typed(props: {
  id: string;
  note: FieldNote;
  shown: string;
  guess: string;
  onChange: (value: unknown) => void;
}) {
  const { id, note, shown, guess, onChange } = props;
  const [text, setText] = useState(shown);
  const [wrong, setWrong] = useState("");
  const typed = useRef(shown);
  useEffect(() => {
    if (shown === typed.current) return;
    typed.current = shown;
    setText(shown);
    setWrong("");
  }, [shown]);
  const put = (next: string) => {
    setText(next);
    const [value, fault] = readText(note.input, next);
    setWrong(fault);
    if (fault) return;
    typed.current = value === undefined ? "" : textOf(note.input, value);
    onChange(value);
  };
  const given = {
    id,
    className: "field",
    value: text,
    placeholder: guess,
    "aria-invalid": wrong !== "",
  };
  return (
    <>
      {note.input === "json" ? (
        <textarea
          {...given}
          rows={text.length > 60 ? 8 : 2}
          spellCheck={false}
          onChange={(event) => put(event.target.value)}
        />
      ) : (
        <input
          {...given}
          disabled={note.input === "none"}
          inputMode={note.input === "number" || note.input === "whole" ? "decimal" : undefined}
          onChange={(event) => put(event.target.value)}
        />
      )}
      {wrong && <p className="pt-[2px] text-fine text-note">{wrong}</p>}
    </>
  );
}

export function words(id: string): string {
  return id.replaceAll("_", " ");
}

function secondText(value: number): string {
  return value > 0 && value < 0.3 ? `1/${Math.round(1 / value)}` : String(value);
}

/** A value as it stands in its field. */
export function textOf(input: FieldNote["input"], value: unknown): string {
  if (input === "flag") return value ? "yes" : "no";
  if (input === "json") return JSON.stringify(value);
  if (input === "second") return secondText(Number(value));
  if (Array.isArray(value))
    return value.map((entry) => (input === "seconds" ? secondText(Number(entry)) : String(entry))).join(", ");
  return typeof value === "object" ? JSON.stringify(value) : String(value);
}

/** Reads what was typed. Returns the value, undefined where nothing stands; or what is wrong with it. */
export function readText(input: FieldNote["input"], text: string): [unknown, string] {
  const plain = text.trim();
  if (plain === "") return [undefined, ""];
  if (input === "number" || input === "second") {
    const value = readNumber(plain);
    return value === null ? [undefined, "Give a number."] : [value, ""];
  }
  if (input === "whole") {
    const value = readNumber(plain);
    return value === null || !Number.isInteger(value) ? [undefined, "Give a whole number."] : [value, ""];
  }
  if (input === "numbers" || input === "seconds") {
    const parts = plain.split(/\s*[,;]\s*|\s+/).filter(Boolean);
    const values = parts.map(readNumber);
    return values.includes(null) ? [undefined, "Give numbers with commas between."] : [values, ""];
  }
  if (input === "json") {
    try {
      return [JSON.parse(plain), ""];
    } catch {
      return [undefined, "This is not JSON yet."];
    }
  }
  return [text, ""];
}
