// The editors behind the words of the sentence: one for each token.
import type { Brief, Vocabulary } from "../../api/client";
import { plainNumber } from "../../app/words";
import { Choice, NumberField, TextField, Tick } from "../../parts/fields";

export type Change = (update: (brief: Brief) => Brief, tag?: string | null) => void;
export type EditorProps = { brief: Brief; change: Change; vocabulary: Vocabulary; ev100: [number, number] };

export function TitleEditor({ brief, change }: EditorProps) {
  return (
    <TextField
      label="What is filmed"
      value={brief.title ?? ""}
      autoFocus
      onChange={(title) => change((b) => ({ ...b, title }), "title")}
    />
  );
}

const SCENARIOS: Record<string, [string, string]> = {
  everyday: ["everyday", "straight lines and calm motion count"],
  motion: ["in motion", "speed may smear and tilt"],
  low_light: ["in low light", "every part of the sensor counts"],
};

export function scenarioWords(scenario: string): string {
  return SCENARIOS[scenario]?.[0] ?? scenario;
}

export function ScenarioEditor({ brief, change, vocabulary }: EditorProps) {
  return (
    <Choice
      label="Kind of shot"
      value={brief.scenario ?? "everyday"}
      options={vocabulary.scenarios.map((value) => ({
        value,
        says: scenarioWords(value),
        hint: SCENARIOS[value]?.[1],
      }))}
      onChange={(scenario) => change((b) => ({ ...b, scenario: scenario as Brief["scenario"] }))}
    />
  );
}

export function SubjectEditor({ brief, change }: EditorProps) {
  const subject = brief.subject;
  const [near, far] = subject.distance_m ?? [2, 10];
  const set = (patch: Partial<Brief["subject"]>, tag: string) =>
    change((b) => ({ ...b, subject: { ...b.subject, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      <div className="flex gap-3">
        <NumberField
          label="Nearest"
          unit="m"
          value={near}
          autoFocus
          onChange={(value) => set({ distance_m: [value, far] }, "near")}
        />
        <NumberField
          label="Farthest"
          unit="m"
          value={far}
          onChange={(value) => set({ distance_m: [near, value] }, "far")}
        />
      </div>
      <div className="flex gap-3">
        <NumberField
          label="Its speed"
          unit="m/s"
          value={subject.speed_m_s ?? 0}
          onChange={(speed_m_s) => set({ speed_m_s }, "speed")}
        />
        <NumberField
          label="The event lasts"
          unit="s"
          value={subject.event_s ?? null}
          onChange={(event_s) => set({ event_s }, "event")}
          onClear={() => set({ event_s: null }, "event")}
        />
      </div>
      <Choice
        label="Its motion should look"
        value={subject.motion_look ?? "natural"}
        options={[
          { value: "natural", says: "natural" },
          { value: "frozen", says: "frozen", hint: "needs its speed" },
          { value: "streaked", says: "streaked" },
        ]}
        onChange={(motion_look) => set({ motion_look }, "look")}
      />
    </div>
  );
}

export function MountEditor({ brief, change, vocabulary }: EditorProps) {
  const move = brief.camera_move;
  return (
    <div className="grid gap-3">
      <div className="max-h-[330px] overflow-y-auto">
        <Choice
          label="The camera is held"
          value={move.mount ?? "two_hands"}
          options={vocabulary.mounts.map((mount) => ({
            value: mount.id,
            says: mount.phrase,
            hint: mount.shake_deg_s ? `${plainNumber(mount.shake_deg_s)}\u00b0/s` : "still",
          }))}
          onChange={(mount) => change((b) => ({ ...b, camera_move: { ...b.camera_move, mount } }))}
        />
      </div>
      <NumberField
        label="It travels at"
        unit="m/s"
        value={move.travel_m_s ?? 0}
        onChange={(travel_m_s) =>
          change((b) => ({ ...b, camera_move: { ...b.camera_move, travel_m_s } }), "travel")
        }
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
        checked={sound.wanted ?? true}
        onChange={(wanted) => change((b) => ({ ...b, sound: { ...b.sound, wanted } }))}
      />
      <div className="flex gap-3">
        <NumberField
          label="Wind"
          unit="m/s"
          value={sound.wind_m_s ?? 0}
          autoFocus
          onChange={(wind_m_s) => change((b) => ({ ...b, sound: { ...b.sound, wind_m_s } }), "wind")}
        />
        <NumberField
          label="Air"
          unit="°C"
          value={brief.air_c ?? 15}
          onChange={(air_c) => change((b) => ({ ...b, air_c }), "air")}
        />
      </div>
    </div>
  );
}

const SIZES: [string, string][] = [
  ["3840x2160", "4K"],
  ["2704x1520", "2.7K"],
  ["1920x1080", "1080"],
  ["1080x1920", "upright 1080"],
];

export function TimelineEditor({ brief, change }: EditorProps) {
  const delivery = brief.delivery;
  const set = (patch: Partial<Brief["delivery"]>, tag: string | null = null) =>
    change((b) => ({ ...b, delivery: { ...b.delivery, ...patch } }), tag);
  const size = `${delivery.width}x${delivery.height}`;
  const upright = (delivery.reframe ?? []).includes("9:16");
  return (
    <div className="grid gap-3">
      <Choice
        label="Timeline"
        value={size}
        options={SIZES.map(([value, says]) => ({ value, says, hint: value.replace("x", " \u00d7 ") }))}
        onChange={(value) => {
          const [width, height] = value.split("x").map(Number);
          set({ width, height });
        }}
      />
      <div className="flex gap-3">
        <NumberField
          label="Frame rate"
          unit="fps"
          value={delivery.fps ?? 25}
          onChange={(fps) => set({ fps }, "fps")}
        />
        <Choice
          label="Mains here"
          value={brief.mains_hz ?? 50}
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
          checked={delivery.stabilise_later ?? false}
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
  const factor = delivery.slow_factor ?? 1;
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
            : `${plainNumber((delivery.fps ?? 25) * value)} frames a second`,
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
      value={brief.delivery.graded ?? false}
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

type School = Brief["school"];
type Axis = {
  axis: Exclude<keyof School, "colour">;
  label: string;
  options: [string, string][];
  dark?: boolean;
};

export const SCHOOLS: Axis[] = [
  {
    axis: "shutter",
    label: "Shutter",
    options: [
      ["half_turn", "half-turn"],
      ["free", "left free"],
    ],
  },
  {
    axis: "noise",
    label: "Noise",
    options: [
      ["quiet", "quiet"],
      ["balanced", "balanced"],
      ["bright", "bright"],
      ["get_it", "get it"],
    ],
  },
  {
    axis: "dark_stabilisation",
    label: "Steadying in the dark",
    options: [
      ["keep", "keep"],
      ["drop", "drop"],
    ],
    dark: true,
  },
  {
    axis: "dark_profile",
    label: "Profile in the dark",
    options: [
      ["contrasty", "contrasty"],
      ["flat", "flat"],
    ],
    dark: true,
  },
  {
    axis: "white_balance",
    label: "White balance",
    options: [
      ["locked", "locked"],
      ["auto", "automatic"],
    ],
  },
  {
    axis: "view",
    label: "View",
    options: [
      ["natural", "natural"],
      ["widest", "widest"],
      ["any", "any"],
    ],
  },
  {
    axis: "resolution",
    label: "Resolution",
    options: [
      ["enough", "enough"],
      ["most", "most"],
    ],
  },
];

export function SchoolEditor({ brief, change }: EditorProps) {
  return (
    <div className="grid gap-2">
      {SCHOOLS.map(({ axis, label, options }) => (
        <fieldset key={axis} className="border-hair border-b pb-2">
          <legend className="pb-[2px] text-[12.5px] text-muted">{label}</legend>
          <div className="flex flex-wrap gap-1">
            {options.map(([value, says]) => (
              <label
                key={value}
                className="border border-rule px-[10px] py-[3px] hover:bg-second has-checked:border-2 has-checked:border-ink has-checked:font-bold has-focus-visible:outline-2 has-focus-visible:outline-note"
              >
                <input
                  type="radio"
                  className="sr-only"
                  name={`school-${axis}`}
                  checked={brief.school[axis] === value}
                  onChange={() => change((b) => ({ ...b, school: { ...b.school, [axis]: value } }))}
                />
                {says}
              </label>
            ))}
          </div>
        </fieldset>
      ))}
    </div>
  );
}

export function KitEditor({ brief, change, vocabulary }: EditorProps) {
  const taken = brief.kit.filters ?? null;
  const has = (id: string) => taken === null || taken.includes(id);
  const set = (filters: string[] | null) => change((b) => ({ ...b, kit: { ...b.kit, filters } }));
  const all = vocabulary.filters.map((filter) => filter.id);
  return (
    <div className="grid gap-2">
      <p className="text-[12.5px] text-muted">Glass that is taken along</p>
      {vocabulary.filters.map((filter) => (
        <Tick
          key={filter.id}
          says={`${filter.name}, ${plainNumber(filter.stops)} stops`}
          checked={has(filter.id)}
          onChange={(on) => {
            const next = all.filter((id) => (id === filter.id ? on : has(id)));
            set(next.length === all.length ? null : next);
          }}
        />
      ))}
      <div className="flex gap-2">
        <button type="button" className="plain" onClick={() => set(null)}>
          All
        </button>
        <button type="button" className="plain" onClick={() => set([])}>
          None
        </button>
      </div>
    </div>
  );
}
