// The paper that cards are printed on, remembered in this browser.
import { useState } from "react";
import { recall, remember } from "../changes/storage";

const PAPERS = [
  ["a6", "A6"],
  ["a5", "A5"],
  ["letter", "letter"],
] as const;

export function usePaper(): [string, (paper: string) => void] {
  const [paper, setPaper] = useState<string>(() => recall("paper") ?? "a6");
  return [
    paper,
    (next) => {
      setPaper(next);
      remember("paper", next);
    },
  ];
}

export function PaperChoice({ paper, onChange }: { paper: string; onChange: (paper: string) => void }) {
  return (
    <select
      className="field"
      aria-label="Paper"
      value={paper}
      onChange={(event) => onChange(event.target.value)}
    >
      {PAPERS.map(([id, says]) => (
        <option key={id} value={id}>
          {says}
        </option>
      ))}
    </select>
  );
}
