// Usual uses out to a file, and in from one.
import { useMutation } from "@tanstack/react-query";
import { changed } from "../../api/keys";
import { usesApi } from "../../api/uses";
import { refusalWords } from "../../changes/refusals";
import { FileButton } from "../../parts/file-button";

const counted = (n: number, one: string, many: string) => (n === 0 ? null : `${n} ${n === 1 ? one : many}`);

export function UsesFiles() {
  const taking = useMutation({ mutationFn: usesApi.takeIn, onSuccess: changed.everything });
  const taken = taking.data;
  const fresh = taken
    ? [
        counted(taken.own, "use of your own", "uses of your own"),
        counted(taken.said, "of the shelf", "of the shelf"),
        counted(taken.set_ups, "camera's set-up", "cameras' set-ups"),
      ].filter((part) => part !== null)
    : [];
  return (
    <section aria-label="Import and export" className="mt-6 border-ink border-t pt-2">
      <h3 className="font-serif text-lead font-semibold">Import and export</h3>
      <p className="py-1 text-small text-muted">
        Your own uses, what is chosen and how often, and what was set up on cameras. What is said here already
        stays as it is.
      </p>
      <p className="flex flex-wrap items-center gap-3">
        <a className="plain inline-flex items-center" href="/api/uses/uses.json" download>
          Take them along
        </a>
        <FileButton
          label="Usual uses"
          accept=".json,application/json"
          says="Take a file in"
          busy={taking.isPending}
          onFile={(file) => taking.mutate(file)}
        />
      </p>
      {taken && (
        <p role="status" className="pt-2 text-small">
          {fresh.length > 0 ? `Taken in: ${fresh.join(", ")}.` : "Nothing in it was new."}
          {taken.here > 0 && ` ${taken.here} ${taken.here === 1 ? "was" : "were"} here already.`}
        </p>
      )}
      {taking.error && (
        <p role="alert" className="pt-2 text-note">
          {refusalWords(taking.error)}
        </p>
      )}
    </section>
  );
}
