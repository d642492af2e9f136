import { useState } from "react";
import { MOST_SLIP, rudderFor } from "../../../core/subjects/wind/flat";
import type { Held } from "../../../core/subjects/wind/node";
import { plain } from "../../../core/wording/format";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

type Flat = NonNullable<Extract<Held, { kind: "wings" }>["flat"]>;

/**
 * How tight a craft turns that cannot bank freely: no tighter than this, what bends its way, and the rudder that a
 * wanted radius takes.
 */
export function TightTurn({ flat, touches }: { flat: Flat; touches: number }) {
  const { habit } = usePreferences();
  const [wanted, setWanted] = useState<number | null>(null);
  const tip = `So near the ground a tip touches from ${plain(touches, "angle", habit)} of bank on.`;
  if (flat.status === "open")
    return (
      <p className="mt-1 text-care" data-tightest="open">
        {tip} How tight it turns is open: {flat.because}.
      </p>
    );
  const { bending, tightest } = flat;
  const { forces } = tightest;
  const need = wanted === null ? null : rudderFor(bending, wanted);
  const most = plain(bending.travel, "angle", habit);
  return (
    <div data-tightest={tightest.radius.toFixed(1)}>
      <p className="mt-1 text-care">{tip}</p>
      <p className="mt-1 text-ink">
        With no more than {plain(MOST_SLIP, "angle", habit, 0)} of slip it turns no tighter than{" "}
        <span className="num predicted text-[18px]">{plain(tightest.radius, "distance", habit)}</span> at{" "}
        {plain(tightest.speed, "speed", habit, 1)}.
      </p>
      <p className="mt-1">
        At most {plain(forces.bank, "force", habit)} come from that bank, {plain(forces.side, "force", habit)} from its
        side and {plain(forces.thrust, "force", habit)} from full thrust that points inwards.{" "}
        {bending.slips !== null &&
          "In free air its rudder holds about " +
            `${plain(Math.min(MOST_SLIP, bending.slips * bending.travel), "angle", habit)} of slip. `}
        Slower, with more slip, or with something that touches, it turns tighter.
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          For a radius of
          <span className="w-24">
            <QuantityField
              boxed
              label="Wanted radius of a turn"
              value={wanted}
              dimension="distance"
              empty="not said"
              onCommit={(v) => {
                if (v !== null && !(v > 0 && v <= 1e5)) return "accepted: more than zero, to 100 km";
                setWanted(v);
                return null;
              }}
            />
          </span>
        </label>
        {need && (
          <span
            data-rudder={need.need}
            className={
              need.need === "none" || (need.need === "rudder" && need.least <= bending.travel)
                ? "text-ink"
                : "text-care"
            }
          >
            {need.need === "more"
              ? "so little slip does not turn it so tight at that speed: more bank, more side area, or slower"
              : need.need === "none"
                ? "the bank alone may do it"
                : need.need === "open"
                  ? bending.travel === 0
                    ? "it needs something that yaws it"
                    : "open: its nose turns into no side wind by itself, and what a rudder holds is not told"
                  : need.least <= bending.travel
                    ? `in free air at the least ${plain(need.least, "angle", habit)} of the ${most} of its rudder`
                    : `in free air at the least ${(need.least / bending.travel).toFixed(1)} times what ` +
                      `its rudder gives at ${most}: a larger one, or further aft`}
          </span>
        )}
      </div>
    </div>
  );
}
