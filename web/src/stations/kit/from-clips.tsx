// Clips and stills of the camera: what they say of themselves. Only their beginning and end are read, and nothing of them is kept.
import { useRef, useState } from "react";
import { Problem, queries } from "../../api/http";
import { fieldsQuery, sheetsApi } from "../../api/sheets";
import type { ClipsDraft, FileFacts, Rough } from "../../api/types";
import { FileButton } from "../../parts/file-button";

type Props = { rough: Rough; change: (update: (rough: Rough) => Rough) => void };
type Refused = { file: string; why: string };

export function FromClips({ rough, change }: Props) {
  const [facts, setFacts] = useState<FileFacts[]>([]);
  const [refused, setRefused] = useState<Refused[]>([]);
  const [draft, setDraft] = useState<ClipsDraft | null>(null);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [over, setOver] = useState(false);
  const stop = useRef(false);
  const read = async (files: File[]) => {
    stop.current = false;
    const found = [...facts];
    const not: Refused[] = [];
    setProgress({ done: 0, of: files.length });
    const { clip_bytes } = await queries.ensureQueryData(fieldsQuery);
    for (const [index, file] of files.entries()) {
      if (stop.current) break;
      try {
        found.push(await factsOf(file, clip_bytes as Record<"whole" | "head" | "tail", number>));
      } catch (error) {
        not.push({ file: file.name, why: reason(error) });
      }
      setProgress({ done: index + 1, of: files.length });
    }
    setFacts(found);
    setRefused(not);
    setProgress(null);
    if (found.length === 0) return;
    try {
      setDraft(await sheetsApi.draftOfClips(found));
    } catch (error) {
      setRefused([...not, { file: "the draft", why: reason(error) }]);
    }
  };
  const take = () => {
    if (!draft) return;
    sheetsApi.joined({ rough, draft: { sheet: draft.sheet, known: draft.known } }).then(
      (whole) => {
        change(() => whole);
        setFacts([]);
        setDraft(null);
      },
      (error: Error) => setRefused([{ file: "the draft", why: reason(error) }]),
    );
  };
  return (
    <div
      role="group"
      aria-label="Files of the camera"
      className={`mt-2 border border-dashed px-3 py-2 ${over ? "border-ink bg-second" : "border-muted"}`}
      data-testid="clips"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void read([...event.dataTransfer.files]);
      }}
    >
      <p className="flex flex-wrap items-center gap-x-3 gap-y-1 text-small">
        <FileButton
          label="Clips and stills"
          accept="video/*,image/*,.mkv,.ts,.dng"
          says="Clips and stills"
          busy={progress !== null}
          onFiles={(files) => void read(files)}
        />
        <span className="text-muted">
          or drop a few of its own files here. They stay on this computer; only what their heads say is read.
        </span>
      </p>
      {progress && (
        <p role="status" className="flex items-center gap-3 pt-1 text-small">
          Reading {progress.done + 1 > progress.of ? progress.of : progress.done + 1} of {progress.of}
          <progress className="h-2 w-32" value={progress.done} max={progress.of} aria-label="Files read" />
          <button
            type="button"
            className="plain"
            onClick={() => {
              stop.current = true;
            }}
          >
            Stop
          </button>
        </p>
      )}
      {refused.length > 0 && (
        <ul role="alert" className="pt-1 text-small">
          {refused.map(({ file, why }) => (
            <li key={file}>
              <b className="text-note">{file}</b> {why}
            </li>
          ))}
        </ul>
      )}
      {facts.length > 0 && (
        <table className="mt-1 w-full text-left text-fine">
          <thead>
            <tr className="border-ink border-b text-muted [&>th]:pr-3 [&>th]:font-normal">
              <th>file</th>
              <th>frame</th>
              <th>fps</th>
              <th>recording</th>
              <th>Mb/s</th>
            </tr>
          </thead>
          <tbody>
            {facts.map((fact, index) => (
              <tr key={`${index} ${fact.file}`} className="border-hair border-b align-baseline [&>td]:pr-3">
                <td>{fact.file}</td>
                <td className="whitespace-nowrap font-bold">
                  {fact.width}
                  {"\u202f×\u202f"}
                  {fact.height}
                </td>
                <td>{fact.rate ? Number(fact.rate.toFixed(2)) : "a still"}</td>
                <td>
                  {fact.kind === "clip"
                    ? `${fact.codec ?? "unknown"}, ${fact.bits ?? 8} bit`
                    : [
                        fact.f_number && `f/${fact.f_number}`,
                        fact.equivalent_mm && `${fact.equivalent_mm}\u202fmm equivalent`,
                        fact.iso && `ISO ${fact.iso}`,
                      ]
                        .filter(Boolean)
                        .join(", ")}
                </td>
                <td>{fact.bit_rate_mb_s ? Number(fact.bit_rate_mb_s.toPrecision(3)) : ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {draft && (
        <>
          <ul className="pt-1 text-fine text-muted">
            {draft.notes.map(([file, note]) => (
              <li key={`${file} ${note}`}>
                {file && <b>{file} </b>}
                {note}
              </li>
            ))}
          </ul>
          <p className="flex gap-2 pt-2">
            <button type="button" className="bold-plain" onClick={take}>
              Take what they say
            </button>
            <button
              type="button"
              className="plain"
              onClick={() => {
                setFacts([]);
                setDraft(null);
              }}
            >
              Cancel
            </button>
          </p>
        </>
      )}
    </div>
  );
}

/** Sends the beginning and the end of a file. A file that is too large is refused before any of it is read. */
async function factsOf(file: File, bytes: Record<"whole" | "head" | "tail", number>): Promise<FileFacts> {
  if (file.size > bytes.whole)
    throw new Error(
      `is ${(file.size / 1e9).toFixed(1)}\u202fGB; ${bytes.whole / 1e9}\u202fGB is the most. A clip of a few seconds says as much.`,
    );
  if (file.size === 0) throw new Error("is empty. Copy it again from the card.");
  const head = Math.min(file.size, bytes.head);
  const tail = Math.max(head, file.size - bytes.tail);
  const parts = new Blob([file.slice(0, head), file.slice(tail)]);
  return sheetsApi.clipFacts(parts, { name: file.name, size: file.size, head });
}

function reason(error: unknown): string {
  if (error instanceof Problem && error.faults[0])
    return `${error.faults[0].what}. ${error.faults[0].mend ?? ""}`;
  return (error as Error).message;
}
