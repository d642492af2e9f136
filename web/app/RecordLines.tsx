import { useMemo } from "react";
import { mendedElsewhere } from "../../core/lineage/status";
import { debts, tuneStates } from "../../core/lineage/tune";
import { lineOf } from "../../core/runs/ladder";
import { faultsOfLine } from "../../core/safety/ready";
import { SEVERITY_WORD } from "../../core/wording/severity";
import { Flag, SEVERITY_COLOUR } from "../glyphs/Flag";
import { faultName } from "../stations/runs/words";
import { useCalmDesk, useLaterDesk } from "./desk";

/**
 * What the records hold against the version in view, at every station: fixes that no run has proven, evidence not
 * secured, stale tunes, debts.
 */
export function RecordLines() {
  const { file, version, go } = useCalmDesk("frame");
  const { design } = useLaterDesk();
  const lines = useMemo(() => {
    const own = { ...version, design };
    const line = lineOf(file.versions, version.label);
    const faults = faultsOfLine(file, version.label);
    const stale = new Map<string, string[]>();
    for (const t of tuneStates(file, own))
      if (t.stale.length > 0)
        stale.set(t.setting.group, [...new Set([...(stale.get(t.setting.group) ?? []), ...t.stale])]);
    const found: RecordLine[] = [
      ...file.runs
        .filter((r) => r.version === version.label && r.crash && Object.values(r.crash.steps).some((done) => !done))
        .map((r) => ({
          id: `crash-${r.number}`,
          text: `Run ${r.number} crashed: secure the evidence first`,
          to: { station: "runs", search: { evidence: String(r.number) } },
          severity: "stop" as const,
        })),
      ...faults
        .filter((f) => f.state === "closed")
        .map((f) => ({
          id: `unproven-${f.number}`,
          text:
            `${faultName(f.number)} ${f.title}: ` +
            `${mendedElsewhere(f, line) === null ? "mended, not proven" : `mended in ${mendedElsewhere(f, line)}, not here`}`,
          to: { station: "faults", search: { fault: String(f.number) } },
          severity: "care" as const,
        })),
      ...[...stale].map(([group, causes]) => ({
        id: `stale-${group}`,
        setUp: true,
        text: `Set-up of ${group || "the craft"} is stale: ${causes.join(", ")} changed since`,
        to: { station: "versions", search: { setup: "1" } },
        severity: "care" as const,
      })),
      ...debts(file, own).map((d) => ({
        id: `debt-${d.setting.id}`,
        setUp: true,
        text: `Workaround since ${d.since}: ${d.setting.name} ${d.setting.value} hides “${d.setting.hides}”`,
        to: { station: "versions", search: { setup: "1" } },
        severity: "care" as const,
      })),
    ];
    return found;
  }, [file, version, design]);
  if (lines.length === 0) return null;
  const setUp = lines.filter((l) => l.setUp);
  return (
    <section aria-label="From the records" className="mt-3">
      <h2 className="border-b border-ink pb-1">From the records</h2>
      <ul>
        {lines
          .filter((l) => !l.setUp || setUp.length === 1)
          .map((l) => (
            <Line key={l.id} line={l} onGo={() => go(l.to)} />
          ))}
      </ul>
      {setUp.length > 1 && (
        // Several lines about the set-up would bury those above.
        <details data-record="set-up" className="border-b border-hair py-1">
          <summary className="cursor-pointer text-[12px] leading-4 text-ink">
            <b className={SEVERITY_COLOUR.care}>{SEVERITY_WORD.care}</b> Set-up: {setUp.length} things to look at
          </summary>
          <ul>
            {setUp.map((l) => (
              <Line key={l.id} line={l} onGo={() => go(l.to)} />
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

interface RecordLine {
  id: string;
  text: string;
  severity: "stop" | "care";
  to: { station: string; search: Record<string, string> };
  /** about the set-up: several of these fold into one */
  setUp?: boolean;
}

function Line({ line, onGo }: { line: RecordLine; onGo: () => void }) {
  return (
    <li data-record={line.id} className="flex gap-2 border-b border-hair py-1">
      <span className="pt-[3px]">
        <Flag severity={line.severity} />
      </span>
      <button type="button" className="text-left text-[12px] leading-4 text-ink" onClick={onGo}>
        <b className={SEVERITY_COLOUR[line.severity]}>{SEVERITY_WORD[line.severity]}</b> {line.text}
      </button>
    </li>
  );
}
