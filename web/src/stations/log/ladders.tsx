// Test ladders: those that are there, and a new one of a shot: what differs visibly while the rest can stay the same.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { changed } from "../../api/keys";
import { type LadderPlan, laddersQuery, logApi, offersQuery } from "../../api/log";
import { refusalWords } from "../../changes/refusals";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { ShotPick } from "./shot-pick";

export default function Ladders() {
  const ladders = useQuery(laddersQuery);
  const [search] = useSearchParams();
  const [adding, setAdding] = useState(search.has("shot"));
  if (ladders.error && !ladders.data)
    return <Trouble error={ladders.error} retry={() => ladders.refetch()} />;
  if (!ladders.data) return <Loading what="Loading ladders." />;
  return (
    <section className="min-w-0 px-6 pb-8 max-sm:px-4" aria-label="Ladders">
      <p className="max-w-[50rem] py-3 font-serif text-lead leading-[1.5]">
        A ladder settles an argument on your own gear: one dial varies, all else stays, and you choose between
        the frames without knowing which is which.
      </p>
      {adding ? (
        <NewLadder shot={search.get("shot")} close={() => setAdding(false)} />
      ) : (
        <button type="button" className="bold-plain" onClick={() => setAdding(true)}>
          New ladder
        </button>
      )}
      <ul className="pt-4">
        {ladders.data.items.map((one) => (
          <li key={one.id} className="border-hair border-b py-2">
            <Link className="font-bold hover:underline" to={`/log/ladders/${one.id}`}>
              {one.title}
            </Link>
            <span className="text-muted">
              {" "}
              {one.rungs} rungs, {one.takes} {one.takes === 1 ? "take" : "takes"}, {one.answers}{" "}
              {one.answers === 1 ? "answer" : "answers"}
            </span>
            {one.told.map((says) => (
              <span key={says} className="block">
                {says}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

function NewLadder({ shot: first, close }: { shot: string | null; close: () => void }) {
  const [picked, setPicked] = useState("");
  const shot = first ?? picked;
  const [asked, setAsked] = useState(first ?? "");
  const offers = useQuery({ ...offersQuery(asked), enabled: asked !== "" });
  return (
    <div className="border-rule border-y py-3">
      {first === null && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            setAsked(shot);
          }}
        >
          <ShotPick shot={shot} onChange={setPicked} />
          <button type="submit" className="bold-plain" disabled={!shot}>
            What can be told apart?
          </button>
          <button type="button" className="plain" onClick={close}>
            Cancel
          </button>
        </form>
      )}
      {asked !== "" && offers.isFetching && !offers.data && (
        <p role="status" className="pt-3">
          <progress className="mr-2 w-24 align-middle" aria-label="Trying ladders" /> Planning rung after
          rung.
        </p>
      )}
      {offers.error && (
        <p role="alert" className="pt-3 text-note">
          {refusalWords(offers.error)}
        </p>
      )}
      {offers.data && <Offered key={asked} shot={asked} offers={offers.data} />}
    </div>
  );
}

type Offers = NonNullable<ReturnType<typeof useOffers>>;
function useOffers() {
  return useQuery(offersQuery("")).data;
}

function Offered({ shot, offers }: { shot: string; offers: Offers }) {
  const navigate = useNavigate();
  const [own, setOwn] = useState<{ dial: string; values: unknown[] } | null>(null);
  const made = useMutation({
    mutationFn: (plan: { dial: string; values: unknown[] }) =>
      logApi.makeLadder(shot, { dial: plan.dial, values: plan.values as never, passes: 2 }),
    onSuccess: (ladder) => {
      void changed.log();
      navigate(`/log/ladders/${ladder.id}`);
    },
  });
  return (
    <div className="pt-3">
      {offers.items.length === 0 && (
        <p className="pb-2">
          No dial of this shot can be varied so that it is seen while the rest stays. Choose values yourself,
          and see what moves with them.
        </p>
      )}
      <ul>
        {offers.items.map((plan) => (
          <li
            key={plan.dial}
            className="grid items-baseline gap-x-4 border-hair border-b py-2 sm:grid-cols-[8rem_minmax(0,1fr)_auto]"
          >
            <b>{plan.word}</b>
            <span>
              {plan.rungs.map((rung) => rung.label).join(" · ")}
              <Amounts plan={plan} />
              {plan.not_held.map((says) => (
                <span key={says} className="block text-fine text-muted">
                  {says}
                </span>
              ))}
            </span>
            <span className="flex items-baseline gap-3">
              <span className="text-muted">{Math.max(1, Math.round(plan.minutes))} min</span>
              <button
                type="button"
                className="plain"
                disabled={made.isPending}
                aria-label={`Make a ladder of ${plan.word}`}
                onClick={() => made.mutate({ dial: plan.dial, values: plan.rungs.map((rung) => rung.value) })}
              >
                Make it
              </button>
            </span>
          </li>
        ))}
      </ul>
      <details className="pt-2" onToggle={(event) => !event.currentTarget.open && setOwn(null)}>
        <summary className="cursor-pointer text-muted">Other values</summary>
        <form
          className="flex flex-wrap items-start gap-4 pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (own) made.mutate(own);
          }}
        >
          <label className="grid gap-[2px] text-fine text-muted">
            Dial
            <select
              className="field text-ink"
              value={own?.dial ?? ""}
              onChange={(event) => setOwn({ dial: event.target.value, values: [] })}
            >
              <option value="">choose one</option>
              {Object.keys(offers.values).map((dial) => (
                <option key={dial} value={dial}>
                  {offers.words[dial]}
                </option>
              ))}
            </select>
          </label>
          {own && (
            <fieldset className="flex max-w-[34rem] flex-wrap gap-x-4">
              <legend className="text-fine text-muted">Two to six values</legend>
              {(offers.values[own.dial] ?? []).map((entry) => (
                <label key={String(entry.value)} className="flex min-h-8 items-center gap-2">
                  <input
                    type="checkbox"
                    checked={own.values.includes(entry.value)}
                    onChange={() =>
                      setOwn({
                        ...own,
                        values: own.values.includes(entry.value)
                          ? own.values.filter((one) => one !== entry.value)
                          : [...own.values, entry.value],
                      })
                    }
                  />
                  {entry.label}
                </label>
              ))}
            </fieldset>
          )}
          <button
            type="submit"
            className="plain self-end"
            disabled={!own || own.values.length < 2 || own.values.length > 6 || made.isPending}
          >
            {made.isPending ? "Planning" : "Make it"}
          </button>
        </form>
      </details>
      {made.error && (
        <p role="alert" className="pt-2 text-note">
          {refusalWords(made.error)}
        </p>
      )}
    </div>
  );
}

/** What the rungs come to, their unit once. */
function Amounts({ plan }: { plan: LadderPlan }) {
  const amounts = plan.rungs.map((rung) => rung.amount.replace(", as planned", "")).filter(Boolean);
  const [first, last] = [amounts[0], amounts.at(-1)];
  if (!first || !last) return null;
  const number = (text: string) => text.match(/^[\d.]+/)?.[0] ?? text;
  return (
    <span className="block text-fine text-muted">
      {[...amounts.slice(0, -1).map(number), last].join(" · ")}
    </span>
  );
}
