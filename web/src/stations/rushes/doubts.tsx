// Why a measure is missing, or is not to be trusted.
import { Heading } from "./heading";

export function Doubts({ clip }: { clip: { doubts: { field: string; why: string }[] } }) {
  if (clip.doubts.length === 0) return null;
  return (
    <section aria-label="In doubt">
      <Heading says="In doubt" />
      <ul className="pt-1 text-small text-muted leading-[1.45]">
        {clip.doubts.map((doubt) => (
          <li key={`${doubt.field} ${doubt.why}`} className="py-[2px]">
            {WORDS[doubt.field] ?? doubt.field.split(".").at(-1)?.replaceAll("_", " ")}: {doubt.why}.
          </li>
        ))}
      </ul>
    </section>
  );
}

const WORDS: Record<string, string> = {
  "noise.snr_grey": "Noise",
  "noise.by_level": "Noise over levels",
  "motion.shutter_share": "Shutter",
  "sharpness.edge_px": "Focus",
  "sharpness.blur_px": "Smear",
  "sharpness.focus_drift_px": "Focus over time",
  "horizon.tilt_deg": "Horizon",
  "haze.spots": "Spots on the lens",
  "exposure.median_stops": "Exposure",
  "exposure.drift_stops": "Wandering light",
  "cadence.repeated_share": "Repeated frames",
  frames_measured: "Frames",
  frame_rate: "Frame rate",
  motion: "Movement",
  flicker: "Pulsing lamps",
  colour: "Colour",
  sound: "Sound",
  seconds: "Length",
};
