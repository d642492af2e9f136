import { useDeferredValue, useMemo } from "react";
import { mendedElsewhere } from "../../core/lineage/status";
import { debts, tuneStates } from "../../core/lineage/tune";
import { lineOf } from "../../core/runs/ladder";
import { faultsOfLine } from "../../core/safety/ready";
import { SEVERITY_WORD } from "../../core/wording/severity";
import { Flag, SEVERITY_COLOUR } from "../glyphs/Flag";
import { faultName } from "../stations/runs/words";
import { useDesk } from "./desk";

/**
 * What the records hold against the version in view, at every station: fixes that no run has proven, evidence not
 * secured, stale tunes, debts.
 */
export function RecordLines() {
  const { file, version, design: now, go } = useDesk();
  // What the records say may follow a drag a little later.
  const design = useDeferredValue(now);
  const lines = useMemo(() => {
    const own = { ...version, design };
    const line = lineOf(file.versions, version.label);
    const faults = faultsOfLine(file, version.label);
    const stale = new Map<string, string[]>();
    for (const t of tuneStates(file, own))
      if (t.stale.length > 0)
        stale.set(t.setting.group, [...new Set([...(stale.get(t.setting.group) ?? []), ...t.stale])]);
    return [
      ...file.runs
        .filter((r) => r.version === version.label && r.crash && Object.values(r.crash.steps).some((done) => !done))
        .map((r) => ({
          id: `crash-${r.number}`,
          text: `Run ${r.number} crashed: secure the evidence first`,
          to: { station: "runs" as const, search: { evidence: String(r.number) } },
          severity: "stop" as const,
        })),
      ...faults
        .filter((f) => f.state === "closed")
        .map((f) => ({
          id: `unproven-${f.number}`,
          text: `${faultName(f.number)} ${f.title}: ${mendedElsewhere(f, line) === null ? "mended, not proven" : `mended in ${mendedElsewhere(f, line)}, not here`}`,
          to: { station: "faults" as const, search: { fault: String(f.number) } },
          severity: "care" as const,
        })),
      ...[...stale].map(([group, causes]) => ({
        id: `stale-${group}`,
        text: `Set-up of ${group || "the craft"} is stale: ${causes.join(", ")} changed since`,
        to: { station: "versions" as const, search: { setup: "1" } },
        severity: "care" as const,
      })),
      ...debts(file, own).map((d) => ({
        id: `debt-${d.setting.id}`,
        text: `Workaround since ${d.since}: ${d.setting.name} ${d.setting.value} hides “${d.setting.hides}”`,
        to: { station: "versions" as const, search: { setup: "1" } },
        severity: "care" as const,
      })),
    ];
  }, [file, version, design]);
  if (lines.length === 0) return null;
  return (
    <section aria-label="From the records" className="mt-3">
      <h2 className="border-b border-ink pb-1">From the records</h2>
      <ul>
        {lines.map((l) => (
          <li key={l.id} data-record={l.id} className="flex gap-2 border-b border-hair py-1">
            <span className="pt-[3px]">
              <Flag severity={l.severity} />
            </span>
            <button type="button" className="text-left text-[12px] leading-4 text-ink" onClick={() => go(l.to)}>
              <b className={SEVERITY_COLOUR[l.severity]}>{SEVERITY_WORD[l.severity]}</b> {l.text}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
