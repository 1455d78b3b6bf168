// Recipes of one shot beside each other: what each sets, what it gives up, and where it differs.
import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { benchApi, recipesQuery } from "../../api/bench";
import { changed, inTurn, keys } from "../../api/keys";
import type { Brief, Plan, Recipe } from "../../api/types";
import { currentGround } from "../../parts/ground";
import { Named } from "../../parts/named";
import { useReturnFocus } from "../../parts/return-focus";
import { shortened, stops } from "../../parts/words";

const MOST = 3;

type Props = {
  shot: string;
  brief: Brief;
  plan: Plan;
  /** The way of working in words. */
  way: string;
  held: string | null;
  open: boolean;
  onOpen: (open: boolean) => void;
  /** Films the shot by a recipe; undo takes it back. */
  use: (recipe: Pick<Recipe, "pins" | "school">) => void;
};

export default function Compare({ open, onOpen, ...rest }: Props) {
  const focus = useReturnFocus();
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground/80" data-ground={currentGround()} />
        <Dialog.Content
          aria-describedby={undefined}
          {...focus}
          className="fixed inset-x-[3vw] top-[4vh] z-50 mx-auto max-h-[92vh] max-w-[1080px] overflow-auto border-2 border-ink bg-ground p-6 max-sm:inset-x-0 max-sm:top-0 max-sm:max-h-dvh max-sm:min-h-dvh max-sm:border-0 max-sm:p-4"
        >
          <div className="flex items-baseline justify-between gap-4 border-ink border-b pb-2">
            <Dialog.Title className="font-serif text-title font-semibold">Ways to film it</Dialog.Title>
            <Dialog.Close className="plain">Close</Dialog.Close>
          </div>
          <Columns {...rest} close={() => onOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

type Column = { recipe: Recipe | null; name: string; plan: Plan | null; problem: string | null };

function Columns({
  shot,
  brief,
  plan,
  way,
  held,
  use,
  close,
}: Omit<Props, "open" | "onOpen"> & { close: () => void }) {
  const kept = useQuery(recipesQuery(shot));
  const recipes = kept.data?.items ?? [];
  const asked = { brief, recipes, held };
  const priced = useQuery({
    queryKey: keys.compared(asked),
    queryFn: ({ signal }) => benchApi.comparedRecipes(brief, recipes, held, signal),
    enabled: recipes.length > 0,
    staleTime: 60_000,
    // While a name is typed the plans stay.
    placeholderData: (before) => before,
  });
  const [gone, setGone] = useState<Recipe | null>(null);
  // One after the other, as they were asked for.
  const work = {
    ...inTurn("recipes", shot),
    onSettled: () => changed.recipes(shot),
  };
  const put = useMutation({ ...work, mutationFn: (recipe: Recipe) => benchApi.keepRecipe(shot, recipe) });
  const discard = useMutation({
    ...work,
    mutationFn: (recipe: Recipe) => benchApi.discardRecipe(shot, recipe.id),
    onSuccess: (_, recipe) => setGone(recipe),
  });
  const trouble = put.error ?? discard.error;
  const keep = () => {
    const id = crypto.randomUUID();
    setGone(null);
    put.mutate({
      id,
      name: nameOf(brief, plan, way),
      pins: { ...brief.pins },
      school: { ...brief.school },
    });
  };
  const columns: Column[] = [
    { recipe: null, name: "as it stands", plan, problem: null },
    ...recipes.map((recipe) => {
      const found = priced.data?.items.find((entry) => entry.id === recipe.id);
      return {
        recipe,
        name: recipe.name,
        plan: (found?.plan as Plan) ?? null,
        problem: found?.problem ?? null,
      };
    }),
  ];
  const rows = new Map<string, string>();
  for (const column of columns) for (const row of column.plan?.rows ?? []) rows.set(row.id, row.label);
  const least = Math.min(...columns.flatMap((column) => (column.plan ? [column.plan.given_up_stops] : [])));
  return (
    <>
      {kept.error && <p role="alert">{kept.error.message}</p>}
      <div className="overflow-x-auto">
        <table className="mt-3 w-full border-collapse text-left">
          <thead>
            <tr className="border-ink border-b align-top">
              <td className="sticky left-0 w-[92px] bg-ground" />
              {columns.map(({ recipe, name }) => (
                <th key={recipe?.id ?? ""} className="min-w-[150px] px-2 pb-2 font-normal">
                  {recipe ? (
                    <Named
                      value={recipe.name}
                      label={`Name of ${recipe.name}`}
                      most={60}
                      keep={(to) => {
                        if (to) put.mutate({ ...recipe, name: to });
                      }}
                    />
                  ) : (
                    <span className="block py-[3px] font-serif text-lead font-semibold">{name}</span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-ink border-b">
              <th className="sticky left-0 bg-ground py-2 text-fine font-normal text-muted">
                stops given up
              </th>
              {columns.map(({ recipe, plan: of, problem }) => (
                <td key={recipe?.id ?? ""} className="px-2 py-1">
                  {of ? (
                    <>
                      <b className="text-title leading-none">{stops(of.given_up_stops)}</b>
                      {of.given_up_stops <= least + 0.049 && columns.length > 1 && (
                        <span className="pl-2 text-fine">least</span>
                      )}
                    </>
                  ) : (
                    <span className={problem ? "text-fine text-note" : "text-muted"}>
                      {problem ?? (priced.error ? priced.error.message : "planning")}
                    </span>
                  )}
                </td>
              ))}
            </tr>
            <Line label="Camera" columns={columns} of={(p) => ({ value: p.camera.name, cost: null })} />
            {[...rows].map(([id, label]) => (
              <Line
                key={id}
                label={label}
                columns={columns}
                of={(p) => {
                  const row = p.rows.find((entry) => entry.id === id);
                  return row ? { value: row.value, cost: row.given_up_stops } : null;
                }}
              />
            ))}
            <tr>
              <td className="sticky left-0 bg-ground" />
              {columns.map(({ recipe, plan: of }) => (
                <td key={recipe?.id ?? ""} className="px-2 pt-3 align-top">
                  {recipe && (
                    <span className="flex flex-wrap gap-2">
                      <button
                        type="button"
                        className="bold-plain"
                        disabled={!of}
                        aria-label={`Film it so: ${recipe.name}`}
                        onClick={() => {
                          use(recipe);
                          close();
                        }}
                      >
                        Film it so
                      </button>
                      <button
                        type="button"
                        className="plain"
                        aria-label={`Discard ${recipe.name}`}
                        onClick={() => discard.mutate(recipe)}
                      >
                        Discard
                      </button>
                    </span>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      {gone && (
        <p role="status" className="pt-3 text-small">
          “{gone.name}” was discarded.{" "}
          <button
            type="button"
            className="underline"
            onClick={() => put.mutate(gone, { onSuccess: () => setGone(null) })}
          >
            Bring it back
          </button>
        </p>
      )}
      {trouble && (
        <p role="alert" className="pt-3 text-note">
          {trouble.message}
        </p>
      )}
      <p className="flex flex-wrap items-center gap-x-4 gap-y-2 pt-4 text-small text-muted">
        <button type="button" className="plain text-ink" disabled={recipes.length >= MOST} onClick={keep}>
          Keep this way beside it
        </button>
        {recipes.length >= MOST
          ? "Three stand beside the plan; discard one to keep another."
          : "Keep the plan as it stands, then pin or change something: both stay side by side. Bold is what differs."}
      </p>
    </>
  );
}

const LONGEST_NAME = 60;

/** What sets a way apart: its pins, else its way of working. */
function nameOf(brief: Brief, plan: Plan, way: string): string {
  const pins = Object.keys(brief.pins ?? {});
  if (pins.length === 0) return shortened(way, LONGEST_NAME);
  const said = pins.map((dial) => (dial === "camera" ? plan.camera.name : (plan.values[dial] ?? dial)));
  return shortened(said.join(", "), LONGEST_NAME);
}

type Said = { value: string; cost: number | null } | null;
type LineProps = { label: string; columns: Column[]; of: (plan: Plan) => Said };

function Line({ label, columns, of }: LineProps) {
  const said = columns.map(({ plan }) => (plan ? of(plan) : null));
  const own = said[0];
  const differs = said.some((entry, n) => n > 0 && columns[n]?.plan && entry?.value !== own?.value);
  return (
    <tr className={`border-hair border-b align-baseline ${differs ? "" : "text-muted"}`}>
      <th className="sticky left-0 bg-ground py-[5px] text-small font-normal text-muted">{label}</th>
      {columns.map(({ recipe, plan }, n) => {
        const entry = said[n];
        const other = n > 0 && plan !== null && entry?.value !== own?.value;
        return (
          <td key={recipe?.id ?? ""} className="px-2 py-[5px]" data-differs={other || undefined}>
            <span className={other ? "font-bold text-ink" : ""}>{entry?.value ?? (plan ? "–" : "")}</span>
            {entry?.cost != null && entry.cost >= 0.05 && (
              <span className="pl-2 text-fine text-muted">{stops(entry.cost)}</span>
            )}
          </td>
        );
      })}
    </tr>
  );
}
