import type { UnitSetup } from "./setup";
import { cavitation } from "./cavitation";
import { kindOf } from "./kinds/models";
import { propellerLoad } from "./propeller";
import { stallOutside } from "./section";
import { tipOutside } from "./words";

/** Share of the blade of an open propeller that is stalled standing at an rpm, 0 to 1; 0 of everything else. */
export const stalledAt = ({ propeller, medium }: Pick<UnitSetup, "propeller" | "medium">, rpm: number): number =>
  propeller ? propellerLoad(propeller, medium, 0, rpm).stalled : 0;

/** Tip Mach number at an rpm; NaN where nothing whirls in the open, or nobody knows. */
export const tipMachAt = ({ tips, medium }: Pick<UnitSetup, "tips" | "medium">, rpm: number): number =>
  tips ? (rpm * Math.PI * tips) / 60 / medium.soundSpeed : Number.NaN;

/**
 * Where a drive standing at an rpm leaves the range of its method, as sentences: blades too fast or stalled, tips on
 * which water boils, what a kind was never held against. Its shape by itself is told apart (shapesOutside).
 */
export function outsideAt(u: UnitSetup, rpm: number): string[] {
  const { propulsor: p, measured } = u.unit;
  const beyond = p && !measured ? (kindOf(p).beyond?.(p, rpm, u.medium) ?? null) : null;
  const boils = u.tips === null ? null : cavitation(u.unit, u.tips, rpm, u.medium);
  return [
    ...tipOutside(tipMachAt(u, rpm)),
    ...stallOutside(stalledAt(u, rpm)),
    ...(beyond === null ? [] : [beyond]),
    ...(boils
      ? [
          `blade tips at ${boils.tip.toFixed(0)} m/s may cavitate, from about ${boils.from.toFixed(0)} ` +
            "m/s on near the surface",
        ]
      : []),
  ];
}
