// What is typed counts when the field is left or Enter pressed; Escape takes it back.
import { type ChangeEvent, type KeyboardEvent, useState } from "react";

/** What an input needs for it. keep: takes what was typed; can: whether it can be taken, else it stays as it is typed. */
export function useTyped(
  value: string,
  keep: (typed: string) => void,
  can: (typed: string) => boolean = () => true,
) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed === null || !can(typed)) return;
    setTyped(null);
    keep(typed);
  };
  return {
    typed,
    field: {
      value: typed ?? value,
      onChange: (event: ChangeEvent<HTMLInputElement>) => setTyped(event.target.value),
      onBlur: done,
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === "Enter") done();
        if (event.key === "Escape" && typed !== null) {
          event.stopPropagation();
          setTyped(null);
        }
      },
    },
  };
}
