// Where and when a shoot is: what its light follows from.

import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { changed } from "../../api/keys";
import { shootsApi } from "../../api/shoots";
import type { Shoot } from "../../api/types";
import { differing, refusalWords, wasMet } from "../../parts/changing";
import { readNumber } from "../../parts/fields";

function textsOf(shoot: Shoot) {
  return {
    title: shoot.title,
    place: shoot.place ?? "",
    day: shoot.day ?? "",
    zone: shoot.zone ?? "UTC",
    latitude: shoot.latitude?.toString() ?? "",
    longitude: shoot.longitude?.toString() ?? "",
    note: shoot.note ?? "",
  };
}

export function PlaceAndDay({ shoot, close }: { shoot: Shoot; close: () => void }) {
  const [fields, setFields] = useState(() => textsOf(shoot));
  const opened = useRef(fields);
  const number = (text: string) => (text.trim() === "" ? null : readNumber(text));
  const wrong = (["latitude", "longitude"] as const).filter(
    (name) => fields[name].trim() !== "" && readNumber(fields[name]) === null,
  );
  const valuesOf = (texts: typeof fields) => ({
    ...texts,
    day: texts.day || null,
    latitude: number(texts.latitude),
    longitude: number(texts.longitude),
  });
  const keep = useMutation({
    mutationFn: () =>
      shootsApi.changeShoot(shoot.id, shoot.revision, differing(valuesOf(opened.current), valuesOf(fields))),
    onSuccess: () => {
      changed.everything();
      close();
    },
    // What others changed meanwhile is read, so that one who keeps once more has seen it.
    onError: (error) => wasMet(error) && changed.shoots(),
  });
  const text = (name: keyof typeof fields, label: string, type = "text") => (
    <label className="text-[12.5px] text-muted">
      {label}
      <input
        className="field text-ink"
        type={type}
        value={fields[name]}
        aria-invalid={wrong.includes(name as "latitude")}
        onChange={(event) => setFields({ ...fields, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <form
      aria-label="Place and day"
      className="mt-3 grid max-w-[620px] grid-cols-2 gap-x-4 gap-y-2 border-ink border-t pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong.length === 0 && fields.title.trim()) keep.mutate();
      }}
    >
      {text("title", "Name")}
      {text("place", "Place")}
      {text("day", "Day", "date")}
      {text("zone", "Time zone, such as Europe/London")}
      {text("latitude", "Latitude, degrees north")}
      {text("longitude", "Longitude, degrees east")}
      <div className="col-span-2">{text("note", "Note")}</div>
      {(wrong.length > 0 || keep.error) && (
        <p role="alert" className="col-span-2 text-[13px] text-note">
          {wrong.length > 0
            ? `Give a number of degrees for ${wrong.join(" and ")}.`
            : keep.error && refusalWords(keep.error)}
        </p>
      )}
      <div className="col-span-2 flex gap-2">
        <button type="submit" className="bold-plain" disabled={keep.isPending}>
          {wasMet(keep.error) ? "Keep mine" : "Keep"}
        </button>
        <button type="button" className="plain" onClick={close}>
          Cancel
        </button>
      </div>
    </form>
  );
}
