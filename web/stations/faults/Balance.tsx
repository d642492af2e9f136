/** A suspect as a balance beam: stones against it on the left, for it on the right. Filled once a test has decided. */
export function Balance({
  against,
  forIt,
  state,
}: {
  against: number;
  forIt: number;
  state: "open" | "ruled in" | "ruled out";
}) {
  const tilt = Math.max(-9, Math.min(9, (forIt - against) * 3));
  const colour = state === "ruled in" ? "var(--stop)" : state === "ruled out" ? "var(--pencil)" : "var(--ink)";
  const stones = (count: number, x: number) =>
    Array.from({ length: Math.min(count, 4) }, (_, i) => (
      <rect
        key={i}
        x={x + (i % 2) * 9}
        y={6 - Math.floor(i / 2) * 9 + 6}
        width="8"
        height="8"
        fill={state === "ruled in" ? colour : "none"}
        stroke={colour}
      />
    ));
  return (
    <svg
      width="96"
      height="42"
      viewBox="0 -4 96 42"
      role="img"
      aria-label={`${against} against, ${forIt} for, ${state}`}
    >
      <g transform={`rotate(${tilt} 48 22)`}>
        <path d="M4 22h88" stroke={colour} strokeWidth="2" />
        {stones(against, 6)}
        {stones(forIt, 70)}
      </g>
      <path d="M48 24l-6 10h12z" fill="none" stroke={colour} />
    </svg>
  );
}
