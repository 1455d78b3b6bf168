// Of which shot a clip is: found by the batch, asked where it is in doubt, changed by whoever knows better.
import { useMutation, useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { changed, inTurn } from "../../api/keys";
import { type ClipRow, rushesApi } from "../../api/rushes";
import { shootsQuery, shotsQuery } from "../../api/shoots";
import { Panel } from "../../parts/panel";

export function ShotChoice({ clip }: { clip: ClipRow }) {
  const [open, setOpen] = useState(false);
  const put = useMutation({
    ...inTurn("clips"),
    mutationFn: (shot: string | null) => rushesApi.change(clip.id, { shot_id: shot }),
    onSuccess: () => setOpen(false),
    onSettled: () => changed.rushes(),
  });
  return (
    <>
      <Panel
        label="Of which shot it is"
        trigger={{ className: "token" }}
        says={clip.shot?.title ?? "no shot that was found"}
        open={open}
        onOpen={setOpen}
        wide="w-[380px] p-4"
      >
        {open && <Choices clip={clip} put={(shot) => put.mutate(shot)} busy={put.isPending} />}
        {put.error && (
          <p role="alert" className="pt-2 text-note">
            {put.error.message}
          </p>
        )}
      </Panel>
      {clip.asked_of_person && (
        <span className="font-sans text-small text-note">
          {" "}
          {clip.shot ? "is that so" : "whose is it"}?{" "}
          {clip.shot && (
            <button type="button" className="underline" onClick={() => put.mutate(clip.shot?.id ?? null)}>
              yes
            </button>
          )}
          {clip.other_shot && (
            <>
              {" "}
              or{" "}
              <button
                type="button"
                className="underline"
                onClick={() => put.mutate(clip.other_shot?.id ?? null)}
              >
                {clip.other_shot.title}
              </button>
            </>
          )}
        </span>
      )}
    </>
  );
}

type ChoicesProps = { clip: ClipRow; put: (shot: string | null) => void; busy: boolean };

function Choices({ clip, put, busy }: ChoicesProps) {
  const shoots = useQuery(shootsQuery);
  const lists = useQueries({ queries: (shoots.data?.items ?? []).map((shoot) => shotsQuery(shoot.id)) });
  if (shoots.isPending) return <p className="text-muted">One moment.</p>;
  return (
    <div className="grid gap-3">
      {shoots.data?.items.map((shoot, place) => (
        <section key={shoot.id} aria-label={shoot.title}>
          <h3 className="font-serif italic">{shoot.title}</h3>
          <ul>
            {lists[place]?.data?.items.map((shot) => (
              <li key={shot.id}>
                <button
                  type="button"
                  disabled={busy}
                  aria-pressed={shot.id === clip.shot?.id}
                  className={`w-full border-hair border-b py-[4px] text-left hover:bg-second ${shot.id === clip.shot?.id ? "font-bold" : ""}`}
                  onClick={() => put(shot.id)}
                >
                  {shot.summary.title}
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
      <button type="button" className="plain justify-self-start" disabled={busy} onClick={() => put(null)}>
        Of no shot
      </button>
    </div>
  );
}
