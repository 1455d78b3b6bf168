// A shoot that is begun, or brought from its file.
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import { shootsApi } from "../../api/shoots";
import { FileButton } from "../../parts/file-button";
import { type FoundPlace, PlaceField } from "../../parts/place-field";

/** A whole shoot from its file. */
export function BringShoot() {
  const navigate = useNavigate();
  const bring = useMutation({
    mutationFn: (file: File) => shootsApi.importShoot(file),
    onSuccess: (read) => {
      changed.everything();
      navigate(`/shoots/${read.id}`);
    },
  });
  return (
    <>
      <FileButton
        label="Shoot as JSON or ZIP"
        accept=".json,.zip,application/json,application/zip"
        says="Import a shoot"
        busy={bring.isPending}
        onFile={(file) => bring.mutate(file)}
      />
      {bring.error && (
        <span role="alert" className="border-note border-l-3 pl-3 text-small">
          <b className="text-note">Not read.</b>{" "}
          {bring.error instanceof Problem && bring.error.faults[0]
            ? `${bring.error.faults[0].where}: ${bring.error.faults[0].what}. ${bring.error.faults[0].mend}`
            : bring.error.message}
        </span>
      )}
    </>
  );
}

/** A day at a place. */
export function NewShoot({ close }: { close: () => void }) {
  const [fields, setFields] = useState({ title: "", place: "", day: "" });
  const [at, setAt] = useState<FoundPlace | null>(null);
  const navigate = useNavigate();
  const add = useMutation({
    mutationFn: () =>
      shootsApi.addShoot({
        title: fields.title.trim(),
        place: fields.place.trim(),
        day: fields.day || null,
        ...(at && { zone: at.zone, latitude: at.latitude, longitude: at.longitude }),
      }),
    onSuccess: (shoot) => {
      changed.shoots();
      close();
      navigate(`/shoots/${shoot.id}`);
    },
  });
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (fields.title.trim()) add.mutate();
  };
  const put = (name: keyof typeof fields) => (event: { target: { value: string } }) =>
    setFields({ ...fields, [name]: event.target.value });
  return (
    <form className="mt-4 grid gap-2" onSubmit={send}>
      <label className="text-fine text-muted">
        Name
        <input
          className="field"
          required
          maxLength={200}
          autoFocus
          value={fields.title}
          onChange={put("title")}
        />
      </label>
      <label className="text-fine text-muted">
        Place
        <input className="field" maxLength={200} value={fields.place} onChange={put("place")} />
      </label>
      <PlaceField
        label="Where, by the next town or its position"
        at={at}
        onPlace={(found) => {
          setAt(found);
          setFields((now) => ({ ...now, place: now.place || found.name }));
        }}
        onClear={() => setAt(null)}
      />
      <label className="text-fine text-muted">
        Day
        <input className="field" type="date" value={fields.day} onChange={put("day")} />
      </label>
      {add.error && (
        <p role="alert" className="text-small text-note">
          {add.error instanceof Problem ? add.error.message : "It could not be kept."} What you typed is still
          here.
        </p>
      )}
      <div className="flex gap-2 pt-1">
        <button type="submit" className="bold-plain" disabled={add.isPending}>
          Keep
        </button>
        <button type="button" className="plain" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
