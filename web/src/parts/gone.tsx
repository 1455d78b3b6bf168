// Something that was put away or removed, and the way back.
import { useState } from "react";

export type Gone = { says: string; back: () => Promise<unknown> };

export function GoneNote({ gone, over }: { gone: Gone | null; over: () => void }) {
  const [problem, setProblem] = useState("");
  if (!gone) return null;
  return (
    <p role="status" className="mt-4 border-note border-l-3 pl-3 text-small">
      {gone.says}{" "}
      <button
        type="button"
        className="min-h-[24px] underline"
        onClick={() =>
          gone.back().then(
            () => {
              setProblem("");
              over();
            },
            (error: Error) => setProblem(error.message),
          )
        }
      >
        Bring it back
      </button>
      {problem && <span className="block text-note">{problem}</span>}
    </p>
  );
}
