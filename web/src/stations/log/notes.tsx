// Notes of gear: a charge that ran down, a heat stop, a leaning edge, glass, a full card, a ruler under stabilisation.
import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { vocabularyQuery } from "../../api/bench";
import { changed } from "../../api/keys";
import { kitQuery, sheetQuery } from "../../api/kit";
import { logApi, type NoteSaid, notesQuery } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { SelectField } from "../../parts/fields";
import type { Gone } from "../../parts/gone";
import { Loading } from "../../parts/loading";
import { PersonField } from "../../parts/person-field";
import { readNumber } from "../../parts/reading";
import { Trouble } from "../../parts/trouble";

type Kind = NoteSaid["kind"];
type Field = { name: string; says: string; unit: string; start?: string; optional?: boolean };

const KINDS: {
  kind: Kind;
  says: string;
  how: string;
  of: "camera" | "filter" | "medium";
  fields: Field[];
}[] = [
  {
    kind: "charge",
    says: "A charge that ran down",
    how: "With the back screen on, note what the display says at both ends, and how long it recorded. A charger with a meter tells the watt-hours, too.",
    of: "camera",
    fields: [
      { name: "from_percent", says: "from", unit: "%", start: "100" },
      { name: "to_percent", says: "to", unit: "%" },
      { name: "minutes", says: "in", unit: "min" },
      { name: "air_c", says: "air", unit: "°C" },
      { name: "put_in_wh", says: "put in again", unit: "Wh", optional: true },
    ],
  },
  {
    kind: "heat",
    says: "A heat stop",
    how: "With the back screen on, let it run in still air, in the shade, until it warns or stops. Hot batteries: follow the maker's cautions, and stop when it smells or swells.",
    of: "camera",
    fields: [
      { name: "minutes", says: "stopped after", unit: "min" },
      { name: "air_c", says: "air", unit: "°C" },
    ],
  },
  {
    kind: "readout",
    says: "A leaning edge",
    how: "Pan evenly past an upright edge. Note by how much it leans from top to bottom, and how far the picture moves from frame to frame.",
    of: "camera",
    fields: [
      { name: "lean_px", says: "leans", unit: "px" },
      { name: "pan_px", says: "moves by", unit: "px a frame" },
      { name: "frame_rate", says: "at", unit: "fps" },
    ],
  },
  {
    kind: "steadying",
    says: "A ruler with and without stabilisation",
    how: "Film a ruler from one place without stabilisation and with it. Note how much of it is in the frame.",
    of: "camera",
    fields: [
      { name: "without_cm", says: "without", unit: "cm" },
      { name: "with_cm", says: "with", unit: "cm" },
    ],
  },
  {
    kind: "glass",
    says: "A filter on a steady light",
    how: "Meter one evenly lit wall with and without the filter; Kit measures it from two frames, colour and all.",
    of: "filter",
    fields: [
      { name: "stops", says: "takes", unit: "stops" },
      { name: "red_stops", says: "from red, more than from green", unit: "stops", optional: true },
      { name: "blue_stops", says: "from blue, more than from green", unit: "stops", optional: true },
    ],
  },
  {
    kind: "card",
    says: "A full card",
    how: "Note what lay on it when the camera said that it was full.",
    of: "medium",
    fields: [{ name: "recorded_gb", says: "held", unit: "GB" }],
  },
];
const NEEDS_MODE = ["charge", "heat"];

export default function Notes({ onGone }: { onGone: (gone: Gone) => void }) {
  const notes = useQuery(notesQuery);
  if (notes.error && !notes.data) return <Trouble error={notes.error} retry={() => notes.refetch()} />;
  if (!notes.data) return <Loading what="Loading notes." />;
  const remove = (id: string, title: string) =>
    logApi.removeNote(id).then(() => {
      void changed.log();
      onGone({
        says: `${title} was removed.`,
        back: () => logApi.restoreNote(id).then(changed.log),
      });
    });
  return (
    <section className="min-w-0 px-6 pb-8 max-sm:px-4" aria-label="Gear notes">
      <NewNote />
      <ul className="pt-2">
        {notes.data.items.map((one) => (
          <li
            key={one.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 border-hair border-b py-[6px]"
          >
            <span>
              <b>{one.title}</b>{" "}
              <span className="text-muted">
                {new Date(one.note.at).toLocaleDateString("en-GB", {
                  day: "numeric",
                  month: "short",
                  year: "numeric",
                })}
                {one.note.who && `, ${one.note.who}`}
              </span>
              <span className="block">{one.says}</span>
              {one.note.note && <span className="block italic">{one.note.note}</span>}
            </span>
            <button type="button" className="self-start underline" onClick={() => remove(one.id, one.title)}>
              remove
            </button>
          </li>
        ))}
      </ul>
      {notes.data.total === 0 && (
        <p className="pt-3 text-muted">No note yet. Three of one thing make a number of your own.</p>
      )}
    </section>
  );
}

function NewNote() {
  const [kind, setKind] = useState<Kind>("charge");
  const spec = KINDS.find((one) => one.kind === kind) ?? KINDS[0];
  if (!spec) return null;
  return (
    <div className="max-w-[52rem] border-rule border-b py-3">
      <label className="font-serif text-lead">
        Note{" "}
        <select
          className="border-deep border-b-[1.5px] bg-transparent font-serif italic"
          aria-label="What is noted"
          value={kind}
          onChange={(event) => setKind(event.target.value as Kind)}
        >
          {KINDS.map((one) => (
            <option key={one.kind} value={one.kind}>
              {one.says.charAt(0).toLowerCase() + one.says.slice(1)}
            </option>
          ))}
        </select>
      </label>
      <p className="py-1 text-small text-muted">{spec.how}</p>
      <NoteForm key={kind} spec={spec} />
    </div>
  );
}

function NoteForm({ spec }: { spec: (typeof KINDS)[number] }) {
  const kit = useQuery(kitQuery);
  const vocabulary = useQuery(vocabularyQuery);
  const things =
    spec.of === "camera"
      ? (kit.data?.cameras ?? []).map(({ id, name }) => ({ id, name }))
      : (kit.data?.[spec.of === "filter" ? "filters" : "media"] ?? []).map(({ thing }) => ({
          id: thing.id,
          name: thing.name,
        }));
  const [of, setOf] = useState("");
  const chosen = of || things[0]?.id || "";
  const sheet = useQuery({ ...sheetQuery(chosen), enabled: spec.of === "camera" && chosen !== "" });
  const modes = [
    ...new Set(
      (sheet.data?.modes ?? []).flatMap((mode) =>
        mode.rates.map((rate) => `${mode.width}x${mode.height}x${rate}`),
      ),
    ),
  ];
  // What a camera can be set to has to be known before a note of it is kept.
  const ready = chosen !== "" && (spec.of !== "camera" || sheet.data !== undefined);
  const levels = (sheet.data?.stabilisation ?? []).map((level) => level.id);
  const [mode, setMode] = useState("");
  const [level, setLevel] = useState("");
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [who, setWho] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const kept = useMutation({
    mutationFn: (said: NoteSaid) => logApi.putNote(crypto.randomUUID(), said),
    onSuccess: () => {
      setTyped({});
      void changed.log();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const values: Record<string, unknown> = {};
    for (const field of spec.fields) {
      const text = typed[field.name] ?? field.start ?? "";
      const value = readNumber(text);
      if (text.trim() === "" && field.optional) continue;
      if (value === null) return setWrong(`Give a number for \u201c${field.says}\u201d, in ${field.unit}.`);
      values[field.name] = value;
    }
    setWrong("");
    const [width, height, rate] = (mode || modes[0] || "").split("x").map(Number);
    const taken = NEEDS_MODE.includes(spec.kind)
      ? { width, height, frame_rate: rate, stabilisation: level || levels[0] || null }
      : spec.kind === "steadying"
        ? { level: level || levels.find((one) => one !== "off") || levels[0] }
        : {};
    kept.mutate({
      kind: spec.kind,
      [spec.of]: chosen,
      at: new Date().toISOString(),
      who,
      ...taken,
      ...values,
    } as unknown as NoteSaid);
  };
  return (
    <form className="flex flex-wrap items-end gap-3" aria-label={spec.says} onSubmit={submit}>
      <SelectField
        label={{ camera: "Camera", filter: "Filter", medium: "Card" }[spec.of]}
        value={chosen}
        options={things.map(({ id, name }) => [id, name])}
        onChange={setOf}
      />
      {NEEDS_MODE.includes(spec.kind) && (
        <SelectField
          label="Mode"
          value={mode || modes[0] || ""}
          options={modes.map((one) => {
            const [width, height, rate] = one.split("x");
            return [one, `${width}\u202f\u00d7\u202f${height}, ${rate} fps`];
          })}
          onChange={setMode}
        />
      )}
      {(NEEDS_MODE.includes(spec.kind) || spec.kind === "steadying") && levels.length > 0 && (
        <SelectField
          label="Stabilisation"
          value={level || (spec.kind === "steadying" ? levels.find((one) => one !== "off") : levels[0]) || ""}
          options={levels.map((one) => [one, one])}
          onChange={setLevel}
        />
      )}
      {spec.fields.map((field) => (
        <label key={field.name} className="grid gap-[2px] text-fine text-muted">
          {field.says}, {field.unit}
          {field.optional && " (if known)"}
          <input
            className="field w-28 text-ink"
            inputMode="decimal"
            value={typed[field.name] ?? field.start ?? ""}
            onChange={(event) => setTyped({ ...typed, [field.name]: event.target.value })}
          />
        </label>
      ))}
      <PersonField label="Who" value={who} people={vocabulary.data?.people ?? []} onChange={setWho} />
      <button type="submit" className="bold-plain" disabled={kept.isPending || !ready}>
        Keep the note
      </button>
      {(wrong || kept.error) && (
        <p role="alert" className="w-full text-note">
          {wrong || (kept.error && refusalWords(kept.error))}
        </p>
      )}
    </form>
  );
}
