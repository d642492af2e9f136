import type { Severity } from "../../core/subject";
import { SEVERITY_WORD } from "../../core/wording/severity";
import { Flag } from "./Flag";

const SEVERITIES: Severity[] = ["stop", "care", "note", "clear"];

/** How many of each, as small flags. */
export function Tally({ counts }: { counts: Record<Severity, number> }) {
  return (
    <span
      className="flex gap-2"
      role="img"
      aria-label={SEVERITIES.map((s) => `${counts[s]} ${SEVERITY_WORD[s]}`).join(", ")}
    >
      {SEVERITIES.map((s) =>
        counts[s] === 0 ? null : (
          <span key={s} className="num flex items-center gap-1">
            <Flag severity={s} /> {counts[s]}
          </span>
        ),
      )}
    </span>
  );
}
