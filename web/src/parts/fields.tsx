// Small fields for the editors in the sentence. What was typed stays, right or wrong.
import { type ReactNode, useEffect, useId, useRef, useState } from "react";

/** Reads a number as people write it: decimal comma, fractions, a true minus. Null where it is none. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".").replace("\u2212", "-");
  const fraction = plain.match(/^(\d+(?:\.\d+)?)\s*\/\s*(\d+(?:\.\d+)?)$/);
  if (fraction) return Number(fraction[2]) === 0 ? null : Number(fraction[1]) / Number(fraction[2]);
  return /^-?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null;
}

type NumberProps = {
  label: string;
  value: number | null;
  unit: string;
  onChange: (value: number) => void;
  onClear?: () => void;
  show?: (value: number) => string;
  autoFocus?: boolean;
};

export function NumberField({
  label,
  value,
  unit,
  onChange,
  onClear,
  show = String,
  autoFocus,
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
  const empty = text.trim() === "" && onClear !== undefined;
  const wrong = !empty && readNumber(text) === null;
  return (
    <div className="flex-1">
      <label htmlFor={id} className="block pb-[2px] text-[12.5px] text-muted">
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
            if (read !== null) {
              typed.current = read;
              onChange(read);
            } else if (event.target.value.trim() === "" && onClear) {
              typed.current = null;
              onClear();
            }
          }}
        />
        <span className="pointer-events-none absolute top-[8px] right-2 text-[13px] text-muted">{unit}</span>
      </div>
      {wrong && <p className="pt-1 text-[12.5px] text-note">Give a number{unit && ` in ${unit}`}.</p>}
    </div>
  );
}

/** Reads a time of day as people write it: 9:53, 9.53, 0953, 9h53, 21. Null where it is none. */
export function readClock(text: string): string | null {
  const parts =
    text.trim().match(/^(\d{1,2})(?:\s*[:.,h]\s*|(?=\d\d$))(\d{2})?$/) ?? text.trim().match(/^(\d{1,2})$/);
  if (!parts) return null;
  const [hour, minute] = [Number(parts[1]), Number(parts[2] ?? 0)];
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
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
        <span role="alert" className="block text-[12.5px] text-note">
          Such as 9:53 or 21:05.
        </span>
      )}
    </>
  );
}

type RangeProps = {
  labels: [string, string];
  unit: string;
  value: [number, number];
  autoFocus?: boolean;
  onChange: (value: [number, number], tag: string) => void;
};

/** Two numbers that belong together; each typed by itself, so that each counts as its own change. */
export function RangeField({ labels, unit, value, autoFocus, onChange }: RangeProps) {
  const [from, to] = value;
  return (
    <div className="flex gap-3">
      <NumberField
        label={labels[0]}
        unit={unit}
        value={from}
        autoFocus={autoFocus}
        onChange={(next) => onChange([next, to], labels[0])}
      />
      <NumberField
        label={labels[1]}
        unit={unit}
        value={to}
        onChange={(next) => onChange([from, next], labels[1])}
      />
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
      <label htmlFor={id} className="block pb-[2px] text-[12.5px] text-muted">
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
      <legend className={hideLabel ? "sr-only" : "pb-[2px] text-[12.5px] text-muted"}>{label}</legend>
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
            <span className="ml-auto flex-none text-right text-[12.5px] font-normal text-muted">
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
