// The log out, and logs in: all of it as JSON, takes as CSV; what a file would bring is told before it is kept.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../api/keys";
import { filesOf, type LogRead, logApi } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { FileButton } from "../../parts/file-button";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

export default function Files() {
  const [file, setFile] = useState<File | null>(null);
  const looked = useMutation({ mutationFn: (chosen: File) => logApi.read(chosen, HERE, false) });
  const kept = useMutation({
    mutationFn: (chosen: File) => logApi.read(chosen, HERE, true),
    onSuccess: () => changed.log(),
  });
  const out = filesOf({});
  const read = kept.data ?? looked.data;
  const error = kept.error ?? looked.error;
  return (
    <section className="min-w-0 max-w-[50rem] px-6 pb-8 max-sm:px-4" aria-label="Import and export">
      <h2 className="border-ink border-b pt-4 pb-1 font-serif text-lead font-semibold">Export</h2>
      <p className="flex flex-wrap gap-2 py-3">
        <a className="bold-plain inline-flex items-center" href={out.json} download>
          All of it as JSON
        </a>
        <a className="plain inline-flex items-center" href={out.csv} download>
          Takes as CSV
        </a>
      </p>
      <h2 className="border-ink border-b pt-4 pb-1 font-serif text-lead font-semibold">Import</h2>
      <p className="py-2 text-muted">
        A log from here or from another crew, or any list of takes as CSV: columns are found by their names,
        and what is in doubt is told row by row before anything is kept. Times without a zone are taken as of{" "}
        {HERE}.
      </p>
      <FileButton
        label="Log or list of takes"
        accept=".json,.csv,text/csv,application/json"
        says="Choose a file"
        busy={looked.isPending}
        onFile={(chosen) => {
          setFile(chosen);
          kept.reset();
          looked.mutate(chosen);
        }}
      />
      {error && (
        <p role="alert" className="pt-2 text-note">
          {refusalWords(error)}
        </p>
      )}
      {read && file && <Read read={read} name={file.name} />}
      {read && file && !read.applied && read.fresh + read.ladders + read.notes > 0 && (
        <p className="pt-3">
          <button
            type="button"
            className="bold-plain"
            disabled={kept.isPending}
            onClick={() => kept.mutate(file)}
          >
            {kept.isPending ? "Taking in" : `Take in ${counted(read)}`}
          </button>
        </p>
      )}
    </section>
  );
}

function counted(read: LogRead): string {
  const parts = [
    read.fresh > 0 && `${read.fresh} ${read.fresh === 1 ? "take" : "takes"}`,
    read.ladders > 0 && `${read.ladders} ${read.ladders === 1 ? "ladder" : "ladders"}`,
    read.notes > 0 && `${read.notes} ${read.notes === 1 ? "note" : "notes"}`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? parts.join(", ") : "nothing new";
}

function Read({ read, name }: { read: LogRead; name: string }) {
  return (
    <div role="status" className="pt-3">
      <p>
        <b>{name}</b> {read.applied ? `brought ${counted(read)}.` : `would bring ${counted(read)}.`}
        {read.known > 0 && ` ${read.known} are here already, and stay as they are.`}
        {read.passed_over.length > 0 && ` Not understood: ${read.passed_over.join(", ")}.`}
      </p>
      {read.doubts.length > 0 && (
        <table className="mt-2 w-full text-small">
          <caption className="pb-1 text-left font-bold">In doubt</caption>
          <tbody>
            {read.doubts.slice(0, 200).map((doubt) => (
              <tr key={`${doubt.row}${doubt.column}${doubt.what}`} className="border-hair border-b align-top">
                <td className="w-20 py-1">row {doubt.row}</td>
                <td className="w-24 py-1">{doubt.column}</td>
                <td className="py-1">
                  {doubt.what}. <span className="text-muted">{doubt.mend}</span>
                </td>
                <td className="w-28 py-1 text-right">{doubt.taken ? "taken" : <b>left out</b>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
