// A name that stands as text and can be typed over; it counts when the field is left or Enter pressed.
import { useState } from "react";

type Props = { value: string; label: string; most?: number; keep: (name: string) => void };

export function Named({ value, label, most = 40, keep }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    const name = typed?.trim();
    setTyped(null);
    if (name !== undefined && name !== value) keep(name);
  };
  return (
    <input
      className="name-field"
      aria-label={label}
      maxLength={typed === null ? undefined : most}
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === "Enter") done();
        if (event.key === "Escape" && typed !== null) {
          event.stopPropagation();
          setTyped(null);
        }
      }}
    />
  );
}
