// A name that stands as text and can be typed over; it counts when the field is left or Enter pressed.
import { useTyped } from "./typed";

type Props = { value: string; label: string; most?: number; keep: (name: string) => void };

export function Named({ value, label, most = 40, keep }: Props) {
  const { typed, field } = useTyped(value, (said) => {
    if (said.trim() !== value) keep(said.trim());
  });
  return (
    <input
      className="name-field"
      aria-label={label}
      maxLength={typed === null ? undefined : most}
      {...field}
    />
  );
}
