// Presets: what to store before leaving, what to lay on the buttons, and what is left to turn between shots.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { dayApi, dayAskedQuery, presetsQuery } from "../../api/day";
import { changed } from "../../api/keys";
import type { DayAsked, PresetPlan, Shoot } from "../../api/types";
import { Met } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";
import { Loading } from "../../parts/loading";
import { Named } from "../../parts/named";
import { Trouble } from "../../parts/trouble";

export default function Presets({ shoot }: { shoot: Shoot }) {
  const presets = useQuery(presetsQuery(shoot.id));
  const asked = useQuery(dayAskedQuery(shoot.id));
  const error = (!presets.data && presets.error) || (!asked.data && asked.error);
  if (error)
    return (
      <Trouble
        error={error}
        retry={() => {
          void presets.refetch();
          void asked.refetch();
        }}
      />
    );
  if (!presets.data || !asked.data) return <Loading what="Working out presets." className="py-4" />;
  if (presets.data.total === 0) return <p className="py-4 text-muted">No shot has a plan yet.</p>;
  return <Counted shoot={shoot} plans={presets.data.items} asked={asked.data} />;
}

type CountedProps = { shoot: Shoot; plans: PresetPlan[]; asked: DayAsked };

function Counted({ shoot, plans, asked }: CountedProps) {
  // Names are kept with the day's rules.
  const { engine, now, say } = useChanges({
    place: `preset names.${shoot.id}`,
    shown: { preset_names: asked.rules.preset_names ?? [] },
    revision: asked.revision,
    send: (revision, change) => dayApi.changeRules(shoot.id, revision, change),
    reread: () => Promise.all([changed.rules(shoot.id), changed.presetNames(shoot.id)]),
  });
  const is = (camera: string, shot: string) => (entry: { camera: string; shot: string }) =>
    entry.camera === camera && entry.shot === shot;
  /** An empty name is the shot's again. */
  const rename = (camera: string, shot: string, name: string) => {
    const others = now.preset_names.filter((entry) => !is(camera, shot)(entry));
    void say({ preset_names: name && name !== shot ? [...others, { camera, shot, name }] : others });
  };
  return (
    <>
      <p className="empty:hidden">
        <Met engine={engine} />
      </p>
      {plans.map((plan) => (
        <OfCamera
          key={plan.camera}
          plan={plan}
          nameOf={({ shot, name }) => now.preset_names.find(is(plan.camera, shot))?.name ?? name}
          rename={(shot, name) => rename(plan.camera, shot, name)}
        />
      ))}
      <p className="max-w-[640px] pt-5 text-fine text-muted">
        A preset holds the settings of one of the shots. Taps are counted by the camera’s sheet: to open and
        leave the menu, to turn its pages, to open an entry and choose a value. The choice is the one with the
        fewest taps of all, then the fewest presets.
      </p>
    </>
  );
}

type OfCameraProps = {
  plan: PresetPlan;
  /** As it was said last. */
  nameOf: (preset: PresetPlan["presets"][number]) => string;
  rename: (shot: string, name: string) => void;
};

function OfCamera({ plan, nameOf, rename }: OfCameraProps) {
  return (
    <section aria-label={plan.name} className="pt-4">
      <h3 className="flex flex-wrap items-baseline gap-x-4 border-ink border-b pb-1">
        <span className="font-serif text-title font-semibold">{plan.name}</span>
        <span className="text-small text-muted">
          <b className="text-lead text-ink">{plan.taps} taps</b> through the day, {plan.taps_by_menu} by the
          menu alone{plan.proven ? "" : "; the best found in ten seconds"}
        </span>
      </h3>
      <div className="grid grid-cols-[280px_minmax(0,1fr)] gap-x-8 max-xl:grid-cols-1">
        <div className="pt-2">
          <p className="text-fine text-muted">
            {plan.presets.length ? "store" : "This camera stores no presets that would help."}
          </p>
          <ol>
            {plan.presets.map((preset) => (
              <li key={preset.number} className="flex items-baseline gap-3 border-hair border-b py-[5px]">
                <b className="w-5 font-serif text-title">{preset.number}</b>
                <Named
                  value={nameOf(preset)}
                  label={`Name of preset ${preset.number} of ${plan.name}`}
                  keep={(name) => rename(preset.shot, name)}
                />
              </li>
            ))}
          </ol>
          {plan.quick.length > 0 && (
            <>
              <p className="pt-3 text-fine text-muted">assign to a button</p>
              <ul>
                {plan.quick.map((dial) => (
                  <li key={dial} className="border-hair border-b py-[5px] font-bold">
                    {plan.labels[dial]}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="text-fine text-muted [&>th]:pt-2 [&>th]:pb-1 [&>th]:font-normal">
              <th className="w-[210px]">shot</th>
              <th className="w-[104px]">begin from</th>
              <th>change</th>
              <th className="w-[44px] text-right">taps</th>
            </tr>
          </thead>
          <tbody>
            {plan.steps.map((step, n) => (
              <tr key={step.key} className="border-hair border-t align-baseline [&>td]:py-[6px]">
                <td className="pr-3">
                  <Link to={`/shots/${step.key}/card`} className="font-bold">
                    {step.title}
                  </Link>
                </td>
                <td className="pr-3">
                  {step.preset !== null ? `preset ${step.preset}` : n === 0 ? "scratch" : "the shot before"}
                </td>
                <td className="pr-3">
                  {step.changes.length === 0
                    ? "nothing"
                    : step.changes.map((change, at) => (
                        <span key={change.dial}>
                          {at > 0 && ", "}
                          {plan.labels[change.dial]} <b>{change.value}</b>
                          {change.quick && <span className="text-fine text-muted"> by button</span>}
                        </span>
                      ))}
                </td>
                <td className="text-right font-bold">{step.taps}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
