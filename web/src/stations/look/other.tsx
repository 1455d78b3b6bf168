// The other plan: which ways there are to have one, and how each is told.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { recipesQuery } from "../../api/bench";
import { presetsQuery } from "../../api/day";
import { editionsQuery } from "../../api/kit";
import type { Side } from "../../api/look";
import { type Plan, pinsOf, type Shot, type Vocabulary, withPins } from "../../api/types";
import { Panel } from "../../parts/panel";
import { costsMore } from "../../parts/words";

/** Another plan of the shot, and what it is called in the sentence. */
export type Other = { says: string; side: Side };

type Props = {
  shot: Shot;
  plan: Plan;
  held: string | null;
  vocabulary: Vocabulary;
  other: Other | null;
  choose: (other: Other | null) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
};

export function OtherPlan({ open, onOpen, ...props }: Props) {
  return (
    <Panel
      label="The other plan"
      trigger={{ className: "token", "aria-label": `The other plan: ${props.other?.says ?? "none"}` }}
      says={props.other?.says ?? "no other plan"}
      open={open}
      onOpen={onOpen}
    >
      <Choices
        {...props}
        choose={(other) => {
          props.choose(other);
          onOpen(false);
        }}
      />
    </Panel>
  );
}

function Choices({ shot, plan, held, vocabulary, other, choose }: Omit<Props, "open" | "onOpen">) {
  const recipes = useQuery(recipesQuery(shot.id));
  const editions = useQuery(editionsQuery(plan.camera.id));
  const presets = useQuery(presetsQuery(shot.shoot_id));
  const stored = presets.data?.items.find((one) => one.camera === plan.camera.id)?.presets ?? [];
  const brief = shot.brief;
  const pins = pinsOf(brief);
  const other_cameras = plan.cameras.filter(
    (one) => one.id !== plan.camera.id && one.given_up_stops !== null,
  );
  const older = (editions.data?.items ?? []).filter((one) => one.edition !== plan.camera.edition);
  return (
    <div className="grid gap-4">
      <Pinned
        plan={plan}
        vocabulary={vocabulary}
        choose={(dial, value, says) =>
          choose({
            says,
            side: {
              brief: withPins(brief, { ...pins, camera: plan.camera.id, [dial]: value }),
              chosen: {},
              held,
            },
          })
        }
      />
      {plan.schools.length > 0 && (
        <List title="What others would do">
          {plan.schools.map((rival) => (
            <Choice
              key={rival.axis + rival.school}
              says={rival.name}
              cost={rival.given_up_stops - plan.given_up_stops}
              take={() =>
                choose({
                  says: rival.name,
                  side: { brief, chosen: { ...plan.chosen, ...rival.chosen }, held },
                })
              }
            />
          ))}
        </List>
      )}
      {other_cameras.length > 0 && (
        <List title="Another camera">
          {other_cameras.map((camera) => (
            <Choice
              key={camera.id}
              says={camera.name}
              cost={(camera.given_up_stops ?? 0) - plan.given_up_stops}
              take={() =>
                choose({ says: `the ${camera.name}`, side: { brief, chosen: { camera: camera.id }, held } })
              }
            />
          ))}
        </List>
      )}
      {(recipes.data?.items ?? []).length > 0 && (
        <List title="A way that is kept beside it">
          {recipes.data?.items.map((recipe) => (
            <Choice
              key={recipe.id}
              says={recipe.name}
              take={() =>
                choose({
                  says: recipe.name,
                  side: {
                    brief: { ...brief, pins: recipe.pins, school: recipe.school } as typeof brief,
                    chosen: {},
                    held,
                  },
                })
              }
            />
          ))}
        </List>
      )}
      {stored.length > 0 && (
        <List title="A preset of the day">
          {stored.map((preset) => (
            <Choice
              key={preset.number}
              says={`${preset.number}, ${preset.name}`}
              take={() =>
                choose({
                  says: `preset ${preset.number}, ${preset.name}`,
                  side: { brief, chosen: { camera: plan.camera.id, ...preset.chosen }, held },
                })
              }
            />
          ))}
        </List>
      )}
      {older.length > 0 && (
        <List title="Another edition of its sheet">
          {older.map((one) => (
            <Choice
              key={one.edition}
              says={`edition ${one.edition}`}
              take={() =>
                choose({
                  says: `edition ${one.edition} of its sheet`,
                  side: {
                    brief,
                    chosen: { camera: plan.camera.id },
                    held: `${plan.camera.id}:${one.edition}`,
                  },
                })
              }
            />
          ))}
        </List>
      )}
      {other && (
        <button type="button" className="plain justify-self-start" onClick={() => choose(null)}>
          Look at this plan alone
        </button>
      )}
    </div>
  );
}

type PinnedProps = {
  plan: Plan;
  vocabulary: Vocabulary;
  choose: (dial: string, value: unknown, says: string) => void;
};

/** One dial at another of its values. */
function Pinned({ plan, vocabulary, choose }: PinnedProps) {
  const dials = dialsOf(plan);
  const [dial, setDial] = useState(dials.includes("iso_ceiling") ? "iso_ceiling" : (dials[0] ?? ""));
  const values = (plan.profiles[dial] ?? []).filter((value) => value.legal);
  const name = vocabulary.dials[dial] ?? dial;
  return (
    <div className="grid gap-2">
      <label className="text-small text-muted">
        One dial at another value
        <select
          className="field mt-1 text-ink"
          value={dial}
          onChange={(event) => setDial(event.target.value)}
        >
          <DialOptions dials={dials} vocabulary={vocabulary} />
        </select>
      </label>
      <ul className="grid max-h-[168px] overflow-y-auto">
        {values.map((value) => (
          <Choice
            key={JSON.stringify(value.value)}
            says={value.label}
            cost={(value.given_up_stops ?? 0) - plan.given_up_stops}
            take={() => choose(dial, value.value, `${name} ${value.label}`)}
          />
        ))}
      </ul>
    </div>
  );
}

type OptionsProps = { dials: string[]; vocabulary: Vocabulary };

export function DialOptions({ dials, vocabulary }: OptionsProps) {
  return dials.map((id) => (
    <option key={id} value={id}>
      {vocabulary.dials[id] ?? id}
    </option>
  ));
}

/** Dials that leave something to choose and can be seen. */
export function dialsOf(plan: Plan): string[] {
  return Object.entries(plan.profiles)
    .filter(([id, values]) => id !== "camera" && values.filter((value) => value.legal).length > 1)
    .map(([id]) => id);
}

function List({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section>
      <h3 className="pb-1 text-small text-muted">{title}</h3>
      <ul>{children}</ul>
    </section>
  );
}

function Choice({ says, cost, take }: { says: string; cost?: number; take: () => void }) {
  return (
    <li className="border-hair border-t">
      <button
        type="button"
        className="flex min-h-[30px] w-full items-baseline justify-between gap-3 py-[5px] text-left hover:bg-second"
        onClick={take}
      >
        <span>{says}</span>
        {cost !== undefined && <span className="flex-none text-small text-muted">{costsMore(cost)}</span>}
      </button>
    </li>
  );
}
