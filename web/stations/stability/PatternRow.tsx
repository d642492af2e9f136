import { PATTERNS, type Pattern, surfaceFrom } from "../../../core/subjects/surfaces/patterns";
import { useDesk } from "../../app/desk";

/** A small drawing of each, 50 × 40: body faint, the surface itself. */
const DRAWN: Record<Pattern, string> = {
  wing: "M4 17h42v8H4z",
  tail: "M14 27h22v6H14z",
  fin: "M22 8l10 0v22h-16z",
  "V tail": "M25 30L8 12M25 30L42 12",
  "wing without tail": "M25 6L46 28v6L25 20 4 34v-6z",
  canard: "M15 6h20v5H15z",
  ring: "M25 5a15 15 0 1 0 .1 0z",
  "end plates": "M8 10v20M42 10v20M8 24h34",
};

/** Kinds of surfaces to begin with, by picture. */
export function PatternRow({ onAdded }: { onAdded: (id: string) => void }) {
  const { design, edit } = useDesk();
  const add = (pattern: Pattern) => {
    const surface = surfaceFrom(pattern, design);
    if (edit((d) => void d.surfaces.push(surface)) === null) onAdded(surface.id);
  };
  return (
    <div className="mt-3 flex flex-wrap gap-1.5">
      {PATTERNS.map((p) => (
        <button
          key={p}
          type="button"
          className={
            "flex w-[76px] flex-col items-center gap-1 border border-hair p-1 text-center text-[11px] " +
            "leading-[13px] text-ink hover:border-accent hover:text-accent"
          }
          onClick={() => add(p)}
        >
          <svg width="50" height="40" viewBox="0 0 50 40" aria-hidden="true" fill="none" stroke="currentColor">
            {p !== "ring" && p !== "fin" && <path d="M25 3v34" stroke="var(--rule)" strokeDasharray="3 2" />}
            <path d={DRAWN[p]} strokeWidth="1.4" />
          </svg>
          {p}
        </button>
      ))}
    </div>
  );
}
