import { isMetricKey } from "../../../core/design/craftFile";
import type { MetricKey } from "../../../core/design/metrics";
import { weighIn } from "../../../core/bench/weighIn";
import { useDesk } from "../../app/desk";

export interface MeasuredValue {
  value: number;
  sd: number;
  by: string;
  date: string;
}

/**
 * The newest measurement of a metric on this version in the state that is looked at: from its bench sessions and runs.
 */
export function useMeasured(): (metric: MetricKey) => MeasuredValue | undefined {
  const { file, version, design, state } = useDesk();
  const first = state.id === design.states[0]?.id;
  const found: (MeasuredValue & { metric: MetricKey })[] = [];
  for (const run of file.runs)
    if (run.version === version.label && run.state === state.id)
      for (const m of run.metrics)
        if (m.measured && isMetricKey(m.metric))
          found.push({ metric: m.metric, ...m.measured, by: `run ${run.number}, ${m.measured.by}`, date: run.date });
  for (const session of file.bench) {
    // A weigh-in is of the state that the mass list is of.
    if (session.version !== version.label || !session.weighIn || !first) continue;
    const result = weighIn(session.weighIn);
    const by = `bench session B-${String(session.number).padStart(2, "0")}`;
    if (result.mass) found.push({ metric: "auw", ...result.mass, by, date: session.date });
    for (const axis of ["x", "y", "z"] as const) {
      const cg = result.cg[axis];
      if (cg) found.push({ metric: ({ x: "cgX", y: "cgY", z: "cgZ" } as const)[axis], ...cg, by, date: session.date });
    }
  }
  found.sort((a, b) => Date.parse(a.date) - Date.parse(b.date));
  return (metric) => found.filter((f) => f.metric === metric).at(-1);
}
