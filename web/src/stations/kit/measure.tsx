// Measuring: short guided tests that put one's own numbers in the place of estimates.
import { useMutation, useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import {
  api,
  type Curve,
  type GlassOut,
  type GreyStep,
  type KitView,
  kitChanged,
  type NoiseMeasured,
  Problem,
} from "../../api/client";
import { stops, withUnit } from "../../app/words";
import { NoiseCurve } from "../../instruments/noise-curve";
import { readNumber } from "../../parts/fields";
import { FileButton } from "../../parts/file-button";
import { shownNumber } from "./estimates";
import { slug } from "./kinds";

const TESTS = [
  ["noise", "Noise"],
  ["glass", "Density of a filter"],
  ["others", "Others"],
] as const;

export default function Measure({ kit }: { kit: KitView }) {
  const { what = "noise" } = useParams();
  useEffect(() => {
    document.title = "Measure it · Kit · Steady Tide";
  }, []);
  return (
    <section className="min-w-0 px-7 py-5" aria-label="Measure it">
      <h2 className="font-serif text-[26px] font-semibold">Measure it</h2>
      <nav aria-label="Tests" className="flex flex-wrap gap-x-5 border-hair border-b pt-1">
        {TESTS.map(([id, says]) => (
          <Link
            key={id}
            to={`/kit/measure/${id}`}
            aria-current={what === id ? "page" : undefined}
            className={`border-b-2 py-[5px] text-[14px] ${what === id ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
          >
            {says}
          </Link>
        ))}
      </nav>
      {what === "noise" && <Noise kit={kit} />}
      {what === "glass" && <Glass kit={kit} />}
      {what === "others" && <Others />}
    </section>
  );
}

function Refusal({ error }: { error: Error | null }) {
  if (!error) return null;
  const faults = error instanceof Problem ? error.faults : [];
  return (
    <div role="alert" className="mt-2 max-w-[70ch] border-note border-l-3 pl-3 text-[13px]">
      {faults.length === 0 && <b className="text-note">{error.message}</b>}
      {faults.map((fault) => (
        <p key={`${fault.where} ${fault.what}`}>
          <b className="text-note">
            {fault.where} {fault.what}.
          </b>{" "}
          {fault.mend}
        </p>
      ))}
    </div>
  );
}

function How({ children }: { children: ReactNode }) {
  return (
    <ol className="max-w-[66ch] list-decimal py-3 pl-5 leading-[1.5] marker:font-serif marker:font-semibold">
      {children}
    </ol>
  );
}

function CurveChoice({ curve, onChange }: { curve: Curve; onChange: (curve: Curve) => void }) {
  return (
    <label className="text-[13px] text-muted">
      curve of the files{" "}
      <select
        className="min-h-7 border-muted border-b text-ink"
        value={curve}
        onChange={(event) => onChange(event.target.value as Curve)}
      >
        <option value="usual">the usual of such files</option>
        <option value="linear">none, raw</option>
        <option value="srgb">sRGB, most stills</option>
        <option value="rec709">BT.709, most clips</option>
      </select>
    </label>
  );
}

function Noise({ kit }: { kit: KitView }) {
  const [steps, setSteps] = useState<GreyStep[]>([]);
  const [curve, setCurve] = useState<Curve>("usual");
  const [iso, setIso] = useState("");
  const [problem, setProblem] = useState<Error | null>(null);
  const [busy, setBusy] = useState<{ done: number; of: number } | null>(null);
  const [truth, setTruth] = useState<[number, number] | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const fit = useMutation({ mutationFn: (all: GreyStep[]) => api.fitNoise(all) });
  const taken = (all: GreyStep[]) => {
    setSteps(all);
    if (all.length >= 3) fit.mutate(all);
    else fit.reset();
  };
  const add = async (files: File[]) => {
    if (files.length === 0) return;
    setProblem(null);
    if (truth) {
      // What was simulated must not stand there as if it were measured.
      setTruth(null);
      setSteps([]);
    }
    fit.reset();
    const typed = iso.trim() ? Math.round(readNumber(iso) ?? 0) : undefined;
    let all = truth ? [] : steps;
    // Frames of one ISO belong in one call: their differences are the noise.
    const groups = new Map<string, File[]>();
    for (const file of files) {
      const of = typed ? "typed" : (file.name.match(/iso[ _-]?(\d{2,6})/i)?.[1] ?? "unsaid");
      groups.set(of, [...(groups.get(of) ?? []), file]);
    }
    let done = 0;
    for (const [, group] of groups) {
      setBusy({ done, of: files.length });
      try {
        const found = await api.greySteps(group, { ...(typed ? { iso: typed } : {}), transfer: curve });
        all = [...all.filter((step) => !found.some((other) => other.iso === step.iso)), ...found].sort(
          (a, b) => a.iso - b.iso,
        );
      } catch (error) {
        setProblem(error as Error);
      }
      done += group.length;
    }
    setBusy(null);
    setIso("");
    taken(all);
  };
  const sample = useMutation({
    mutationFn: api.sampleLadder,
    onSuccess: (ladder) => {
      setProblem(null);
      setTruth([ladder.true_read_noise_e, ladder.true_full_well_e]);
      taken(ladder.steps);
    },
    onError: setProblem,
  });
  return (
    <div className="grid gap-x-10 xl:grid-cols-[minmax(0,1fr)_minmax(0,470px)]">
      <div className="min-w-0">
        <How>
          <li>Light a grey card evenly, and fill the middle of the frame with it, a little out of focus.</li>
          <li>
            Lock the white balance. Begin at the lowest ISO with the card at middle grey; stand on a tripod.
          </li>
          <li>
            Double the ISO and halve the shutter time each step, so that the card stays as bright. Keep two
            frames or a second of film at each of three ISO or more, noise reduction and sharpness at their
            lowest.
          </li>
          <li>Name the files so that the ISO stands in them, such as card-iso800-1.png, or type it here.</li>
        </How>
        <p className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <input
            ref={input}
            type="file"
            multiple
            className="sr-only"
            tabIndex={-1}
            aria-label="Frames of the card"
            accept="image/*,video/*"
            onChange={(event) => {
              const files = [...(event.target.files ?? [])];
              event.target.value = "";
              void add(files);
            }}
          />
          <button
            type="button"
            className="bold-plain"
            disabled={busy !== null}
            onClick={() => input.current?.click()}
          >
            Add frames
          </button>
          <label className="text-[13px] text-muted">
            ISO{" "}
            <input
              className="w-16 border-muted border-b bg-transparent text-[15px] text-ink"
              inputMode="numeric"
              aria-label="ISO of the next frames"
              placeholder="by name"
              value={iso}
              onChange={(event) => setIso(event.target.value)}
            />
          </label>
          <CurveChoice curve={curve} onChange={setCurve} />
        </p>
        {busy && (
          <p role="status" className="pt-2 text-[13px]">
            Measuring {busy.done} of {busy.of}{" "}
            <progress className="h-2 w-32" value={busy.done} max={busy.of} aria-label="Frames measured" />
          </p>
        )}
        <Refusal error={problem} />
        {steps.length > 0 ? (
          <table className="mt-4 w-full text-left text-[13px]">
            <thead>
              <tr className="border-ink border-b text-muted [&>th]:font-normal">
                <th>ISO</th>
                <th>frames</th>
                <th>card, of white</th>
                <th>signal : noise</th>
                <th>
                  <span className="sr-only">take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {steps.map((step) => (
                <tr key={step.iso} className="border-hair border-b [&>td]:py-[4px]">
                  <td className="font-bold">{step.iso}</td>
                  <td>{step.by_difference ? step.frames : "1, less sure"}</td>
                  <td>
                    {(step.level * 100).toFixed(1)}
                    {"\u202f"}%
                  </td>
                  <td>
                    {step.variance > 0 ? (step.level / Math.sqrt(step.variance)).toFixed(1) : "no noise"}
                  </td>
                  <td className="text-right">
                    <button
                      type="button"
                      className="min-h-6 underline"
                      aria-label={`Take ISO ${step.iso} out`}
                      onClick={() => taken(steps.filter((other) => other.iso !== step.iso))}
                    >
                      take out
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : (
          <p className="pt-4 text-[13px] text-muted">
            No frame yet.{" "}
            <button
              type="button"
              className="min-h-6 underline"
              disabled={sample.isPending}
              onClick={() => sample.mutate()}
            >
              {sample.isPending ? "filming" : "See it with a simulated camera first"}
            </button>
          </p>
        )}
      </div>
      <div className="min-w-0 pt-3">
        <Refusal error={fit.error} />
        {steps.length > 0 && steps.length < 3 && (
          <p className="text-muted">Three ISO at least, two stops apart, give a curve.</p>
        )}
        {fit.data && <NoiseFound found={fit.data} truth={truth} />}
        {fit.data && <PutIntoCamera kit={kit} found={fit.data} simulated={truth !== null} />}
      </div>
    </div>
  );
}

function NoiseFound({ found, truth }: { found: NoiseMeasured; truth: [number, number] | null }) {
  const rows: [string, number, number, number | undefined][] = [
    ["read noise", found.read_noise_e, found.read_noise_error_e, truth?.[0]],
    ["full well", found.full_well_e, found.full_well_error_e, truth?.[1]],
  ];
  return (
    <div data-testid="noise-found">
      <h3 className="border-ink border-b pb-1 font-serif text-[17px] font-semibold">What the sensor is</h3>
      <table className="w-full">
        <tbody>
          {rows.map(([says, value, error, true_]) => (
            <tr key={says} className="border-hair border-b align-baseline">
              <td className="w-[110px] py-[5px] text-muted">{says}</td>
              <td>
                <b className="text-[22px]">{shownNumber(value)}</b>
                {"\u202f"}e⁻{" "}
                <span className="text-muted">
                  ±{"\u202f"}
                  {Number(error.toPrecision(2))}
                </span>
              </td>
              <td className="text-right text-[13px] text-muted">
                {true_ !== undefined && `truly ${shownNumber(true_)}\u202fe⁻`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <NoiseCurve found={found} />
      <p className="text-[12.5px] text-muted">
        Rings are what was measured, the line is what was fitted; they differ by{" "}
        {(found.misfit * 100).toFixed(0)}
        {"\u202f"}% at most. The card left {shownNumber(found.card_electrons)}
        {"\u202f"}e⁻ in a photosite at ISO {found.base_iso}. Source: photon-transfer.
      </p>
      {found.doubts.map((doubt) => (
        <p key={doubt.code} className="mt-1 border-note border-l-3 pl-3 text-[13px]">
          {doubt.text}
        </p>
      ))}
    </div>
  );
}

function PutIntoCamera(props: { kit: KitView; found: NoiseMeasured; simulated: boolean }) {
  const { kit, found, simulated } = props;
  const [camera, setCamera] = useState("");
  const [lens, setLens] = useState("");
  const sheet = useQuery({
    queryKey: ["kit", "sheet", camera],
    queryFn: () => api.sheet(camera),
    enabled: camera !== "",
  });
  const lenses = sheet.data?.lenses ?? [];
  const put = useMutation({
    mutationFn: () =>
      api.putMeasured(camera, {
        made_on: sheet.data?.edition ?? 1,
        lens: lens || (lenses[0]?.id ?? ""),
        read_noise_e: found.read_noise_e,
        full_well_e: found.full_well_e,
      }),
    onSuccess: kitChanged,
  });
  if (simulated)
    return (
      <p className="pt-3 text-[13px] text-muted">
        This camera is simulated, so its numbers go into no sheet. Add frames of your own to begin anew.
      </p>
    );
  return (
    <div className="flex flex-wrap items-center gap-2 pt-3 text-[13px]">
      <label className="text-muted">
        into{" "}
        <select
          className="min-h-8 border-muted border-b text-ink"
          aria-label="Camera that was measured"
          value={camera}
          onChange={(event) => {
            setCamera(event.target.value);
            setLens("");
            put.reset();
          }}
        >
          <option value="">which camera?</option>
          {kit.cameras.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
            </option>
          ))}
        </select>
      </label>
      {lenses.length > 1 && (
        <select
          className="min-h-8 border-muted border-b"
          aria-label="Lens that was measured"
          value={lens}
          onChange={(event) => setLens(event.target.value)}
        >
          {lenses.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
            </option>
          ))}
        </select>
      )}
      <button
        type="button"
        className="bold-plain disabled:opacity-45"
        disabled={!sheet.data || put.isPending || put.isSuccess}
        onClick={() => put.mutate()}
      >
        Put it into the sheet
      </button>
      {put.data && (
        <span role="status">
          It stands in edition {put.data.edition}.{" "}
          <Link className="underline" to={`/kit/cameras/${camera}`}>
            See the sheet
          </Link>
        </span>
      )}
      <Refusal error={put.error} />
    </div>
  );
}

function Glass({ kit }: { kit: KitView }) {
  const [files, setFiles] = useState<{ with?: File; without?: File }>({});
  const [between, setBetween] = useState("");
  const [curve, setCurve] = useState<Curve>("usual");
  const measure = useMutation({
    mutationFn: () => {
      const stopsBetween = between.trim() ? readNumber(between) : null;
      return api.measureGlass(files.with as File, files.without as File, {
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
          <li>Lock shutter, ISO and white balance. Take one frame without the glass.</li>
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
                label={which === "with" ? "Frame with the glass" : "Frame without it"}
                accept="image/*,video/*"
                says={which === "with" ? "With the glass" : "Without it"}
                busy={measure.isPending}
                onFile={(file) => {
                  measure.reset();
                  setFiles((now) => ({ ...now, [which]: file }));
                }}
              />
              <span className="text-[13px] text-muted">{files[which]?.name ?? "no frame yet"}</span>
            </span>
          ))}
        </p>
        <p className="flex flex-wrap items-center gap-x-5 gap-y-2 pt-3 text-[13px] text-muted">
          <label>
            with the glass opened up by{" "}
            <input
              className="w-20 border-muted border-b bg-transparent text-[15px] text-ink"
              aria-label="Stops opened up with the glass"
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
        {wrong && <p className="text-[12.5px] text-note">Give a number of stops.</p>}
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
      const keeping = filter?.keeping ?? { ready: 0, where: "", note: "" };
      const thing = filter
        ? {
            ...filter.thing,
            stops: rounded,
            ...(filter.thing.kind === "colour" ? { band_stops: bands } : {}),
          }
        : {
            name,
            kind: colour ? "colour" : "nd",
            stops: rounded,
            fits: [],
            ...(colour ? { band_stops: bands } : {}),
          };
      return api.putThing("filters", filter?.thing.id ?? slug(name), { thing, keeping }, !filter);
    },
    onSuccess: kitChanged,
  });
  const share = (value: number) => `${value >= 0 ? "+" : "\u2212"}${Math.abs(value * 100).toFixed(1)}\u202f%`;
  return (
    <div data-testid="glass-found">
      <h3 className="border-ink border-b pb-1 font-serif text-[17px] font-semibold">What the glass is</h3>
      <p className="flex items-baseline gap-3 py-1">
        <strong className="big-figure">{glass.stops.toFixed(2)}</strong> stops{" "}
        <span className="text-muted">
          ±{"\u202f"}
          {glass.error_stops.toFixed(2)}
        </span>
      </p>
      <table className="w-full text-[13px]">
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
      <p className="pt-2 text-[13px]">
        Against green, red comes out {share(glass.red_shift)} and blue {share(glass.blue_shift)}. From the
        densest to the thinnest part of the frame {glass.uneven_stops.toFixed(2)} stops.
      </p>
      {!out.exposure_known && glass.exposure_stops === 0 && (
        <p className="mt-1 border-note border-l-3 pl-3 text-[13px]">
          The files do not say how they were exposed: both were taken as exposed alike.
        </p>
      )}
      {glass.exposure_stops !== 0 && (
        <p className="text-[13px] text-muted">
          Counted with {stops(glass.exposure_stops)} stops more exposure behind it.
        </p>
      )}
      {glass.doubts.map((doubt) => (
        <p key={doubt} className="mt-1 border-note border-l-3 pl-3 text-[13px]">
          {doubt}
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-2 pt-3 text-[13px]">
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
          <input
            className="field w-44"
            aria-label="Name of the new filter"
            placeholder="its name"
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
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

/** Tests that have their place, but are still done by hand. */
function Others() {
  const tests = [
    [
      "A charge",
      "Charge it full, record in one mode until it stops, and time it. Write the hours under “From the box” in the sheet.",
    ],
    [
      "Gigabytes a minute",
      "Drop a clip of each mode into the sheet's first page: the bit rates are read from it.",
    ],
    [
      "Readout",
      "Pan past an upright edge at a steady pace: its lean in pixels, over the pan's pixels a second, is the readout. Write it under “Lenses and sensors”.",
    ],
    [
      "Crop of steadying",
      "Film one scene with and without steadying: the width that is left, as a share, goes under “Steadying”.",
    ],
  ];
  return (
    <>
      <p className="max-w-[66ch] py-3">
        These are still worked out by hand; each has its field in the sheet, and a number that you write there
        is no estimate any more.
      </p>
      <dl className="max-w-[760px]">
        {tests.map(([says, how]) => (
          <div
            key={says}
            className="grid grid-cols-[150px_minmax(0,1fr)] border-hair border-b py-[7px] max-sm:grid-cols-1"
          >
            <dt className="font-bold">{says}</dt>
            <dd>{how}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
