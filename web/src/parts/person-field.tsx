// Somebody by name: one of the crew, or another.
import { useEffect, useId, useState } from "react";

type Props = {
  label: string;
  value: string | null;
  people: string[];
  onChange: (name: string | null) => void;
  needed?: boolean;
};

export function PersonField({ label, value, people, onChange, needed }: Props) {
  const list = useId();
  const [typed, setTyped] = useState(value ?? "");
  useEffect(() => setTyped(value ?? ""), [value]);
  const done = (text: string) => {
    const name = text.trim() || null;
    if (name !== value) onChange(name);
  };
  return (
    <label className="grid gap-[2px] text-fine text-muted">
      {label}
      <input
        className="field text-ink"
        list={list}
        maxLength={80}
        value={typed}
        placeholder={needed ? "a name" : "not said"}
        onChange={(event) => {
          setTyped(event.target.value);
          // Chosen from the list, it is whole at once.
          if (people.includes(event.target.value)) done(event.target.value);
        }}
        onBlur={() => done(typed)}
        onKeyDown={(event) => event.key === "Enter" && done(typed)}
      />
      <datalist id={list}>
        {people.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </label>
  );
}

export function firstName(name: string): string {
  return name.split(" ")[0] ?? name;
}
