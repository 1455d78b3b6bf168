// What came with the program: plainly a demo, left with one click, and brought back with another.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { demoApi, demoQuery } from "../../api/demo";
import { changed } from "../../api/keys";
import { refusalWords } from "../../changes/refusals";
import { goTour } from "../../parts/touring";

export function Demo() {
  const navigate = useNavigate();
  const demo = useQuery(demoQuery);
  const leave = useMutation({ mutationFn: demoApi.leave, onSuccess: changed.everything });
  const back = useMutation({ mutationFn: demoApi.bringBack, onSuccess: changed.everything });
  const doing = leave.isPending || back.isPending;
  const problem = leave.error ?? back.error;
  if (!demo.data || (demo.data.shoots === 0 && !demo.data.left)) return null;
  return (
    <section aria-label="Demo" className="mt-4 border-rule border-t pt-3 text-small leading-snug">
      {demo.data.shoots > 0 ? (
        <>
          <p className="text-muted">
            What is marked <i>demo</i> is made up, to try things with: shoots, takes, notes and clips.
          </p>
          <p className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-2">
            <button type="button" className="plain" disabled={doing} onClick={() => leave.mutate()}>
              {leave.isPending ? "Leaving the demo." : "Leave the demo"}
            </button>
            <button
              type="button"
              className="min-h-[24px] underline"
              onClick={() => {
                navigate("/bench");
                goTour(0);
              }}
            >
              show me around
            </button>
          </p>
        </>
      ) : (
        <p role="status">
          The demo was left, with what was added to it.{" "}
          <button
            type="button"
            className="min-h-[24px] underline"
            disabled={doing}
            onClick={() => back.mutate()}
          >
            {back.isPending ? "Bringing it back." : "Bring it back"}
          </button>
        </p>
      )}
      {problem && (
        <p role="alert" className="pt-1 text-note">
          {refusalWords(problem)}
        </p>
      )}
    </section>
  );
}
