import type { Fault } from "../../../core/design/craftFile";
import { story } from "../../../core/faults/story";
import { useDesk } from "../../app/desk";
import { clock, faultName } from "../runs/words";

/**
 * The same again: earlier faults of this part, cause or symptom along one line, what was done about each, and how
 * long that held.
 */
export function Story({ fault }: { fault: Omit<Fault, "number"> & { number?: number } }) {
  const { file, go } = useDesk();
  const chapters = story(file, fault);
  const first = chapters[0];
  if (!first) return null;
  const here = file.runs.find((r) => r.number === fault.run);
  return (
    <section aria-label="So far" className="mt-4">
      <h3>
        {first.because.replace("the", "The")}, so far{" "}
        <span className="text-[12px] font-normal text-pencil">
          {chapters.length === 1 ? "once before" : `${chapters.length} times before`}
          {chapters.some((c) => c.ran !== null) ? "; the time run after each fix" : ""}
        </span>
      </h3>
      <ol className="mt-2 flex overflow-x-auto" data-story={chapters.length}>
        {chapters.map((c) => (
          <li key={c.fault.number} className="relative min-w-40 flex-1 border-t-2 border-ink pr-3 pt-3">
            <span
              className="absolute -top-[9px] left-0 bg-paper pr-1 text-[15px] leading-4 text-stop"
              aria-hidden="true"
            >
              ×
            </span>
            <button
              type="button"
              className="link"
              onClick={() => go({ station: "faults", search: { fault: String(c.fault.number) } })}
            >
              {faultName(c.fault.number)}
            </button>{" "}
            <span className="text-[11px] text-pencil">
              {c.version}, {c.date.slice(0, 10)}
            </span>
            <span className="block text-[12px] leading-4">{c.fault.title}</span>
            <span className="block text-[12px] leading-4 text-ink">{c.fault.fix || "nothing was done"}</span>
            <span className="block text-[11px] text-pencil">
              {c.fault.fix ? "held " : ""}
              {c.ran !== null
                ? `${clock(c.ran)} in ${c.runs} ${c.runs === 1 ? "run" : "runs"}`
                : `${c.runs} ${c.runs === 1 ? "run" : "runs"}, not timed`}
            </span>
          </li>
        ))}
        <li className="relative min-w-32 border-t-2 border-dashed border-pencil pt-3">
          <span className="absolute -top-[9px] left-0 bg-paper pr-1 text-[15px] leading-4 text-stop" aria-hidden="true">
            ×
          </span>
          <b className="text-accent">now</b> <span className="text-[11px] text-pencil">{here?.version}</span>
          {chapters.filter((c) => c.fault.fix !== "").length > 1 && (
            <span className="block text-[12px] leading-4 text-care">
              Mended {chapters.filter((c) => c.fault.fix !== "").length} times: another kind of fix?
            </span>
          )}
        </li>
      </ol>
    </section>
  );
}
