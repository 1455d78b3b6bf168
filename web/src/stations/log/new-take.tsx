// A take that nobody logged when it was filmed.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { changed } from "../../api/keys";
import { logApi, RATINGS, type Rating } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { PersonField } from "../../parts/person-field";
import { ShotPick } from "./shot-pick";

type Props = { open: boolean; setOpen: (open: boolean) => void; people: string[] };

export function NewTake({ open, setOpen, people }: Props) {
  if (!open)
    return (
      <p className="pt-2">
        <button type="button" className="plain" onClick={() => setOpen(true)}>
          Log a take
        </button>
      </p>
    );
  return <Form close={() => setOpen(false)} people={people} />;
}

function here(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

function Form({ close, people }: { close: () => void; people: string[] }) {
  const [shot, setShot] = useState("");
  const [at, setAt] = useState(here);
  const [hands, setHands] = useState<string | null>(null);
  const [rating, setRating] = useState<Rating | "">("");
  const [note, setNote] = useState("");
  const [id] = useState(() => crypto.randomUUID());
  const logged = useMutation({
    mutationFn: () =>
      logApi.put(id, {
        shot_id: shot || null,
        said: { at: new Date(at).toISOString(), hands, rating: rating || null, note },
      }),
    onSuccess: () => {
      void changed.log();
      close();
    },
  });
  return (
    <form
      aria-label="Log a take"
      className="my-2 grid max-w-[46rem] gap-3 border border-rule p-4 sm:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault();
        logged.mutate();
      }}
    >
      <ShotPick shot={shot} onChange={setShot} none="none, footage without a plan" />
      <label className="grid gap-[2px] text-fine text-muted">
        When, by this device
        <input
          type="datetime-local"
          required
          className="field text-ink"
          value={at}
          onChange={(event) => setAt(event.target.value)}
        />
      </label>
      <PersonField label="Whose hands" value={hands} people={people} onChange={setHands} />
      <label className="grid gap-[2px] text-fine text-muted">
        Thought of it
        <select
          className="field text-ink"
          value={rating}
          onChange={(event) => setRating(event.target.value as typeof rating)}
        >
          <option value="">not said</option>
          {RATINGS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
      <label className="grid gap-[2px] text-fine text-muted">
        Note
        <input
          className="field text-ink"
          maxLength={2000}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <p className="flex gap-2 sm:col-span-2">
        <button type="submit" className="bold-plain" disabled={logged.isPending}>
          Log it
        </button>
        <button type="button" className="plain" onClick={close}>
          Cancel
        </button>
        {logged.error && (
          <span role="alert" className="self-center text-note">
            {refusalWords(logged.error)}
          </span>
        )}
      </p>
    </form>
  );
}
