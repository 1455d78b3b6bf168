// Import and export of the kit: everything as one file, or a sheet that somebody wrote. What clashes is asked.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import { kitApi } from "../../api/kit";
import { healthQuery } from "../../api/service";
import type { Fault } from "../../api/types";
import { FileButton } from "../../parts/file-button";

type Answer = "keep" | "take" | "beside";
const ANSWERS: [Answer, string][] = [
  ["keep", "keep mine"],
  ["take", "take theirs"],
  ["beside", "keep both"],
];

/** The night’s copy of the database: when, what it holds, or what went wrong. */
function LastBackup() {
  const backup = useQuery(healthQuery).data?.backup;
  if (!backup) return <>Every night a copy of the whole database is made and read back; there is none yet.</>;
  const at = new Date(backup.made_at).toLocaleString("en-GB", {
    day: "numeric",
    month: "long",
    hour: "2-digit",
    minute: "2-digit",
  });
  if (backup.problem)
    return (
      <b className="text-note">
        The copy of {at} failed: {backup.problem}
      </b>
    );
  return (
    <>
      The copy of {at} was read back and holds {backup.holds}.
    </>
  );
}

export default function KitFiles() {
  const [file, setFile] = useState<File | null>(null);
  const [clashes, setClashes] = useState<Fault[]>([]);
  const [answers, setAnswers] = useState<Record<string, Answer>>({});
  useEffect(() => {
    document.title = "Import and export · Kit · Steady Tide";
  }, []);
  const bring = useMutation({
    mutationFn: ({ from, choices }: { from: File; choices: string[] }) =>
      kitApi.importKit(from, from.name, choices),
    onSuccess: () => {
      setClashes([]);
      setAnswers({});
      changed.kit();
    },
    onError: (error) => {
      if (error instanceof Problem && error.status === 409) setClashes(error.faults);
      else setClashes([]);
    },
  });
  const start = (from: File) => {
    setFile(from);
    setAnswers({});
    bring.mutate({ from, choices: [] });
  };
  const open = clashes.filter(({ where }) => !(where in answers)).length;
  const refused = bring.error instanceof Problem && bring.error.status !== 409 ? bring.error : null;
  const found = bring.data;
  return (
    <section className="min-w-0 px-7 py-5" aria-label="Import and export">
      <h2 className="font-serif text-head font-semibold">Import and export</h2>
      <h3 className="mt-3 border-ink border-b pb-1 font-serif text-lead font-semibold">Export</h3>
      <p className="max-w-[70ch] py-2">
        The whole kit as one file: cameras with their latest sheets, and everything else. Single sheets are
        with their cameras.
      </p>
      <p className="flex gap-2">
        <a className="plain inline-flex items-center" download href="/api/kit/file?spelling=json">
          Kit as JSON
        </a>
        <a className="plain inline-flex items-center" download href="/api/kit/file?spelling=yaml">
          Kit as YAML
        </a>
        <a className="plain inline-flex items-center" download href="/api/everything.zip">
          Everything as a ZIP
        </a>
      </p>
      <p className="max-w-[70ch] pt-2 text-small text-muted">
        Everything holds the kit with counts and places, all editions of all sheets, drafts, shoots and the
        crew, each as a file that can be imported again. <LastBackup />
      </p>
      <p className="pt-2 text-small text-muted">
        The formats are published:{" "}
        <a className="underline" href="/api/camera-sheet.schema.json">
          schema of a camera sheet
        </a>
        ,{" "}
        <a className="underline" href="/api/kit.schema.json">
          schema of a kit
        </a>
        .
      </p>
      <h3 className="mt-6 border-ink border-b pb-1 font-serif text-lead font-semibold">Import</h3>
      <p className="max-w-[70ch] py-2">
        A camera sheet or a kit, as JSON or YAML. What is here already and differs is asked about first; until
        you have answered, nothing is changed.
      </p>
      <FileButton
        label="Sheet or kit as JSON or YAML"
        accept=".json,.yaml,.yml,application/json,application/yaml"
        says="Import a sheet or a kit"
        busy={bring.isPending}
        onFile={start}
      />
      {bring.error && !refused && clashes.length === 0 && (
        <p role="alert" className="pt-2 text-note">
          {bring.error.message}
        </p>
      )}
      {refused && (
        <div role="alert" className="mt-3 max-w-[80ch] border-note border-l-3 pl-3 text-small">
          <b className="text-note">Nothing was imported.</b> {refused.faults.length === 0 && refused.message}
          {refused.faults.slice(0, 8).map((fault) => (
            <p key={`${fault.where} ${fault.what}`}>
              <b>{fault.where}</b> {fault.what}. {fault.mend}
            </p>
          ))}
          {refused.faults.length > 8 && <p>and {refused.faults.length - 8} more</p>}
        </div>
      )}
      {clashes.length > 0 && file && (
        <form
          className="mt-3 max-w-[760px]"
          aria-label="What is here already"
          onSubmit={(event) => {
            event.preventDefault();
            bring.mutate({
              from: file,
              choices: Object.entries(answers).map(([where, answer]) => `${where}=${answer}`),
            });
          }}
        >
          <p className="border-ink border-b pb-1">
            <b>{clashes.length === 1 ? "One thing" : `${clashes.length} things`}</b> in {file.name}{" "}
            {clashes.length === 1 ? "differs" : "differ"} from what is here.{" "}
            <span className="text-muted">For all:</span>{" "}
            {ANSWERS.map(([answer, says]) => (
              <button
                key={answer}
                type="button"
                className="mr-2 min-h-[24px] text-small underline"
                onClick={() => setAnswers(Object.fromEntries(clashes.map(({ where }) => [where, answer])))}
              >
                {says}
              </button>
            ))}
          </p>
          {clashes.map(({ where, what }) => (
            <fieldset
              key={where}
              className="flex flex-wrap items-baseline gap-x-4 border-hair border-b py-[6px]"
            >
              <legend className="sr-only">{where}</legend>
              <span className="min-w-[300px] flex-1">
                <b>{what.split(" is here already; ")[0]}</b>: {what.split(" is here already; ")[1]}{" "}
                <span className="text-fine text-muted">{where}</span>
              </span>
              {ANSWERS.map(([answer, says]) => (
                <label key={answer} className="flex min-h-[25px] items-center gap-2">
                  <input
                    type="radio"
                    name={where}
                    checked={answers[where] === answer}
                    onChange={() => setAnswers((now) => ({ ...now, [where]: answer }))}
                  />
                  {says}
                </label>
              ))}
            </fieldset>
          ))}
          <p className="flex items-center gap-3 pt-3">
            <button
              type="submit"
              className="bold-plain disabled:opacity-45"
              disabled={open > 0 || bring.isPending}
            >
              Import it
            </button>
            <button type="button" className="plain" onClick={() => setClashes([])}>
              Cancel
            </button>
            {open > 0 && <span className="text-small text-muted">{open} not answered</span>}
          </p>
          <p className="pt-1 text-fine text-muted">
            Taking another's sheet makes it the next edition of yours; saved plans stay with theirs.
          </p>
        </form>
      )}
      {found && (
        <p role="status" className="pt-3">
          <b>Imported.</b> {found.new.length} new, {found.same.length} the same as here, {found.taken.length}{" "}
          taken, {found.kept.length} kept as yours, {found.beside.length} put beside yours.
        </p>
      )}
    </section>
  );
}
