// What a station shows when it could not be read.
import { Problem } from "../api/http";

export function Trouble({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div role="alert" className="m-6 max-w-xl border-note border-l-3 py-1 pl-4">
      <p className="font-bold text-note">{error instanceof Problem ? error.title : "Something went wrong"}</p>
      <p className="py-1">{error.message}</p>
      <button type="button" className="plain mt-1" onClick={retry}>
        Try again
      </button>
    </div>
  );
}
