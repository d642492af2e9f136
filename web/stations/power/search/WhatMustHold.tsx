import { moneyHere, usualPrice } from "../../../../core/design/money";
import type { Dimension } from "../../../../core/design/units";
import type { SearchBounds } from "../../../../core/sizing/search";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";

const BOUNDS = [
  ["maxMass", "All-up mass at most", "mass"],
  ["minEndurance", "Endurance at least", "time"],
  ["minThrustToWeight", "Thrust to weight at least", "ratio"],
  ["maxCost", "Cost at most, at its dearest", "money"],
  ["maxCurrent", "Pack current at most", "current"],
  ["maxTipMach", "Tip Mach at most", "ratio"],
  ["structure", "Structure for each added g", "ratio"],
] as const satisfies [keyof SearchBounds, string, Dimension][];

/** What every candidate must keep. */
export function WhatMustHold({ bounds, setBounds }: { bounds: SearchBounds; setBounds: (next: SearchBounds) => void }) {
  const taken = (key: (typeof BOUNDS)[number][0], v: number | null) =>
    key === "structure" ? Math.max(0, v ?? 0) : key === "maxTipMach" ? (v ?? 1) : v;
  return (
    <div className="mt-1 flex flex-col gap-1">
      {BOUNDS.map(([key, label, dimension]) =>
        key === "maxCost" && usualPrice(1) === null ? (
          <p key={key} className="text-care">
            Cost: say in the workshop what a euro is worth in {moneyHere().currency}. Usual prices are in euros.
          </p>
        ) : (
          <label key={key} className="flex items-center justify-between gap-2">
            {label}
            <span className="w-28">
              <QuantityField
                boxed
                label={label}
                value={bounds[key] ?? null}
                dimension={dimension}
                empty="free"
                onCommit={(v) => setBounds({ ...bounds, [key]: taken(key, v) })}
              />
            </span>
          </label>
        ),
      )}
    </div>
  );
}

/** The same in a line. */
export function MustHoldSaid({ bounds }: { bounds: SearchBounds }) {
  const { habit } = usePreferences();
  const said = BOUNDS.flatMap(([key, label, dimension]) => {
    const value = bounds[key] ?? null;
    return value === null ? [] : `${label} ${plain(value, dimension, habit)}`;
  });
  return <>{said.join(" · ")}</>;
}
