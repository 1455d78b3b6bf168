// Things of one kind: what they are, how many, in what state, where; a form for a new or a changed one.
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useEffect, useId, useRef, useState } from "react";
import { useParams } from "react-router";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import { kitApi } from "../../api/kit";
import type { Keeping, KitView, Schemas, ThingKind } from "../../api/types";
import { differing } from "../../changes/fields";
import { useChanges } from "../../changes/use-changes";
import type { Gone } from "../../parts/gone";
import { readNumber } from "../../parts/reading";
import { KeepingFields } from "./keeping-fields";
import { slug } from "./slug";

type FormField = Schemas["FormField"];
type Thing = Record<string, unknown> & { id: string; name: string };

/** Words that briefs and cells use stay; their numbers can be changed. */
const NAMED_BY_BRIEFS: ThingKind[] = ["mounts", "chemistries"];
const NOTHING: Keeping = { ready: 0, where: "", note: "" };

type Props = { kit: KitView; onGone: (gone: Gone) => void };

export function Things({ kit, forms, onGone }: Props & { forms: Schemas["GearForm"][] }) {
  const { kind = "" } = useParams();
  const about = forms.find((form) => form.id === kind);
  if (!about) return <p className="p-8 text-muted">The kit has no such kind of thing.</p>;
  return <OfKind key={kind} kit={kit} kind={kind as ThingKind} about={about} onGone={onGone} />;
}

type Kept = { thing: Thing; line: string; example: boolean; keeping: Keeping; revision: number };

function OfKind({ kit, kind, about, onGone }: Props & { kind: ThingKind; about: Schemas["GearForm"] }) {
  const [open, setOpen] = useState<string | null>(null);
  const [problem, setProblem] = useState("");
  const items = kit[kind] as unknown as Kept[];
  const ready = kit.gets_ready[kind] ?? "";
  useEffect(() => {
    document.title = `${about.title} · Kit · Steady Tide`;
  }, [about.title]);
  const putAway = ({ thing }: Kept) =>
    kitApi.putThingAway(kind, thing.id).then(
      () => {
        setProblem("");
        changed.kit();
        onGone({ says: `${thing.name} was put away.`, back: () => kitApi.bringThingBack(kind, thing.id) });
      },
      (error: Error) => setProblem(error.message),
    );
  return (
    <section className="min-w-0 px-7 py-5" aria-label={about.title}>
      <h2 className="font-serif text-head font-semibold">{about.title}</h2>
      <p className="max-w-[70ch] pb-2 text-muted">{about.says}</p>
      {problem && (
        <p role="alert" className="pb-2 text-note">
          {problem}
        </p>
      )}
      {items.length === 0 && <p className="py-3 font-serif text-lead text-muted">None yet.</p>}
      <ul className="border-ink border-t">
        {items.map((item) => (
          <li key={item.thing.id} className="border-hair border-b py-[9px]">
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
              <span className="min-w-[260px] flex-1">
                <b className="text-lead">{item.thing.name}</b>
                {item.example && <span className="text-fine text-muted"> example</span>}
                <span className="block text-small text-muted">{item.line}</span>
              </span>
              {kind !== "chemistries" && (
                <KeepingFields
                  place={`keeping.${kind}.${item.thing.id}`}
                  name={item.thing.name}
                  count={"count" in item.thing ? Number(item.thing.count) : null}
                  keeping={item.keeping}
                  ready={ready}
                  revision={item.revision}
                  keep={(revision, { count, ...keeping }) =>
                    kitApi.changeThing(kind, item.thing.id, {
                      revision,
                      thing: count === undefined ? {} : { count },
                      keeping,
                    })
                  }
                />
              )}
              <span className="flex gap-3 text-fine text-muted">
                <button
                  type="button"
                  className="min-h-[24px] underline"
                  aria-expanded={open === item.thing.id}
                  aria-label={`Change ${item.thing.name}`}
                  onClick={() => setOpen(open === item.thing.id ? null : item.thing.id)}
                >
                  change
                </button>
                {!(item.example && NAMED_BY_BRIEFS.includes(kind)) && (
                  <button
                    type="button"
                    className="min-h-[24px] underline"
                    aria-label={`Put ${item.thing.name} away`}
                    onClick={() => void putAway(item)}
                  >
                    put away
                  </button>
                )}
              </span>
            </div>
            {open === item.thing.id && (
              <ThingForm kit={kit} kind={kind} about={about} begun={item} close={() => setOpen(null)} />
            )}
          </li>
        ))}
      </ul>
      {open === "new" ? (
        <ThingForm kit={kit} kind={kind} about={about} begun={null} close={() => setOpen(null)} />
      ) : (
        <p className="pt-4">
          <button type="button" className="bold-plain" onClick={() => setOpen("new")}>
            New {about.one}
          </button>
        </p>
      )}
    </section>
  );
}

/** Whether a field is asked for, as the others stand. */
const isAsked = ({ when }: FormField, texts: Record<string, string>) =>
  !when || texts[when.path] === when.value;

/** Texts of a form, as they stand in its fields. */
function textsOf(fields: FormField[], thing: Record<string, unknown>): Record<string, string> {
  const texts: Record<string, string> = {};
  for (const { path, input } of fields) {
    const value = thing[path];
    texts[path] =
      value === undefined || value === null
        ? ""
        : input === "curve"
          ? (value as [number, number][]).map((pair) => pair.join(" ")).join(", ")
          : Array.isArray(value)
            ? value.join(", ")
            : String(value);
  }
  return texts;
}

/** A thing as the service takes it, or what cannot be read. */
function readThing(fields: FormField[], texts: Record<string, string>): [Record<string, unknown>, string[]] {
  const thing: Record<string, unknown> = {};
  const wrong: string[] = [];
  for (const field of fields) {
    const text = (texts[field.path] ?? "").trim();
    if (!isAsked(field, texts)) continue;
    const parts = text.split(",").map((part) => part.trim());
    if (field.input === "number") {
      const read = readNumber(text);
      if (text === "" && (field.free || field.path === "count")) continue;
      if (read === null) wrong.push(`${field.name}: give a number${field.unit ? ` in ${field.unit}` : ""}.`);
      else thing[field.path] = read;
    } else if (field.input === "bands") {
      const bands = parts.map(readNumber);
      if (bands.length !== 3 || bands.some((band) => band === null))
        wrong.push(`${field.name}: give three numbers with commas between.`);
      else thing[field.path] = bands;
    } else if (field.input === "curve") {
      const pairs = parts.map((part) => part.split(/\s+/).map(readNumber));
      if (pairs.some((pair) => pair.length !== 2 || pair.some((value) => value === null)))
        wrong.push(`${field.name}: give pairs of degrees and share, such as 20 1, 0 0.8.`);
      else thing[field.path] = pairs;
    } else if (field.input === "names" || field.input === "cameras")
      thing[field.path] = parts.filter(Boolean);
    else if (field.input === "flag") thing[field.path] = text === "true";
    else if (text !== "" || !field.free) thing[field.path] = text;
  }
  return [thing, wrong];
}

const NOTHING_SAID: Record<string, unknown> = {};

type FormProps = {
  kit: KitView;
  kind: ThingKind;
  about: Schemas["GearForm"];
  begun: Kept | null;
  close: () => void;
};

function ThingForm({ kit, kind, about, begun, close }: FormProps) {
  const [name, setName] = useState(begun?.thing.name ?? "");
  const [texts, setTexts] = useState(() =>
    textsOf(about.fields, begun?.thing ?? { count: 1, ...about.start }),
  );
  const [wrong, setWrong] = useState<string[]>([]);
  const top = useRef<HTMLFormElement>(null);
  const opened = useRef({ name, ...readThing(about.fields, texts)[0] });
  const { engine, say, status } = useChanges<Record<string, unknown>>({
    place: begun ? `thing.${kind}.${begun.thing.id}` : `thing.${kind}`,
    shown: begun ? { ...begun.thing } : NOTHING_SAID,
    revision: begun?.revision ?? 0,
    send: (revision, thing) => kitApi.changeThing(kind, begun?.thing.id ?? "", { revision, thing }),
    reread: changed.kit,
    whole: true,
  });
  const done = () => {
    changed.kit();
    close();
  };
  const add = useMutation({
    mutationFn: (thing: Record<string, unknown>) => {
      const id = slug(name);
      return kitApi.addThing(kind, id, { thing: { ...thing, id, name }, keeping: NOTHING });
    },
    onSuccess: done,
  });
  const change = async (thing: Record<string, unknown>) => {
    void say(differing(opened.current, { name, ...thing }), null);
    opened.current = { name, ...thing };
    await (engine.meeting ? engine.keepMine() : engine.retry());
    if (engine.isIdle) done();
  };
  const cancel = () => {
    engine.forget();
    close();
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    const [thing, faults] = readThing(about.fields, texts);
    if (!name.trim()) faults.unshift("name: give one.");
    setWrong(faults);
    if (faults.length > 0) return;
    if (begun) void change(thing);
    else add.mutate(thing);
  };
  const refused =
    add.error instanceof Problem && add.error.faults.length > 0
      ? add.error.faults.map(
          (fault) => `${fault.where.replace(/^thing\./, "")}: ${fault.what}. ${fault.mend}`,
        )
      : add.error
        ? [add.error.message]
        : [];
  const faults = [
    ...wrong,
    ...refused,
    ...engine.refusals.map(([field, why]) => `${field}: ${why}`),
    ...(engine.meeting ? [engine.meeting.says] : status.kind === "away" ? [status.why] : []),
  ];
  return (
    <form
      ref={top}
      className="mt-3 mb-2 max-w-[760px] border-ink border-l-2 pl-5"
      aria-label={begun ? `Change ${begun.thing.name}` : `New ${about.one}`}
      onSubmit={send}
    >
      <Line label="name" hint={begun ? "" : name && `Its short name will be ${slug(name)}.`}>
        {(id) => (
          <input
            id={id}
            className="field"
            value={name}
            maxLength={80}
            autoFocus
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Line>
      {about.fields.map(
        (field) =>
          isAsked(field, texts) && (
            <FieldOf
              key={field.path}
              field={field}
              kit={kit}
              text={texts[field.path] ?? ""}
              onChange={(text) => setTexts((now) => ({ ...now, [field.path]: text }))}
            />
          ),
      )}
      {faults.length > 0 && (
        <ul role="alert" className="py-2 text-small text-note">
          {faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      )}
      <p className="flex gap-2 pt-2">
        <button type="submit" className="bold-plain" disabled={add.isPending || status.kind === "saving"}>
          {engine.meeting ? "Keep mine" : "Keep"}
        </button>
        <button type="button" className="plain" onClick={cancel}>
          Cancel
        </button>
      </p>
    </form>
  );
}

function Line(props: {
  label: string;
  tall?: boolean;
  unit?: string;
  hint: string;
  children: (id: string) => React.ReactNode;
}) {
  const id = useId();
  return (
    <div
      className={`grid ${props.tall ? "items-start" : "items-baseline"} grid-cols-[150px_230px_minmax(0,1fr)] gap-x-4 py-[3px] max-lg:grid-cols-[150px_minmax(0,1fr)] max-sm:grid-cols-1`}
    >
      <label htmlFor={id} className="text-small text-muted">
        {props.label}
      </label>
      <span className="relative">
        {props.children(id)}
        {props.unit && (
          <span className="pointer-events-none absolute top-[8px] right-2 text-small text-muted">
            {props.unit}
          </span>
        )}
      </span>
      <span className="text-fine leading-[1.3] text-muted max-lg:col-start-2 max-sm:col-start-1">
        {props.hint}
      </span>
    </div>
  );
}

type FieldProps = { field: FormField; kit: KitView; text: string; onChange: (text: string) => void };

function FieldOf({ field, kit, text, onChange }: FieldProps) {
  const chosen = text.split(",").map((part) => part.trim());
  return (
    <Line label={field.name} unit={field.unit} hint={field.hint} tall={field.input === "curve"}>
      {(id) =>
        field.input === "choice" ? (
          <select id={id} className="field" value={text} onChange={(event) => onChange(event.target.value)}>
            {field.options?.map(({ id: value, name }) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        ) : field.input === "flag" ? (
          <input
            id={id}
            type="checkbox"
            className="block"
            checked={text === "true"}
            onChange={(event) => onChange(String(event.target.checked))}
          />
        ) : field.input === "cameras" ? (
          <span id={id} role="group" aria-label={field.name} className="block">
            {kit.cameras.map((camera) => (
              <label key={camera.id} className="flex min-h-[24px] items-center gap-2">
                <input
                  type="checkbox"
                  checked={chosen.includes(camera.id)}
                  onChange={(event) =>
                    onChange(
                      (event.target.checked
                        ? [...chosen, camera.id]
                        : chosen.filter((entry) => entry !== camera.id)
                      )
                        .filter(Boolean)
                        .join(", "),
                    )
                  }
                />
                {camera.name}
              </label>
            ))}
          </span>
        ) : field.input === "curve" ? (
          <textarea
            id={id}
            className="field"
            rows={2}
            value={text}
            onChange={(event) => onChange(event.target.value)}
          />
        ) : (
          <input
            id={id}
            className={`field ${field.unit ? "pr-14" : ""}`}
            inputMode={field.input === "number" ? "decimal" : undefined}
            value={text}
            onChange={(event) => onChange(event.target.value)}
          />
        )
      }
    </Line>
  );
}
