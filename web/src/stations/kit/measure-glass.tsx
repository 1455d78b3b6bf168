// The true density and colour of a piece of glass, from two frames of one scene.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changed } from "../../api/keys";
import { kitApi } from "../../api/kit";
import type { Curve, GlassOut, KitView } from "../../api/types";
import { FileButton } from "../../parts/file-button";
import { readNumber } from "../../parts/reading";
import { stops, withUnit } from "../../parts/words";
import { CurveChoice, How, Refusal } from "./measure-parts";
import { slug } from "./slug";

export function Glass({ kit }: { kit: KitView }) {
  const [files, setFiles] = useState<{ with?: File; without?: File }>({});
  const [between, setBetween] = useState("");
  const [curve, setCurve] = useState<Curve>("usual");
  const measure = useMutation({
    mutationFn: () => {
      const stopsBetween = between.trim() ? readNumber(between) : null;
      return kitApi.measureGlass(files.with as File, files.without as File, {
        ...(stopsBetween === null ? {} : { exposure_stops: stopsBetween }),
        transfer: curve,
      });
    },
  });
  const wrong = between.trim() !== "" && readNumber(between) === null;
  const both = files.with && files.without;
  return (
    <div className="grid gap-x-10 xl:grid-cols-[minmax(0,1fr)_minmax(0,470px)]">
      <div className="min-w-0">
        <How>
          <li>Point the camera from a tripod at a scene in steady light: an overcast sky, a lit wall.</li>
          <li>Lock shutter, ISO and white balance. Take one frame without the filter.</li>
          <li>
            Put the glass on and take another. If it is dense, open up by whole stops first, and say by how
            many.
          </li>
          <li>Of a variable ND, take one pair at its least and one where the frame is just still even.</li>
        </How>
        <p className="flex flex-wrap items-center gap-3">
          {(["without", "with"] as const).map((which) => (
            <span key={which} className="flex items-center gap-2">
              <FileButton
                label={which === "with" ? "Frame with the filter" : "Frame without it"}
                accept="image/*,video/*"
                says={which === "with" ? "With the filter" : "Without it"}
                busy={measure.isPending}
                onFile={(file) => {
                  measure.reset();
                  setFiles((now) => ({ ...now, [which]: file }));
                }}
              />
              <span className="text-small text-muted">{files[which]?.name ?? "no frame yet"}</span>
            </span>
          ))}
        </p>
        <p className="flex flex-wrap items-center gap-x-5 gap-y-2 pt-3 text-small text-muted">
          <label>
            with the filter opened up by{" "}
            <input
              className="w-20 border-muted border-b bg-transparent text-body text-ink"
              aria-label="Stops opened up with the filter"
              aria-invalid={wrong}
              inputMode="decimal"
              placeholder="as files say"
              value={between}
              onChange={(event) => setBetween(event.target.value)}
            />{" "}
            stops
          </label>
          <CurveChoice curve={curve} onChange={setCurve} />
        </p>
        {wrong && <p className="text-fine text-note">Give a number of stops.</p>}
        <p className="pt-3">
          <button
            type="button"
            className="bold-plain disabled:opacity-45"
            disabled={!both || wrong || measure.isPending}
            onClick={() => measure.mutate()}
          >
            {measure.isPending ? "Measuring" : "Measure"}
          </button>
        </p>
        <Refusal error={measure.error} />
      </div>
      <div className="min-w-0 pt-3">{measure.data && <GlassFound kit={kit} out={measure.data} />}</div>
    </div>
  );
}

function GlassFound({ kit, out }: { kit: KitView; out: GlassOut }) {
  const { glass } = out;
  const [into, setInto] = useState("");
  const [name, setName] = useState("");
  const rounded = Math.max(0.01, Math.round(glass.stops * 100) / 100);
  const filter = kit.filters.find(({ thing }) => thing.id === into);
  const put = useMutation({
    mutationFn: () => {
      const colour = Math.max(...glass.band_stops) - Math.min(...glass.band_stops) > 0.3;
      const bands = glass.band_stops.map((band) => Math.max(0, Math.round(band * 100) / 100));
      if (filter)
        return kitApi.changeThing("filters", filter.thing.id, {
          revision: filter.revision,
          thing: { stops: rounded, ...(filter.thing.kind === "colour" ? { band_stops: bands } : {}) },
        });
      const thing = {
        name,
        kind: colour ? "colour" : "nd",
        stops: rounded,
        fits: [],
        ...(colour ? { band_stops: bands } : {}),
      };
      return kitApi.addThing("filters", slug(name), { thing, keeping: { ready: 0, where: "", note: "" } });
    },
    onSuccess: changed.kit,
  });
  const share = (value: number) => `${value >= 0 ? "+" : "\u2212"}${Math.abs(value * 100).toFixed(1)}\u202f%`;
  return (
    <div data-testid="glass-found">
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">What the filter is</h3>
      <p className="flex items-baseline gap-3 py-1">
        <strong className="big-figure">{glass.stops.toFixed(2)}</strong> stops{" "}
        <span className="text-muted">
          ±{"\u202f"}
          {Math.max(0.01, glass.error_stops).toFixed(2)}
        </span>
      </p>
      <table className="w-full text-small">
        <tbody>
          {(["red", "green", "blue"] as const).map((band, index) => (
            <tr key={band} className="border-hair border-b">
              <td className="w-[110px] py-[4px] text-muted">{band}</td>
              <td className="w-16 text-right font-bold">{(glass.band_stops[index] ?? 0).toFixed(2)}</td>
              <td className="pl-1">stops</td>
              <td className="w-[50%]">
                <span
                  className="block h-[7px] bg-deep"
                  style={{
                    width: `${Math.min(100, Math.max(0, ((glass.band_stops[index] ?? 0) / Math.max(...glass.band_stops, 0.1)) * 100))}%`,
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-2 text-small">
        Against green, red comes out {share(glass.red_shift)} and blue {share(glass.blue_shift)}. From the
        densest to the thinnest part of the frame {glass.uneven_stops.toFixed(2)} stops.
      </p>
      {!out.exposure_known && glass.exposure_stops === 0 && (
        <p className="mt-1 border-note border-l-3 pl-3 text-small">
          The files do not say how they were exposed: both were taken as exposed alike.
        </p>
      )}
      {glass.exposure_stops !== 0 && (
        <p className="text-small text-muted">
          Counted with {stops(glass.exposure_stops)} stops more exposure behind it.
        </p>
      )}
      {glass.doubts.map((doubt) => (
        <p key={doubt} className="mt-1 border-note border-l-3 pl-3 text-small">
          {doubt}
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-2 pt-3 text-small">
        <label className="text-muted">
          into{" "}
          <select
            className="min-h-8 border-muted border-b text-ink"
            aria-label="Filter that was measured"
            value={into}
            onChange={(event) => {
              setInto(event.target.value);
              put.reset();
            }}
          >
            <option value="">a new filter</option>
            {kit.filters.map(({ thing }) => (
              <option key={thing.id} value={thing.id}>
                {thing.name}, {withUnit(thing.stops, "stops")}
              </option>
            ))}
          </select>
        </label>
        {!filter && (
          <span className="w-44">
            <input
              className="field"
              aria-label="Name of the new filter"
              placeholder="its name"
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </span>
        )}
        <button
          type="button"
          className="bold-plain disabled:opacity-45"
          disabled={(!filter && !name.trim()) || put.isPending || put.isSuccess}
          onClick={() => put.mutate()}
        >
          Put it into the kit
        </button>
        {put.isSuccess && (
          <span role="status">
            It is in the kit.{" "}
            <Link className="underline" to="/kit/filters">
              See the filters
            </Link>
          </span>
        )}
        <Refusal error={put.error} />
      </div>
    </div>
  );
}
