// The editors behind the words of the sentence: one for each token.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { benchApi } from "../../api/bench";
import { type Brief, type Instruments, isShot, type Vocabulary } from "../../api/types";
import { Choice, DurationField, NumberField, RangeField, TextField, Tick } from "../../parts/fields";
import { PersonField } from "../../parts/person-field";
import { durationText } from "../../parts/reading";
import { plainNumber } from "../../parts/words";
import { MomentField } from "./moment-field";
import { localTime, momentOf, skyOf } from "./when";

export type Change = (update: (brief: Brief) => Brief, tag?: string | null) => void;
export type Day = { zone: string; day: string | null; latitude: number | null; longitude: number | null };
export type EditorProps = {
  brief: Brief;
  change: Change;
  vocabulary: Vocabulary;
  /** What the service says of the light as it stands; null before the first answer. */
  instruments: Instruments | null;
  day: Day;
  /** When the shot begins, and how to say so; what the sky lights moves its light along. */
  starts_at: string | null;
  setStart: (at: string | null) => void;
};

export function StartEditor({ brief, day, starts_at, setStart }: EditorProps) {
  const sky = skyOf(brief.light) !== null;
  return (
    <div className="grid gap-3">
      <MomentField
        label={`The shot begins, ${day.zone}`}
        value={starts_at}
        day={day.day ?? localTime(new Date().toISOString(), day.zone).slice(0, 10)}
        zone={day.zone}
        autoFocus
        onChange={setStart}
      />
      {sky ? (
        <p className="text-fine text-muted">Its light is the sky’s, so it moves along.</p>
      ) : (
        starts_at !== null && (
          <button type="button" className="plain" onClick={() => setStart(null)}>
            No set time
          </button>
        )
      )}
    </div>
  );
}

export function TitleEditor({ brief, change }: EditorProps) {
  return (
    <TextField
      label="What is filmed"
      value={brief.title}
      autoFocus
      onChange={(title) => change((b) => ({ ...b, title }), "title")}
    />
  );
}

export function ScenarioEditor({ brief, change, vocabulary, day, starts_at }: EditorProps) {
  // What a brief becomes is the service's to say; the choice stands here while it is asked.
  const [asked, setAsked] = useState<string | null>(null);
  const turn = useMutation({
    mutationFn: (scenario: string) =>
      benchApi.turned(brief, scenario, {
        latitude: day.latitude,
        longitude: day.longitude,
        // Where it has no time yet: noon of its day.
        starts_at: starts_at ?? (day.day === null ? null : momentOf(`${day.day}T12:00`, day.zone)),
      }),
    onSuccess: (turned) => change(() => turned),
    onSettled: () => setAsked(null),
  });
  return (
    <>
      <Choice
        label="Kind of shot"
        value={asked ?? brief.scenario}
        options={vocabulary.scenarios.map(({ id, name, hint }) => ({ value: id, says: name, hint }))}
        onChange={(scenario) => {
          setAsked(scenario);
          turn.mutate(scenario);
        }}
      />
      {turn.error && (
        <p role="alert" className="pt-2 text-small text-note">
          {turn.error.message}
        </p>
      )}
    </>
  );
}

export function SubjectEditor({ brief, change, vocabulary }: EditorProps) {
  const subject = brief.subject;
  const set = (patch: Partial<Brief["subject"]>, tag: string) =>
    change((b) => ({ ...b, subject: { ...b.subject, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      <RangeField
        labels={["Nearest", "Farthest"]}
        unit="m"
        value={subject.distance_m as [number, number]}
        autoFocus
        onChange={(distance_m, tag) => set({ distance_m }, tag)}
      />
      <div className="flex gap-3">
        <NumberField
          label="Its size, if it matters"
          unit="m"
          value={subject.size_m ?? null}
          onChange={(size_m) => set({ size_m }, "size")}
          onClear={() => set({ size_m: null }, "size")}
        />
        <NumberField
          label="It should fill, of the width"
          unit="%"
          value={subject.fills == null ? null : Number((100 * subject.fills).toFixed(1))}
          onChange={(share) => share > 0 && share <= 200 && set({ fills: share / 100 }, "fills")}
          onClear={() => set({ fills: null }, "fills")}
        />
      </div>
      <div className="flex gap-3">
        <NumberField
          label="Its speed"
          unit="m/s"
          value={subject.speed_m_s}
          onChange={(speed_m_s) => set({ speed_m_s }, "speed")}
        />
      </div>
      <NumberField
        label="The moment lasts, if it comes without warning"
        unit="s"
        value={subject.event_s ?? null}
        onChange={(event_s) => set({ event_s }, "event")}
        onClear={() => set({ event_s: null }, "event")}
      />
      <Choice
        label="Its motion should look"
        value={subject.motion_look}
        options={vocabulary.options.motion_looks.map(({ id, name, hint }) => ({
          value: id as Brief["subject"]["motion_look"],
          says: name,
          hint: hint || undefined,
        }))}
        onChange={(motion_look) => set({ motion_look }, "look")}
      />
    </div>
  );
}

export function MountEditor({ brief, change, vocabulary }: EditorProps) {
  const move = brief.camera_move;
  const set = (patch: Partial<Brief["camera_move"]>, tag: string | null = null) =>
    change((b) => ({ ...b, camera_move: { ...b.camera_move, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      <div className="max-h-[330px] overflow-y-auto">
        <Choice
          label="The camera is held"
          value={move.mount}
          options={vocabulary.mounts.map((mount) => ({
            value: mount.id,
            says: mount.phrase,
            hint: mount.shake_deg_s ? `${plainNumber(mount.shake_deg_s)}\u00b0/s` : "still",
          }))}
          onChange={(mount) => set({ mount })}
        />
      </div>
      <div className="flex gap-3">
        <NumberField
          label="It travels at"
          unit="m/s"
          value={move.travel_m_s}
          onChange={(travel_m_s) => set({ travel_m_s }, "travel")}
        />
        <NumberField
          label="It pans at"
          unit="°/s"
          value={move.turn_deg_s}
          onChange={(turn_deg_s) => set({ turn_deg_s }, "turn")}
        />
      </div>
      <PersonField
        label="Whose hands"
        value={move.hands}
        people={vocabulary.people}
        onChange={(hands) => set({ hands })}
      />
      <Tick
        says="I film myself, and nobody looks at the frame"
        checked={move.self_framed}
        onChange={(self_framed) => set({ self_framed })}
      />
    </div>
  );
}

export function SoundEditor({ brief, change }: EditorProps) {
  const sound = brief.sound;
  return (
    <div className="grid gap-3">
      <Tick
        says="the sound is used"
        checked={sound.wanted}
        onChange={(wanted) => change((b) => ({ ...b, sound: { ...b.sound, wanted } }))}
      />
      {sound.wanted && (
        <Tick
          says="somebody speaks, and must be understood"
          checked={sound.voice}
          onChange={(voice) => change((b) => ({ ...b, sound: { ...b.sound, voice } }))}
        />
      )}
      <NumberField
        label="Wind"
        unit="m/s"
        value={sound.wind_m_s}
        autoFocus
        onChange={(wind_m_s) => change((b) => ({ ...b, sound: { ...b.sound, wind_m_s } }), "wind")}
      />
    </div>
  );
}

const LONGEST_TAKE_S = 172_800;

/** How long something lasts, as the sentence says it. */
export function durationWords(seconds: number): string {
  return durationText(Math.round(seconds * 10) / 10).replace(" ", "\u202f");
}

export function TakesEditor({ brief, change, vocabulary }: EditorProps) {
  const take = brief.take;
  const interval = isShot(brief, "interval", vocabulary);
  const set = (patch: Partial<Brief["take"]>, tag: string) =>
    change((b) => ({ ...b, take: { ...b.take, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      {/* How long an interval film runs has its own place in the sentence. */}
      {!interval && (
        <div className="flex gap-3">
          <DurationField
            label="A take lasts"
            unit="min"
            most={LONGEST_TAKE_S}
            value={take.length_s}
            autoFocus
            onChange={(length_s) => set({ length_s }, "length")}
          />
          <NumberField
            label="How many"
            unit=""
            value={take.count ?? null}
            onChange={(count) => set({ count: Math.round(count) }, "count")}
            onClear={() => set({ count: null }, "count")}
          />
        </div>
      )}
      <div className="flex gap-3">
        <NumberField
          label="Waiting, switched on"
          unit="min"
          value={take.standby_min}
          onChange={(standby_min) => set({ standby_min }, "standby")}
        />
        <NumberField
          label="Air"
          unit="°C"
          value={brief.air_c}
          onChange={(air_c) => change((b) => ({ ...b, air_c }), "air")}
        />
      </div>
      <p className="text-fine text-muted">
        {interval
          ? "They decide charge and heat."
          : "They decide charge, card and heat. Left open, short takes count three times and long ones once."}
      </p>
    </div>
  );
}

export function LapseEditor({ brief, change }: EditorProps) {
  const take = brief.take;
  const set = (patch: Partial<Brief["take"]>, tag: string) =>
    change((b) => ({ ...b, take: { ...b.take, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      <DurationField
        label="It runs for"
        unit="h"
        most={LONGEST_TAKE_S}
        value={take.length_s}
        autoFocus
        onChange={(length_s) => set({ length_s }, "length")}
      />
      <NumberField
        label="Wanted on the screen, if you know"
        unit="s"
        value={take.screen_s ?? null}
        onChange={(screen_s) => set({ screen_s }, "screen")}
        onClear={() => set({ screen_s: null }, "screen")}
      />
      <p className="text-fine text-muted">
        Left open, about twenty seconds are aimed at. The frame rate row shows what every interval would come
        to.
      </p>
    </div>
  );
}

const SIZES: [string, string][] = [
  ["3840x2160", "4K"],
  ["2560x1440", "1440"],
  ["1920x1080", "1080"],
  ["1080x1920", "upright 1080"],
];

export function TimelineEditor({ brief, change }: EditorProps) {
  const delivery = brief.delivery;
  const set = (patch: Partial<Brief["delivery"]>, tag: string | null = null) =>
    change((b) => ({ ...b, delivery: { ...b.delivery, ...patch } }), tag);
  const size = `${delivery.width}x${delivery.height}`;
  const sizes = SIZES.some(([value]) => value === size) ? SIZES : [...SIZES, [size, "as it is"] as const];
  const upright = delivery.reframe.includes("9:16");
  return (
    <div className="grid gap-3">
      <Choice
        label="Timeline"
        value={size}
        options={sizes.map(([value, says]) => ({ value, says, hint: value.replace("x", " \u00d7 ") }))}
        onChange={(value) => {
          const [width, height] = value.split("x").map(Number);
          set({ width, height });
        }}
      />
      <div className="flex gap-3">
        <NumberField
          label="Frame rate"
          unit="fps"
          value={delivery.fps}
          onChange={(fps) => set({ fps }, "fps")}
        />
        <Choice
          label="Mains here"
          value={brief.mains_hz}
          options={[
            { value: 50, says: "50 Hz" },
            { value: 60, says: "60 Hz" },
          ]}
          onChange={(mains_hz) => change((b) => ({ ...b, mains_hz: mains_hz as 50 | 60 }))}
        />
      </div>
      <div>
        <Tick
          says="an upright cut is taken from it, too"
          checked={upright}
          onChange={(on) => set({ reframe: on ? ["9:16"] : [] })}
        />
        <Tick
          says="software steadies it later"
          checked={delivery.stabilise_later}
          onChange={(stabilise_later) => set({ stabilise_later })}
        />
        <Tick
          says="edited on a phone"
          checked={delivery.edit_device === "phone"}
          onChange={(phone) => set({ edit_device: phone ? "phone" : "desktop" })}
        />
      </div>
    </div>
  );
}

export function SlowEditor({ brief, change }: EditorProps) {
  const delivery = brief.delivery;
  const event = brief.subject.event_s;
  const factor = delivery.slow_factor;
  const set = (slow_factor: number) =>
    change((b) => ({ ...b, delivery: { ...b.delivery, slow_factor } }), "slow");
  return (
    <div className="grid gap-2">
      <Choice
        label="Speed on the timeline"
        value={factor}
        options={[1, 2, 4, 8].map((value) => ({
          value,
          says: value === 1 ? "as it happens" : `slowed ${value}\u00d7`,
          hint: event
            ? `${plainNumber(event * value)} s on screen`
            : `${plainNumber(delivery.fps * value)} frames a second`,
        }))}
        onChange={set}
      />
      <NumberField label="Or any factor" unit="×" value={factor} onChange={set} />
    </div>
  );
}

export function GradeEditor({ brief, change }: EditorProps) {
  return (
    <Choice
      label="The picture"
      value={brief.delivery.graded}
      options={[
        { value: true, says: "is graded", hint: "flat and deep serve it" },
        { value: false, says: "is used straight from the camera", hint: "finished in the camera" },
      ]}
      onChange={(graded) =>
        change((b) => ({ ...b, delivery: { ...b.delivery, graded }, school: { ...b.school, colour: null } }))
      }
    />
  );
}
