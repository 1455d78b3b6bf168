// Small fields for the editors in the sentence. What was typed stays, right or wrong.
import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { durationText, readClock, readDuration, readNumber } from "./reading";
import { useTyped } from "./typed";

type NumberProps = {
  label: string;
  value: number | null;
  unit: string;
  onChange: (value: number) => void;
  onClear?: () => void;
  show?: (value: number) => string;
  autoFocus?: boolean;
  /** It counts when the field is left or Enter pressed, not with every letter. */
  late?: boolean;
};

export function NumberField({
  label,
  value,
  unit,
  onChange,
  onClear,
  show = String,
  autoFocus,
  late,
}: NumberProps) {
  const id = useId();
  const [text, setText] = useState(value === null ? "" : show(value));
  const typed = useRef<number | null>(value);
  useEffect(() => {
    if (value !== typed.current) {
      typed.current = value;
      setText(value === null ? "" : show(value));
    }
  }, [value, show]);
  const keep = (said: string) => {
    const read = readNumber(said);
    if (read !== null && read !== value) {
      typed.current = read;
      onChange(read);
    } else if (said.trim() === "" && onClear && value !== null) {
      typed.current = null;
      onClear();
    }
  };
  const empty = text.trim() === "" && onClear !== undefined;
  const wrong = !empty && readNumber(text) === null;
  return (
    <div className="flex-1">
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className="field pr-14"
          inputMode="decimal"
          value={text}
          autoFocus={autoFocus}
          aria-invalid={wrong}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setText(event.target.value);
            const read = readNumber(event.target.value);
            if (late) return;
            if (read !== null) {
              typed.current = read;
              onChange(read);
            } else if (event.target.value.trim() === "" && onClear) {
              typed.current = null;
              onClear();
            }
          }}
          onBlur={() => late && keep(text)}
          onKeyDown={(event) => late && event.key === "Enter" && keep(text)}
        />
        <span className="pointer-events-none absolute top-[8px] right-2 text-small text-muted">{unit}</span>
      </div>
      {wrong && <p className="pt-1 text-fine text-note">Give a number{unit && ` in ${unit}`}.</p>}
    </div>
  );
}

type DurationProps = {
  label: string;
  /** Seconds. */
  value: number;
  /** What a bare number means. */
  unit: "s" | "min" | "h";
  most: number;
  autoFocus?: boolean;
  /** Each length on the way counts at once: for what only shows what it would come to. */
  live?: boolean;
  onChange: (seconds: number) => void;
};

/** A length of time, in any unit; it counts when the field is left or Enter pressed. */
export function DurationField({ label, value, unit, most, autoFocus, live, onChange }: DurationProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? value : readDuration(typed, unit);
  const wrong = read === null || read <= 0 || read > most;
  const keep = () => {
    if (typed === null || wrong) return;
    setTyped(null);
    if (read !== value) onChange(read);
  };
  // Beside the label, so that nothing moves when the field is left.
  const meant =
    typed !== null && !wrong && durationText(read) !== typed.trim() ? ` = ${durationText(read)}` : "";
  return (
    <div className="flex-1">
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
        {meant && <b className="text-ink">{meant}</b>}
      </label>
      <input
        id={id}
        className="field"
        inputMode="text"
        autoComplete="off"
        value={typed ?? durationText(value)}
        autoFocus={autoFocus}
        aria-invalid={wrong}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          const now = readDuration(event.target.value, unit);
          if (live && now !== null && now > 0 && now <= most) onChange(now);
        }}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      />
      {wrong && (
        <p role="alert" className="pt-1 text-fine text-note">
          {read !== null && read > most
            ? `At most ${durationText(most)}${unit === "h" ? `; if minutes are meant, write ${typed?.trim()} min` : ""}.`
            : "Such as 30 s, 12 min, 8 h or 1 h 30."}
        </p>
      )}
    </div>
  );
}

type ClockProps = {
  label: string;
  /** "09:53", or empty. */
  value: string;
  onChange: (value: string) => void;
  className?: string;
  autoFocus?: boolean;
};

/** A time of day, typed in one go: it counts when the field is left or Enter pressed. Esc takes back what was typed. */
export function ClockField({ label, value, onChange, className = "field", autoFocus }: ClockProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && typed.trim() !== "" && readClock(typed) === null;
  const keep = () => {
    if (typed === null || wrong) return;
    setTyped(null);
    const read = typed.trim() === "" ? "" : (readClock(typed) ?? "");
    if (read !== value) onChange(read);
  };
  return (
    <>
      <input
        className={className}
        aria-label={label}
        aria-invalid={wrong}
        inputMode="numeric"
        placeholder="--:--"
        autoComplete="off"
        value={typed ?? value}
        autoFocus={autoFocus}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === "Enter") keep();
          if (event.key === "Escape" && typed !== null) {
            event.preventDefault();
            event.stopPropagation();
            setTyped(null);
          }
        }}
      />
      {wrong && (
        <span role="alert" className="block text-fine text-note">
          Such as 9:53 or 21:05.
        </span>
      )}
    </>
  );
}

type RangeProps = {
  labels: [string, string];
  unit: string;
  late?: boolean;
  value: [number, number];
  autoFocus?: boolean;
  onChange: (value: [number, number], tag: string) => void;
};

/**
 * Two numbers that belong together; each typed by itself, so that each counts as its own change. While the first is the
 * larger, half of it is still to be typed: nothing is handed on before the second follows.
 */
export function RangeField({ labels, unit, value, autoFocus, late, onChange }: RangeProps) {
  const [half, setHalf] = useState<[number, number] | null>(null);
  const [from, to] = half ?? value;
  const put = (next: [number, number], label: string) => {
    const upsideDown = next[0] > next[1];
    setHalf(upsideDown ? next : null);
    if (!upsideDown) onChange(next, label);
  };
  return (
    <div>
      <div className="flex gap-3">
        <NumberField
          label={labels[0]}
          unit={unit}
          value={from}
          late={late}
          autoFocus={autoFocus}
          onChange={(next) => put([next, to], labels[0])}
        />
        <NumberField
          label={labels[1]}
          unit={unit}
          value={to}
          late={late}
          onChange={(next) => put([from, next], labels[1])}
        />
      </div>
      {half && (
        <p role="status" className="pt-1 text-fine text-note">
          “{labels[1]}” has to be {from} {unit} or more; until then the plan is the one before.
        </p>
      )}
    </div>
  );
}

export function TextField({
  label,
  value,
  onChange,
  autoFocus,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  autoFocus?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
      </label>
      <input
        id={id}
        className="field"
        value={value}
        maxLength={200}
        autoFocus={autoFocus}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  );
}

type LineProps = {
  label: string;
  value: string;
  keep: (value: string) => void;
  autoFocus?: boolean;
};

/** A line of text that counts when the field is left or Enter pressed. */
export function Line({ label, value, keep, autoFocus }: LineProps) {
  const id = useId();
  const { field } = useTyped(value, (said) => {
    if (said.trim() !== value) keep(said.trim());
  });
  return (
    <div>
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
      </label>
      <input id={id} className="field" maxLength={200} autoFocus={autoFocus} {...field} />
    </div>
  );
}

type ChoiceProps<T> = {
  label: string;
  value: T;
  options: { value: T; says: ReactNode; hint?: string }[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
};

export function Choice<T extends string | number | boolean>({
  label,
  value,
  options,
  onChange,
  hideLabel,
}: ChoiceProps<T>) {
  const name = useId();
  return (
    <fieldset>
      <legend className={hideLabel ? "sr-only" : "pb-[2px] text-fine text-muted"}>{label}</legend>
      {options.map((option) => (
        <label
          key={String(option.value)}
          className="flex min-h-8 items-center gap-3 border-hair border-b px-1 hover:bg-second has-checked:font-bold has-focus-visible:outline-2 has-focus-visible:outline-note"
        >
          <input
            type="radio"
            name={name}
            className="outline-none"
            checked={option.value === value}
            onChange={() => onChange(option.value)}
          />
          <span className="py-1 leading-tight">{option.says}</span>
          {option.hint && (
            <span className="ml-auto flex-none text-right text-fine font-normal text-muted">
              {option.hint}
            </span>
          )}
        </label>
      ))}
    </fieldset>
  );
}

export function Tick({
  says,
  checked,
  onChange,
}: {
  says: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex min-h-8 items-center gap-3 px-1 hover:bg-second">
      <input
        type="checkbox"
        className="[--tick:16px]"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {says}
    </label>
  );
}

type SelectProps = {
  label: string;
  value: string;
  /** Values with their words. */
  options: [string, string][];
  onChange: (value: string) => void;
};

/** One of a few, under its name. */
export function SelectField({ label, value, options, onChange }: SelectProps) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="block pb-[2px] text-fine text-muted">
        {label}
      </label>
      <select
        id={id}
        className="field max-w-full text-ink"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([one, says]) => (
          <option key={one} value={one}>
            {says}
          </option>
        ))}
      </select>
    </div>
  );
}
