// The fields of one group: of the sheet itself, or of each entry of a list.
import { useState } from "react";
import type { CameraSheet, Completed, FieldGroup, FieldNote, KitView, Rough } from "../../api/types";
import { type Doc, entriesOf, valueAt, withEntry, withValue } from "./doc";
import { FieldRow, words } from "./field-row";

type Change = (update: (rough: Rough) => Rough, tag?: string | null) => void;
type Props = {
  group: FieldGroup;
  rough: Rough;
  done: Completed | null;
  change: Change;
  settle: () => void;
  fixedId: boolean;
  kit: KitView;
};

export function GroupForm({ group, rough, done, change, settle, fixedId, kit }: Props) {
  // The crew's own mounts can be chosen, too.
  const mounts = kit.mounts.map(({ thing }) => thing.id);
  return (
    <div role="group" aria-label={group.title} onBlur={settle}>
      <h2 className="font-serif text-title font-semibold">{group.title}</h2>
      <p className="border-ink border-b pb-2 text-muted">{group.says}</p>
      {group.list ? (
        <Entries group={group} rough={rough} done={done} change={change} />
      ) : (
        group.fields
          .filter((note) => note.input !== "none" && !(fixedId && note.path === "id"))
          .map((note) => (
            <SheetField
              key={note.path}
              note={note.path === "mounts" ? { ...note, options: mounts } : note}
              rough={rough}
              done={done}
              change={change}
            />
          ))
      )}
    </div>
  );
}

type FieldProps = { note: FieldNote; rough: Rough; done: Completed | null; change: Change; hint?: string };

/** A field of the sheet itself, or of what is known of the box. */
export function SheetField({ note, rough, done, change, hint }: FieldProps) {
  const known = note.path.startsWith("known.");
  const path = known ? note.path.slice(6) : note.path;
  return (
    <FieldRow
      note={note}
      value={valueAt(known ? rough.known : rough.sheet, path)}
      filled={known ? undefined : valueAt(done?.sheet, path)}
      estimate={done?.estimates.find(({ field }) => field === path)}
      ids={idsOf(rough, done?.sheet ?? null, note.of ?? "")}
      fault={faultOf(done, note.path)}
      hint={hint}
      onChange={(value) =>
        change(
          (now) =>
            known
              ? { ...now, known: withValue(now.known as Doc, path, value) as Rough["known"] }
              : { ...now, sheet: withValue(now.sheet, path, value) },
          note.path,
        )
      }
    />
  );
}

function Entries({ group, rough, done, change }: Omit<Props, "settle" | "fixedId" | "kit">) {
  const list = group.list ?? "";
  const whole = done?.sheet ?? null;
  const entries = entriesOf(rough, whole, list);
  const [shown, setShown] = useState(0);
  const at = Math.min(shown, Math.max(0, entries.length - 1));
  const entry = entries[at];
  const typed = Array.isArray(rough.sheet[list]) ? (rough.sheet[list] as Doc[]).length : 0;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
        {entries.map((one, index) => (
          <button
            key={`${index} ${one.id}`}
            type="button"
            aria-pressed={index === at}
            className={`min-h-[25px] border-b-2 text-body ${index === at ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
            onClick={() => setShown(index)}
          >
            {words(String(one.id ?? `no ${index + 1}`))}
          </button>
        ))}
        <button
          type="button"
          className="min-h-[25px] text-small underline"
          onClick={() => {
            change((now) => withEntry(now, whole, list, entries.length, "id", `new_${entries.length + 1}`));
            setShown(entries.length);
          }}
        >
          one more
        </button>
        {entry && at < typed && (
          <button
            type="button"
            className="min-h-[25px] text-small text-muted underline"
            onClick={() =>
              change((now) => ({
                ...now,
                sheet: {
                  ...now.sheet,
                  [list]: (now.sheet[list] as Doc[]).filter((_, index) => index !== at),
                },
              }))
            }
          >
            take {words(String(entry.id ?? ""))} out
          </button>
        )}
      </div>
      {!entry && <p className="py-3 text-muted">None yet. Give the modes first.</p>}
      {entry &&
        group.fields.map((note) => {
          const field = `${list}[${at}].${note.path}`;
          return (
            <FieldRow
              key={`${at} ${note.path}`}
              note={note}
              value={valueAt(entry, note.path)}
              filled={valueAt((whole as unknown as Doc | null)?.[list], `${at}.${note.path}`)}
              estimate={done?.estimates.find((one) => one.field === field || one.field === `${field}[0]`)}
              ids={idsOf(rough, whole, note.of ?? "")}
              fault={faultOf(done, field)}
              onChange={(value) =>
                change(
                  (now) => withEntry(now, whole, list, at, note.path, value),
                  `${list} ${at} ${note.path}`,
                )
              }
            />
          );
        })}
    </>
  );
}

export function idsOf(rough: Rough, whole: CameraSheet | null, list: string): string[] {
  if (!list) return [];
  return [...new Set(entriesOf(rough, whole, list).map((entry) => String(entry.id ?? "")))].filter(Boolean);
}

function faultOf(done: Completed | null, path: string): string | undefined {
  const found = done?.faults.find(([where]) => where === path);
  return found && found[1] !== "is missing" ? `${found[1]}. ${found[2]}` : undefined;
}
