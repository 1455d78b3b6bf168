// What is being loaded, in plain words. Nothing is said for half a second: most answers are there by then.
type Props = { what: string; className?: string };

export function Loading({ what, className = "p-6" }: Props) {
  return (
    <p className={`late text-muted ${className}`} role="status">
      {what}
    </p>
  );
}
