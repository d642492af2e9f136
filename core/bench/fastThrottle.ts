import type { FastThrottle } from "../design/thrustTest";

export type FastThrottleFinding =
  | { kind: "none" }
  | { kind: "untested" }
  | { kind: "ramp"; diameter: number; safe: number; fails: number }
  | { kind: "size"; holds: number; fails: number; ramp: number }
  | { kind: "voltage"; lowest: number; floor: number }
  | { kind: "all" }
  | { kind: "unresolved"; why: "contradiction" | "not told" | "one trial" };

/**
 * What a table of propellers, ramps and cut-outs says. Cut-outs that a slower ramp cures on the same propeller point
 * at the ramp; ones that a smaller propeller cures at the same ramp
 * point at the load; a voltage that sinks to the cells' floor points at the pack. Trials that contradict one another
 * leave it unresolved.
 *
 * @param floor V of the whole pack at which controllers commonly cut (cells' floor times cells); null when not known
 */
export function judgeFastThrottle(test: Pick<FastThrottle, "trials">, floor: number | null): FastThrottleFinding[] {
  const told = test.trials.filter((t) => t.cutOut !== null);
  if (test.trials.length === 0) return [{ kind: "untested" }];
  if (told.length === 0) return [{ kind: "unresolved", why: "not told" }];
  const cut = told.filter((t) => t.cutOut === true);
  const held = told.filter((t) => t.cutOut === false);
  const findings: FastThrottleFinding[] = [];
  if (floor !== null) {
    const lowest = Math.min(...cut.map((t) => t.voltage ?? Infinity));
    if (lowest <= floor) findings.push({ kind: "voltage", lowest, floor });
  }
  if (cut.length === 0)
    return [...findings, told.length < 2 ? { kind: "unresolved", why: "one trial" } : { kind: "none" }];
  const same = (a: number, b: number) => Math.abs(a - b) < 1e-9;
  // The same propeller and ramp with both outcomes: chance, or something else that was not written down.
  const contradicts = cut.some((c) =>
    held.some((h) => same(c.diameter, h.diameter) && same(c.pitch, h.pitch) && same(c.ramp, h.ramp)),
  );
  const slower = cut.flatMap((c) =>
    held
      .filter((h) => same(h.diameter, c.diameter) && same(h.pitch, c.pitch) && h.ramp > c.ramp)
      .map((h) => ({ c, h })),
  );
  const worse = cut.some((c) =>
    held.some((h) => same(h.diameter, c.diameter) && same(h.pitch, c.pitch) && h.ramp < c.ramp),
  );
  if (contradicts || worse) return [...findings, { kind: "unresolved", why: "contradiction" }];
  const byRamp = slower.toSorted((a, b) => a.h.ramp - b.h.ramp)[0];
  if (byRamp) findings.push({ kind: "ramp", diameter: byRamp.c.diameter, safe: byRamp.h.ramp, fails: byRamp.c.ramp });
  const smaller = cut.flatMap((c) =>
    held.filter((h) => same(h.ramp, c.ramp) && h.diameter < c.diameter).map((h) => ({ c, h })),
  );
  const bySize = smaller.toSorted((a, b) => b.h.diameter - a.h.diameter)[0];
  if (bySize) findings.push({ kind: "size", holds: bySize.h.diameter, fails: bySize.c.diameter, ramp: bySize.c.ramp });
  if (findings.length === 0)
    findings.push(
      held.length === 0 && cut.length > 1
        ? { kind: "all" }
        : { kind: "unresolved", why: told.length < 2 ? "one trial" : "contradiction" },
    );
  return findings;
}
