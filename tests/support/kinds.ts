import type { Propulsor, PropulsorKind, PropulsorOf } from "../../core/subjects/propulsion/kinds/declares";

const known = (value: number) => ({ value, evidence: "measured" as const });

const A: { [K in PropulsorKind]: PropulsorOf<K> } = {
  "ducted fan": {
    kind: "ducted fan",
    diameter: known(0.07),
    hub: known(0.03),
    blades: 10,
    pitch: known(0.075),
    chord: known(0.016),
    length: 0.06,
    exit: null,
    lip: "rounded",
  },
  wheel: {
    kind: "wheel",
    radius: known(0.06),
    load: known(0.5),
    grip: known(0.7),
    rolling: known(0.03),
    ground: "firm",
  },
  "screw drum": {
    kind: "screw drum",
    on: "mud",
    length: known(0.4),
    diameter: known(0.09),
    lead: known(0.12),
    blade: known(0.015),
    starts: 1,
    under: known(0.5),
    load: known(2),
  },
  "flapping wings": { kind: "flapping wings", span: known(0.5), area: known(0.05), stroke: known(1.4) },
  "cycloidal rotor": {
    kind: "cycloidal rotor",
    blades: 4,
    radius: known(0.1),
    span: known(0.2),
    chord: known(0.04),
    amplitude: known(0.6),
    bladeMass: null,
  },
};
/** A propulsor of a kind, all of it measured. */
export const kindAs = <K extends PropulsorKind>(kind: K, change: Partial<PropulsorOf<K>> = {}): PropulsorOf<K> => ({
  ...structuredClone(A[kind]),
  ...change,
});
export const EVERY_KIND: Propulsor[] = Object.values(A);
export { known as measuredTo };
