// A mode table as it was pasted: what it was read as, what was guessed, and the modes to take.
import { useEffect, useState } from "react";
import { Problem } from "../../api/http";
import { sheetsApi } from "../../api/sheets";
import type { Rough, TableOut } from "../../api/types";
import { recall, remember } from "../../changes/storage";
import { modeCount } from "./doc";

type Props = { draftId: string; rough: Rough; change: (update: (rough: Rough) => Rough) => void };

const CALM_MS = 350;
const LAYOUTS = {
  rows: "a mode a row",
  matrix: "frames by rates",
  turned: "a mode a column",
  lines: "lines of text",
} as const;

export function FromTable({ draftId, rough, change }: Props) {
  const [text, setText] = useState(() => recall<string>(`pasted.${draftId}`) ?? "");
  const [out, setOut] = useState<TableOut | null>(null);
  const [problem, setProblem] = useState<Error | null>(null);
  const [taken, setTaken] = useState(0);
  useEffect(() => {
    remember(`pasted.${draftId}`, text || null);
    setProblem(null);
    if (!text.trim()) {
      setOut(null);
      return;
    }
    const abort = new AbortController();
    const timer = window.setTimeout(() => {
      sheetsApi.readTable(text, abort.signal).then(
        (read) => !abort.signal.aborted && setOut(read),
        (error: Error) => {
          if (abort.signal.aborted) return;
          setOut(null);
          setProblem(error);
        },
      );
    }, CALM_MS);
    return () => {
      window.clearTimeout(timer);
      abort.abort();
    };
  }, [text, draftId]);
  const here = modeCount(rough);
  const take = (instead: boolean) => {
    if (!out) return;
    sheetsApi.joined({ rough, modes: out.modes, instead }).then(
      (whole) => {
        change(() => whole);
        setTaken(out.mode_count);
        setText("");
      },
      (error: Error) => setProblem(error),
    );
  };
  return (
    <div className="pt-2">
      <textarea
        className="field font-mono text-small"
        rows={text ? 7 : 4}
        aria-label="Mode table"
        spellCheck={false}
        placeholder={
          "Paste it here, from a spreadsheet, a CSV file, or as text:\nresolution\tfps\tfield of view\tstabilisation\n4K (16:9)\t60, 50, 30, 25, 24\twide, straight\tstandard, strong"
        }
        value={text}
        onChange={(event) => {
          setTaken(0);
          setText(event.target.value);
        }}
      />
      {taken > 0 && !text && (
        <p role="status" className="text-small">
          <b>{taken} modes taken.</b> Undo brings back what was here.
        </p>
      )}
      {problem && (
        <div role="alert" className="text-small">
          {problem instanceof Problem && problem.faults.length > 0 ? (
            problem.faults.map((fault) => (
              <p key={`${fault.where} ${fault.what}`}>
                <b className="text-note">
                  {fault.where} {fault.what}.
                </b>{" "}
                {fault.mend}
              </p>
            ))
          ) : (
            <b className="text-note">{problem.message}</b>
          )}
        </div>
      )}
      {out && <TableRead out={out} />}
      {out && (
        <p className="flex flex-wrap gap-2 pt-2">
          <button
            type="button"
            className="bold-plain"
            disabled={out.mode_count === 0}
            onClick={() => take(here === 0)}
          >
            {here === 0 ? `Take these ${out.mode_count} modes` : `Take these ${out.mode_count} besides`}
          </button>
          {here > 0 && (
            <button type="button" className="plain" onClick={() => take(true)}>
              Instead of the {here} that are here
            </button>
          )}
          <button type="button" className="plain text-muted" onClick={() => setText("")}>
            Clear
          </button>
        </p>
      )}
    </div>
  );
}

const MOST_SHOWN = 12;

function TableRead({ out }: { out: TableOut }) {
  const { read } = out;
  const [all, setAll] = useState(false);
  const alike = new Map<string, typeof read.doubts>();
  for (const doubt of read.doubts) alike.set(doubt.mend, [...(alike.get(doubt.mend) ?? []), doubt]);
  const shown = all ? read.modes : read.modes.slice(0, MOST_SHOWN);
  const list = (values: readonly (string | number)[] | null | undefined) =>
    values ? values.join(", ").replaceAll("_", " ") : <span className="text-muted">not said</span>;
  return (
    <div data-testid="table-read">
      <p className="pt-1 text-small">
        Read as {LAYOUTS[read.layout]}: <b>{out.mode_count} modes</b> of {read.modes.length} rows.
        {read.columns.length > 0 && (
          <span className="text-muted">
            {" "}
            {read.columns.map(([heading, as]) => `“${heading}” as ${as.replaceAll("_", " ")}`).join(", ")}.
          </span>
        )}
      </p>
      {read.doubts.length > 0 && (
        <ul className="my-1 border-note border-l-3 pl-3 text-small" aria-label="Doubts">
          {[...alike].map(([mend, doubts]) => (
            <li key={mend}>
              {doubts.slice(0, 6).map((doubt, index) => (
                <span key={`${doubt.line} ${doubt.what}`}>
                  {index > 0 && "; "}
                  {doubt.line > 0 && <span className="text-muted">line {doubt.line} </span>}
                  <b>{doubt.what.replace(/ x (?=\d)/, "\u202f×\u202f")}</b>
                </span>
              ))}
              {doubts.length > 6 && ` and ${doubts.length - 6} more`}. {mend}
            </li>
          ))}
        </ul>
      )}
      <div className="overflow-x-auto">
        <table className="mt-1 w-full text-left text-fine">
          <thead>
            <tr className="border-ink border-b text-muted [&>th]:pr-3 [&>th]:font-normal">
              <th>line</th>
              <th>frame</th>
              <th>fps</th>
              <th>views</th>
              <th>stabilisation</th>
              <th>recording</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((mode, index) => (
              <tr key={index} className="border-hair border-b align-baseline [&>td]:pr-3">
                <td className="text-muted">{mode.line}</td>
                <td className="whitespace-nowrap font-bold">
                  {mode.width}
                  {"\u202f×\u202f"}
                  {mode.height}
                  {mode.guessed && <span className="text-note"> ≈</span>}
                </td>
                <td>{mode.rates.join(", ")}</td>
                <td>{list(mode.views)}</td>
                <td>{list(mode.stabilisation)}</td>
                <td>
                  {[
                    mode.codecs?.join(", "),
                    mode.bit_depths && `${mode.bit_depths.join(", ")} bit`,
                    mode.high_dynamic_range && "HDR",
                  ]
                    .filter(Boolean)
                    .join("; ") || <span className="text-muted">not said</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {read.modes.length > MOST_SHOWN && !all && (
        <button type="button" className="min-h-[24px] text-small underline" onClick={() => setAll(true)}>
          all {read.modes.length} rows
        </button>
      )}
    </div>
  );
}
