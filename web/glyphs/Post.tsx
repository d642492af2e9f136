const RUNGS = 7;

/**
 * A version as a post whose rungs show how far up the test ladder it got; a cross where it failed, a hollow foot for
 * a draft.
 */
export function Post({ passed, failed, draft }: { passed: number; failed: number | null; draft: boolean }) {
  return (
    <svg width="14" height="48" viewBox="0 0 14 48" aria-hidden="true" className="shrink-0">
      {Array.from({ length: RUNGS }, (_, i) => {
        const rung = i + 1;
        const y = 40 - rung * 5.5;
        if (failed === rung)
          return <path key={rung} d={`M4 ${y - 2.5}l6 5m0 -5l-6 5`} stroke="var(--stop)" strokeWidth="1.5" />;
        return (
          <path
            key={rung}
            d={`M1 ${y}h12`}
            stroke={rung <= passed ? "var(--ink)" : "var(--pencil)"}
            strokeWidth={rung <= passed ? 3 : 1}
            strokeDasharray={rung <= passed ? undefined : "2 1"}
          />
        );
      })}
      <rect
        x="3"
        y="41"
        width="8"
        height="6"
        fill={draft ? "var(--paper)" : "var(--ink)"}
        stroke={draft ? "var(--pencil)" : "var(--ink)"}
      />
    </svg>
  );
}
