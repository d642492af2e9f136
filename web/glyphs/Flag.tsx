import type { Severity } from "../../core/subject";

const COLOUR: Record<Severity, string> = {
  stop: "text-stop",
  care: "text-care",
  note: "text-ink2",
  clear: "text-clear",
};

/**
 * Stop: filled square flag. Care: filled pennant. Note: hollow pennant. Clear: tick. The word always stands beside
 * it.
 */
export function Flag({ severity }: { severity: Severity }) {
  return (
    <svg
      width="13"
      height="13"
      viewBox="0 0 13 13"
      aria-hidden="true"
      className={`inline-block shrink-0 align-[-2px] ${COLOUR[severity]}`}
    >
      {severity === "stop" && (
        <path d="M1.2 0.5v12M1.2 1h11v7h-11z" fill="currentColor" stroke="currentColor" strokeWidth="1.2" />
      )}
      {severity === "care" && (
        <path d="M1.2 0.5v12M1.2 1l11 3.4-11 3.6z" fill="currentColor" stroke="currentColor" strokeWidth="1.2" />
      )}
      {severity === "note" && (
        <path d="M1.2 0.5v12M1.2 1.2l10 3.2-10 3.4" fill="none" stroke="currentColor" strokeWidth="1.3" />
      )}
      {severity === "clear" && <path d="M1.5 7 5 10.5 11.5 2" fill="none" stroke="currentColor" strokeWidth="1.8" />}
    </svg>
  );
}

export const SEVERITY_COLOUR = COLOUR;
