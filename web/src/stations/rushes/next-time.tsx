// The shot planned again with what its clips tell, and a new shot of it.
import { useMutation, useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { changed } from "../../api/keys";
import { nextTimeQuery } from "../../api/rushes";
import { shootsApi } from "../../api/shoots";
import type { Brief } from "../../api/types";
import { Loading } from "../../parts/loading";
import { shortened, stops } from "../../parts/words";
import { Heading } from "./heading";

const LONGEST_TITLE = 200;
const AGAIN = ", again";

export function NextTime({ shot, shoot }: { shot: string; shoot: string }) {
  const navigate = useNavigate();
  const told = useQuery(nextTimeQuery(shot));
  const made = useMutation({
    mutationFn: (brief: Brief) =>
      shootsApi.addShot(shoot, {
        brief: { ...brief, title: `${shortened(brief.title, LONGEST_TITLE - AGAIN.length)}${AGAIN}` },
        starts_at: null,
      }),
    onSuccess: (kept) => {
      changed.shoots();
      navigate(`/shots/${kept.id}`);
    },
  });
  return (
    <section aria-label="Next time">
      <Heading says="Next time" />
      {told.isPending && <Loading what="Planning it again." className="pt-2" />}
      {told.error && <p className="pt-2 text-muted">{told.error.message}</p>}
      {told.data && (
        <>
          <p className="pt-2 leading-[1.45]">{told.data.text}</p>
          {told.data.changes.length > 0 && (
            <ul className="pt-1">
              {told.data.changes.map((change) => (
                <li key={change} className="border-hair border-b py-[4px]">
                  {change}
                </li>
              ))}
            </ul>
          )}
          {told.data.was_stops !== null && told.data.changes.length > 0 && (
            <p className="pt-1 text-fine text-muted">
              {stops(told.data.now_stops)} stops given up instead of {stops(told.data.was_stops)}, in the
              light that there was.
            </p>
          )}
          <p className="flex flex-wrap items-center gap-3 pt-2">
            <button
              type="button"
              className="bold-plain disabled:opacity-45"
              disabled={made.isPending}
              onClick={() => made.mutate(told.data.brief as Brief)}
            >
              Plan the next take so
            </button>
            <Link className="underline" to={`/shots/${shot}/look`}>
              see it in Look
            </Link>
          </p>
          {made.error && (
            <p role="alert" className="pt-1 text-note">
              {made.error.message}
            </p>
          )}
        </>
      )}
    </section>
  );
}
