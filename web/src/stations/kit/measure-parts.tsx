// What the tests of the Kit share: how they are done, the curve of the files, and what was refused.
import type { ReactNode } from "react";
import { Problem } from "../../api/http";
import type { Curve } from "../../api/types";

export function Refusal({ error }: { error: Error | null }) {
  if (!error) return null;
  const faults = error instanceof Problem ? error.faults : [];
  return (
    <div role="alert" className="mt-2 max-w-[70ch] border-note border-l-3 pl-3 text-small">
      {faults.length === 0 && <b className="text-note">{error.message}</b>}
      {faults.map((fault) => (
        <p key={`${fault.where} ${fault.what}`}>
          <b className="text-note">
            {fault.where} {fault.what}.
          </b>{" "}
          {fault.mend}
        </p>
      ))}
    </div>
  );
}

export function How({ children }: { children: ReactNode }) {
  return (
    <ol className="max-w-[66ch] list-decimal py-3 pl-5 leading-[1.5] marker:font-serif marker:font-semibold">
      {children}
    </ol>
  );
}

export function CurveChoice({ curve, onChange }: { curve: Curve; onChange: (curve: Curve) => void }) {
  return (
    <label className="text-small text-muted">
      curve of the files{" "}
      <select
        className="min-h-[25px] border-muted border-b text-ink"
        value={curve}
        onChange={(event) => onChange(event.target.value as Curve)}
      >
        <option value="usual">the usual of such files</option>
        <option value="linear">none, raw</option>
        <option value="srgb">sRGB, most stills</option>
        <option value="rec709">BT.709, most clips</option>
      </select>
    </label>
  );
}
