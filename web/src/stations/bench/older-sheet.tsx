// Said where the plan keeps an older edition of its camera's sheet: what the latest would change.
import { useMutation } from "@tanstack/react-query";
import { benchApi } from "../../api/bench";
import type { Shot } from "../../api/types";
import { stops } from "../../parts/words";

type Props = { shot: Shot; sheet: NonNullable<Shot["sheet"]>; planAnew: () => Promise<void> };

export function OlderSheet({ shot, sheet, planAnew }: Props) {
  const look = useMutation({ mutationFn: () => benchApi.replanned(shot.id) });
  const take = useMutation({ mutationFn: planAnew });
  const own = sheet.own ?? [];
  if (sheet.latest === sheet.edition && own.length === 0) return null;
  if (sheet.latest === null)
    return (
      <p role="status" className="pt-1 text-small">
        <b>The {sheet.name} was put away.</b> This plan keeps its sheet; a change of the brief plans without
        it.
      </p>
    );
  const found = look.data;
  return (
    <div role="status" aria-label="Older sheet" className="pt-1 text-small">
      {sheet.latest !== sheet.edition && (
        <>
          <b>This plan keeps edition {sheet.edition}</b> of the {sheet.name}; edition {sheet.latest} is the
          latest.{" "}
        </>
      )}
      {own.length > 0 && (
        <>
          <b>This plan keeps an earlier own number:</b>{" "}
          {own.map((one) => `${one.title}, ${one.keeps}, by now ${one.latest}`).join("; ")}.
        </>
      )}
      {!found && (
        <button
          type="button"
          className="plain ml-2 min-h-[24px] py-0"
          disabled={look.isPending}
          onClick={() => look.mutate()}
        >
          {look.isPending ? "planning" : "what would differ?"}
        </button>
      )}
      {found && (
        <span>
          {" "}
          {found.problem
            ? `With it there is no plan: ${found.problem}`
            : found.changes.length === 0
              ? `No dial would change, ${stops(found.given_up_before)} → ${stops(found.given_up_after ?? 0)} stops given up.`
              : `${found.changes
                  .map(({ word, before, after }) => `${word} ${before} → ${after}`)
                  .join(
                    "; ",
                  )}; ${stops(found.given_up_before)} → ${stops(found.given_up_after ?? 0)} stops given up.`}
        </span>
      )}
      {!found?.problem && (
        <button
          type="button"
          className="plain ml-2 min-h-[24px] py-0"
          disabled={take.isPending}
          onClick={() => take.mutate()}
        >
          plan with {sheet.latest !== sheet.edition ? `edition ${sheet.latest}` : "the number of now"}
        </button>
      )}
      {(look.error ?? take.error) && (
        <span role="alert" className="pl-2 text-note">
          {(look.error ?? take.error)?.message}
        </span>
      )}
    </div>
  );
}
