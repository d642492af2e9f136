import type { Evidence } from "../../core/design/evidence";

const WORD: Record<Evidence, string> = {
  guess: "guess",
  datasheet: "datasheet",
  calculated: "calculated",
  measured: "measured",
  proven: "proven in a run",
};

function shape(level: Evidence) {
  switch (level) {
    case "guess":
      return <path d="M4 3H1.5v6H4M8 3h2.5v6H8" fill="none" stroke="currentColor" strokeWidth="1.3" />;
    case "datasheet":
      return <rect x="1" y="6.7" width="10" height="3.2" fill="none" stroke="currentColor" strokeWidth="1.2" />;
    case "calculated":
      return (
        <g fill="none" stroke="currentColor" strokeWidth="1.2">
          <rect x="0.7" y="7.2" width="10.6" height="3.2" />
          <rect x="3" y="3.4" width="6" height="3.2" />
        </g>
      );
    case "measured":
      return (
        <g fill="currentColor">
          <rect x="0.5" y="8.6" width="11" height="2.2" />
          <rect x="2.2" y="5.6" width="7.6" height="2.2" />
          <rect x="3.9" y="2.6" width="4.2" height="2.2" />
        </g>
      );
    case "proven":
      return <path d="M0.5 11 3.6 2h4.8l3.1 9z" fill="currentColor" />;
  }
}

/** How well a number is known, as stones piled up. The word is its accessible name. */
export function Cairn({ level }: { level: Evidence }) {
  return (
    <svg
      width="12"
      height="12"
      viewBox="0 0 12 12"
      role="img"
      aria-label={WORD[level]}
      className="mx-[3px] inline-block shrink-0 align-[-1px] text-ink2"
    >
      <title>{WORD[level]}</title>
      {shape(level)}
    </svg>
  );
}

export const EVIDENCE_WORD = WORD;
