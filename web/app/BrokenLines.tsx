import { useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { type Broken, type CraftRecord, contracts } from "../../api/contracts";
import { call, sayError } from "./client";

const nameOf = ({ kind, name }: Broken): string =>
  kind === "fault"
    ? `Fault F-${name.padStart(2, "0")}`
    : kind === "bench session"
      ? `Bench session B-${name.padStart(2, "0")}`
      : kind === "version"
        ? name
        : `${kind === "run" ? "Run" : "Plan"} ${name}`;

/** A place in words: "items 4, mass". Lists count from one, as people do. */
const placeOf = (path: string): string =>
  path
    .split(".")
    .filter((key) => key !== "design")
    .reduce(
      (text, key) => (/^\d+$/.test(key) ? `${text} ${Number(key) + 1}` : text === "" ? key : `${text}, ${key}`),
      "",
    );

const revisionOf = ({ revisions }: CraftRecord, { kind, name }: Broken): number =>
  ({
    version: revisions.versions,
    run: revisions.runs,
    fault: revisions.faults,
    plan: revisions.plans,
    "bench session": revisions.bench,
  })[kind][name] ?? 0;

/** What of a craft cannot be read as it is stored: what was left out, and the way to mend it. */
export function BrokenLines({ record }: { record: CraftRecord }) {
  const queries = useQueryClient();
  if (record.broken.length === 0) return null;
  const mend = async (b: Broken) => {
    try {
      await call(contracts.mendRecord, {
        params: { slug: record.slug },
        body: { kind: b.kind, name: b.name, revision: revisionOf(record, b) },
      });
      toast.success(b.lost ? `${nameOf(b)} is among what was deleted lately.` : `${nameOf(b)} is kept as it is shown.`);
    } catch (error) {
      toast.error(sayError(error));
    }
    await queries.invalidateQueries({ queryKey: ["craft", record.slug] });
  };
  return (
    <section aria-label="Records that cannot be read whole" className="border-b border-stop bg-sheet px-4 py-2">
      <h2 className="text-[13px] text-stop">Something in {record.file.craft.name} cannot be read as it is stored</h2>
      <ul>
        {record.broken.map((b) => (
          <li key={`${b.kind} ${b.name}`} className="flex flex-wrap items-baseline gap-x-3 text-[12px]">
            <span className="text-ink">
              {nameOf(b)}: {b.lost && "nothing of it can be read"}
              {b.aside.slice(0, 4).map((a) => (
                <span key={a.path} className="mr-2">
                  {placeOf(a.path)} ({a.was}) is left out: {a.message}.
                </span>
              ))}
              {b.aside.length > 4 && `and ${b.aside.length - 4} more.`}
            </span>
            {!(b.lost && b.kind === "version") && (
              <button type="button" className="link" aria-label={`Mend ${nameOf(b)}`} onClick={() => void mend(b)}>
                {b.lost ? "Take it out" : "Keep it without these"}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
