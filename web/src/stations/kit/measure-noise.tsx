// A sensor's noise from frames of a grey card at rising ISO.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changed } from "../../api/keys";
import { kitApi, sheetQuery } from "../../api/kit";
import type { Curve, GreyStep, KitView, NoiseMeasured } from "../../api/types";
import { NoiseCurve } from "../../instruments/noise-curve";
import { FileButton } from "../../parts/file-button";
import { readNumber } from "../../parts/reading";
import { shownNumber } from "./estimates";
import { CurveChoice, How, Refusal } from "./measure-parts";

/** Frames that the service measures at once; an even number, so that pairs stay together. */
const AT_ONCE = 8;

export function Noise({ kit }: { kit: KitView }) {
  const [steps, setSteps] = useState<GreyStep[]>([]);
  const [curve, setCurve] = useState<Curve>("usual");
  const [iso, setIso] = useState("");
  const [problem, setProblem] = useState<Error | null>(null);
  const [busy, setBusy] = useState<{ done: number; of: number } | null>(null);
  const [truth, setTruth] = useState<[number, number] | null>(null);
  const fit = useMutation({ mutationFn: (all: GreyStep[]) => kitApi.fitNoise(all) });
  const taken = (all: GreyStep[]) => {
    setSteps(all);
    if (all.length >= 3) fit.mutate(all);
    else fit.reset();
  };
  const add = async (files: File[]) => {
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
    const parts = [...groups.values()].flatMap((group) =>
      Array.from({ length: Math.ceil(group.length / AT_ONCE) }, (_, n) =>
        group.slice(n * AT_ONCE, (n + 1) * AT_ONCE),
      ),
    );
    let done = 0;
    for (const group of parts) {
      setBusy({ done, of: files.length });
      try {
        const found = await kitApi.greySteps(group, { ...(typed ? { iso: typed } : {}), transfer: curve });
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
    mutationFn: kitApi.sampleLadder,
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
          <FileButton
            label="Frames of the card"
            accept="image/*,video/*"
            says="Add frames"
            strong
            busy={busy !== null}
            onFiles={(files) => void add(files)}
          />
          <label className="text-small text-muted">
            ISO{" "}
            <input
              className="w-16 border-muted border-b bg-transparent text-body text-ink"
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
          <p role="status" className="pt-2 text-small">
            Measuring {busy.done} of {busy.of}{" "}
            <progress className="h-2 w-32" value={busy.done} max={busy.of} aria-label="Frames measured" />
          </p>
        )}
        <Refusal error={problem} />
        {steps.length > 0 ? (
          <table className="mt-4 w-full text-left text-small">
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
                      className="min-h-[24px] underline"
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
          <p className="pt-4 text-small text-muted">
            No frame yet.{" "}
            <button
              type="button"
              className="min-h-[24px] underline"
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
      <h3 className="border-ink border-b pb-1 font-serif text-lead font-semibold">What the sensor is</h3>
      <table className="w-full">
        <tbody>
          {rows.map(([says, value, error, true_]) => (
            <tr key={says} className="border-hair border-b align-baseline">
              <td className="w-[110px] py-[5px] text-muted">{says}</td>
              <td>
                <b className="text-title">{shownNumber(value)}</b>
                {"\u202f"}e⁻{" "}
                <span className="text-muted">
                  ±{"\u202f"}
                  {Number(error.toPrecision(2))}
                </span>
              </td>
              <td className="text-right text-small text-muted">
                {true_ !== undefined && `truly ${shownNumber(true_)}\u202fe⁻`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <NoiseCurve found={found} />
      <p className="text-fine text-muted">
        Rings are what was measured, the line is what was fitted; they differ by{" "}
        {(found.misfit * 100).toFixed(0)}
        {"\u202f"}% at most. The card left {shownNumber(found.card_electrons)}
        {"\u202f"}e⁻ in a photosite at ISO {found.base_iso}. Source: photon-transfer.
      </p>
      {found.doubts.map((doubt) => (
        <p key={doubt.code} className="mt-1 border-note border-l-3 pl-3 text-small">
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
  const sheet = useQuery({ ...sheetQuery(camera), enabled: camera !== "" });
  const lenses = sheet.data?.lenses ?? [];
  const put = useMutation({
    mutationFn: () =>
      kitApi.putMeasured(camera, {
        made_on: sheet.data?.edition ?? 1,
        lens: lens || (lenses[0]?.id ?? ""),
        read_noise_e: found.read_noise_e,
        full_well_e: found.full_well_e,
      }),
    onSuccess: changed.kit,
  });
  if (simulated)
    return (
      <p className="pt-3 text-small text-muted">
        This camera is simulated, so its numbers go into no sheet. Add frames of your own to begin anew.
      </p>
    );
  return (
    <div className="flex flex-wrap items-center gap-2 pt-3 text-small">
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
