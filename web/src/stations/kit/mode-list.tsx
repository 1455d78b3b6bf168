// All modes of a sheet as a list; what is said of those that are chosen is filled in for all of them at once.

import { useState } from "react";
import type { CameraSheet, FieldGroup, Rough } from "../../api/types";
import { isSame } from "../../changes/fields";
import { type Doc, type Mode, modesOf, valueAt, withValue } from "./doc";
import { FieldRow, textOf, words } from "./field-row";
import { idsOf } from "./group-form";

type Props = {
  group: FieldGroup;
  rough: Rough;
  whole: CameraSheet | null;
  change: (update: (rough: Rough) => Rough, tag?: string | null) => void;
};

const SHOWN = ["rates", "views", "stabilisation", "codecs", "bit_depths"] as const;

export function ModeList({ group, rough, whole, change }: Props) {
  const modes = modesOf(rough);
  const [chosen, setChosen] = useState<Set<number>>(new Set());
  const mine = [...chosen].filter((index) => index < modes.length).sort((a, b) => a - b);
  const put = (update: (modes: Mode[]) => Mode[], tag: string | null = null) =>
    change((now) => ({ ...now, sheet: { ...now.sheet, modes: update(modesOf(now)) } }), tag);
  const toggle = (index: number, on: boolean) =>
    setChosen((now) => {
      const next = new Set(now);
      if (on) next.add(index);
      else next.delete(index);
      return next;
    });
  const pick = (test: (mode: Mode) => boolean) =>
    setChosen(new Set(modes.flatMap((mode, index) => (test(mode) ? [index] : []))));
  const frames = [...new Set(modes.map((mode) => `${mode.width}\u202f×\u202f${mode.height}`))];
  const filled = (whole?.modes ?? []) as unknown as Mode[];
  return (
    <>
      <h2 className="font-serif text-title font-semibold">{group.title}</h2>
      <p className="border-ink border-b pb-2 text-muted">
        Choose rows, then say below what they have in common. What is grey is taken as long as nothing is
        said.
      </p>
      {modes.length > 0 && (
        <p className="flex flex-wrap gap-x-3 py-1 text-small">
          <span className="text-muted">choose</span>
          <button type="button" className="min-h-[24px] underline" onClick={() => pick(() => true)}>
            all
          </button>
          <button type="button" className="min-h-[24px] underline" onClick={() => setChosen(new Set())}>
            none
          </button>
          {frames.length > 1 &&
            frames.map((frame) => (
              <button
                key={frame}
                type="button"
                className="min-h-[24px] underline"
                onClick={() => pick((mode) => `${mode.width}\u202f×\u202f${mode.height}` === frame)}
              >
                {frame}
              </button>
            ))}
          <button
            type="button"
            className="min-h-[24px] underline"
            onClick={() => pick((mode) => (mode.rates ?? []).some((rate) => rate >= 90))}
          >
            90{"\u202f"}fps and more
          </button>
        </p>
      )}
      <div
        className="max-h-[44vh] overflow-auto border-rule border-b"
        role="region"
        aria-label="Modes of the sheet"
      >
        <table className="w-full text-left text-small">
          <thead className="sticky top-0 bg-ground">
            <tr className="text-fine text-muted [&>th]:pr-3 [&>th]:font-normal">
              <th className="w-7">
                <span className="sr-only">chosen</span>
              </th>
              <th>frame</th>
              <th>fps</th>
              <th>views</th>
              <th>stabilisation</th>
              <th>codecs</th>
              <th>bit</th>
            </tr>
          </thead>
          <tbody>
            {modes.map((mode, index) => (
              <tr
                key={index}
                className={`border-hair border-b align-baseline [&>td]:pr-3 ${chosen.has(index) ? "bg-second" : ""}`}
              >
                <td>
                  <input
                    type="checkbox"
                    className="align-middle"
                    aria-label={`Choose mode ${index + 1}`}
                    checked={chosen.has(index)}
                    onChange={(event) => toggle(index, event.target.checked)}
                  />
                </td>
                <td className="whitespace-nowrap">
                  <b>
                    {mode.width ?? "?"}
                    {"\u202f×\u202f"}
                    {mode.height ?? "?"}
                  </b>
                  {mode.lens && <span className="text-muted"> {words(String(mode.lens))}</span>}
                  {mode.high_dynamic_range === true && <span className="text-muted"> HDR</span>}
                </td>
                {SHOWN.map((field) => {
                  const typed = mode[field];
                  const value = typed ?? filled[index]?.[field];
                  return (
                    <td key={field} className={typed === undefined ? "text-muted italic" : ""}>
                      {Array.isArray(value) ? words(value.join(", ")) : ""}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
        {modes.length === 0 && <p className="py-3 text-muted">No mode yet.</p>}
      </div>
      <p className="flex flex-wrap gap-2 py-2">
        <button
          type="button"
          className="plain"
          onClick={() => {
            put((now) => [...now, { width: 1920, height: 1080, rates: [25] }]);
            setChosen(new Set([modes.length]));
          }}
        >
          One more mode
        </button>
        {mine.length > 0 && (
          <>
            <button
              type="button"
              className="plain"
              onClick={() => {
                put((now) => [...now, ...mine.map((index) => ({ ...now[index] }))]);
                setChosen(new Set(mine.map((_, index) => modes.length + index)));
              }}
            >
              Copy {mine.length === 1 ? "it" : `the ${mine.length}`}
            </button>
            <button
              type="button"
              className="plain"
              onClick={() => {
                put((now) => now.filter((_, index) => !chosen.has(index)));
                setChosen(new Set());
              }}
            >
              Take {mine.length === 1 ? "it" : `the ${mine.length}`} out
            </button>
          </>
        )}
      </p>
      {mine.length > 0 && (
        <div aria-label="The chosen modes" role="group">
          <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">
            {mine.length === 1 ? "This mode" : `These ${mine.length} modes`}
          </h3>
          {group.fields.map((note) => {
            const values = mine.map((index) => valueAt(modes[index], note.path));
            const one = values.every((value) => isSame(value, values[0]));
            const guesses = mine.map((index) => valueAt(filled[index], note.path));
            const alike = guesses.every((value) => isSame(value, guesses[0]));
            return (
              <FieldRow
                key={`${mine.join()} ${note.path}`}
                note={note}
                value={one ? values[0] : undefined}
                filled={one && alike ? guesses[0] : undefined}
                estimate={undefined}
                ids={idsOf(rough, whole, note.of ?? "")}
                hint={
                  one
                    ? undefined
                    : `They differ: ${[...new Set(values.map((value) => (value === undefined ? "not said" : words(textOf(note.input, value)))))].slice(0, 4).join(" / ")}.`
                }
                onChange={(value) =>
                  put(
                    (now) =>
                      now.map((mode, index) =>
                        chosen.has(index) ? (withValue(mode as Doc, note.path, value) as Mode) : mode,
                      ),
                    `${mine.join()} ${note.path}`,
                  )
                }
              />
            );
          })}
        </div>
      )}
    </>
  );
}
