// Where and when a shoot is: what its light follows from.

import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { benchApi } from "../../api/bench";
import { queries } from "../../api/http";
import { changed } from "../../api/keys";
import { placesQuery } from "../../api/places";
import { shootsApi } from "../../api/shoots";
import type { Shoot } from "../../api/types";
import { differing } from "../../changes/fields";
import { refusalWords } from "../../changes/refusals";
import { useChanges } from "../../changes/use-changes";
import { FileButton } from "../../parts/file-button";
import { PlaceField } from "../../parts/place-field";
import { leftOutWords } from "../../parts/words";
import { localTime } from "../bench/when";

function textsOf(shoot: Shoot) {
  return {
    title: shoot.title,
    place: shoot.place ?? "",
    day: shoot.day ?? "",
    zone: shoot.zone ?? "UTC",
    latitude: shoot.latitude ?? null,
    longitude: shoot.longitude ?? null,
    note: shoot.note ?? "",
  };
}

export default function PlaceAndDay({ shoot, close }: { shoot: Shoot; close: () => void }) {
  const [fields, setFields] = useState(() => textsOf(shoot));
  const opened = useRef(fields);
  const valuesOf = (said: typeof fields) => ({ ...said, day: said.day || null });
  const { engine, say, status } = useChanges<Record<string, unknown>>({
    place: `place and day.${shoot.id}`,
    shown: valuesOf(textsOf(shoot)),
    revision: shoot.revision,
    send: (revision, change) => shootsApi.changeShoot(shoot.id, revision, change),
    reread: changed.shoots,
    whole: true,
  });
  const keep = async () => {
    void say(differing(valuesOf(opened.current), valuesOf(fields)), null);
    opened.current = fields;
    await (engine.meeting ? engine.keepMine() : engine.retry());
    if (!engine.isIdle) return;
    changed.everything();
    close();
  };
  const cancel = () => {
    engine.forget();
    close();
  };
  const wrong = [
    ...engine.refusals.map(([field, why]) => `${field}: ${why}`),
    ...(engine.meeting ? [engine.meeting.says] : status.kind === "away" ? [status.why] : []),
  ];
  // A track says where, and when: the day at its own place.
  const track = useMutation({
    mutationFn: async (file: File) => {
      const { track: found } = await benchApi.readTrack(file);
      const { items } = await queries.fetchQuery(placesQuery(`${found.latitude} ${found.longitude}`));
      return { ...found, zone: items[0]?.zone ?? fields.zone };
    },
    onSuccess: ({ latitude, longitude, start, zone }) =>
      setFields((now) => ({
        ...now,
        latitude: Math.round(latitude * 1e4) / 1e4,
        longitude: Math.round(longitude * 1e4) / 1e4,
        zone,
        day: localTime(start, zone).slice(0, 10),
      })),
  });
  const text = (name: "title" | "place" | "day" | "zone" | "note", label: string, type = "text") => (
    <label className="text-fine text-muted">
      {label}
      <input
        className="field text-ink"
        type={type}
        value={fields[name]}
        onChange={(event) => setFields({ ...fields, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <form
      aria-label="Place and day"
      className="mt-3 grid max-w-[620px] grid-cols-2 max-sm:grid-cols-1 gap-x-4 gap-y-2 border-ink border-t pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (fields.title.trim()) void keep();
      }}
    >
      {text("title", "Name")}
      {text("place", "Place")}
      {text("day", "Day", "date")}
      {text("zone", "Time zone, such as Europe/London")}
      <div className="col-span-2 max-sm:col-span-1">
        <PlaceField
          label="Where, by the next town or its position"
          at={
            fields.latitude === null || fields.longitude === null
              ? null
              : { latitude: fields.latitude, longitude: fields.longitude }
          }
          onPlace={({ name, latitude, longitude, zone }) =>
            // The zone follows; what was called otherwise keeps its name.
            setFields((now) => ({ ...now, latitude, longitude, zone, place: now.place || name }))
          }
          onClear={() => setFields((now) => ({ ...now, latitude: null, longitude: null }))}
        />
        <p className="flex flex-wrap items-center gap-3 pt-2 text-small">
          <FileButton
            label="Track as GPX"
            accept=".gpx,application/gpx+xml"
            says="From a track (GPX)"
            busy={track.isPending}
            onFile={(file) => track.mutate(file)}
          />
          {track.data && (
            <span role="status">
              Place, zone and day are the track’s.{leftOutWords(track.data.left_out, "points")}
            </span>
          )}
          {track.error && (
            <span role="alert" className="text-note">
              {refusalWords(track.error)}
            </span>
          )}
        </p>
      </div>
      <div className="col-span-2 max-sm:col-span-1">{text("note", "Note")}</div>
      {wrong.length > 0 && (
        <p role="alert" className="col-span-2 text-small text-note">
          {wrong.join(" ")}
        </p>
      )}
      <div className="col-span-2 flex gap-2">
        <button type="submit" className="bold-plain" disabled={status.kind === "saving"}>
          {engine.meeting ? "Keep mine" : "Keep"}
        </button>
        <button type="button" className="plain" onClick={cancel}>
          Cancel
        </button>
      </div>
    </form>
  );
}
