// A shot kept as a use of one's own.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changed } from "../../api/keys";
import { usesApi } from "../../api/uses";
import { NumberField, TextField } from "../../parts/fields";
import { Panel } from "../../parts/panel";

/** A shot as a use of one's own: its brief, under a name, and how often it is filmed. */
export function KeepAsUse({ shot, title }: { shot: string; title: string }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(title.slice(0, 80));
  const [often, setOften] = useState<number>(10);
  const keep = useMutation({
    mutationFn: () => usesApi.keep({ shot_id: shot, name: name.trim(), per_year: often }),
    onSuccess: changed.uses,
  });
  return (
    <Panel
      label={`Add ${title} to the uses`}
      trigger={{
        className: "block underline decoration-deep underline-offset-2 hover:text-ink max-lg:inline",
        "aria-label": `Add ${title} to the uses`,
      }}
      says="as a use"
      open={open}
      onOpen={(on) => {
        keep.reset();
        setOpen(on);
      }}
      align="end"
      wide="w-[300px] p-4"
    >
      {keep.isSuccess ? (
        <p role="status">
          It is on the{" "}
          <Link className="underline" to="/uses">
            shelf of usual uses
          </Link>{" "}
          now; new shots can begin with it.
        </p>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate();
          }}
        >
          <TextField label="Name of the use" value={name} autoFocus onChange={setName} />
          <NumberField label="How often" unit="a year" value={often} onChange={setOften} />
          <button type="submit" className="bold-plain" disabled={keep.isPending || !name.trim()}>
            Keep it as a use
          </button>
          {keep.error && (
            <p role="alert" className="text-note">
              {keep.error.message}
            </p>
          )}
        </form>
      )}
    </Panel>
  );
}
