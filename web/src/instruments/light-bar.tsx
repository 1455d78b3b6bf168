// A shot's band of light on one small scale, the same for all shots of a list.
export function LightBar({
  ev100,
  from = -8,
  to = 16,
}: {
  ev100: [number, number];
  from?: number;
  to?: number;
}) {
  const at = (ev: number) => ((Math.min(to, Math.max(from, ev)) - from) / (to - from)) * 120;
  const [low, high] = ev100;
  return (
    <svg
      width="132"
      height="26"
      viewBox="-6 0 132 26"
      role="img"
      aria-label={`EV ${low.toFixed(1)} to ${high.toFixed(1)}`}
    >
      {[-8, -4, 0, 4, 8, 12, 16].map((ev) => (
        <path key={ev} d={`M${at(ev)} 17v${ev === 0 ? 5 : 3}`} stroke="var(--muted)" />
      ))}
      <path d="M0 17H120" stroke="var(--muted)" />
      <rect x={at(low)} y="5" width={Math.max(3, at(high) - at(low))} height="12" fill="var(--deep)" />
      <path
        d={`M${at(low)} 3v14M${Math.max(at(low) + 3, at(high))} 3v14`}
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
    </svg>
  );
}
