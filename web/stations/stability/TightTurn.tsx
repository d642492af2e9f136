import { useState } from "react";
import { rudderFor } from "../../../core/subjects/wind/flat";
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
  const rudder = wanted === null ? null : rudderFor(bending, wanted);
  const most = plain(bending.travel, "angle", habit);
  return (
    <div data-tightest={tightest.radius.toFixed(1)}>
      <p className="mt-1 text-care">{tip}</p>
      <p className="mt-1 text-ink">
        In the air it turns no tighter than{" "}
        <span className="num predicted text-[18px]">{plain(tightest.radius, "distance", habit)}</span> at{" "}
        {plain(tightest.speed, "speed", habit, 1)}, however it is steered.
      </p>
      <p className="mt-1">
        At most {plain(forces.bank, "force", habit)} come from that bank,{" "}
        {forces.side + forces.thrust > 0 ? (
          <>
            {plain(forces.side, "force", habit)} from its side and {plain(forces.thrust, "force", habit)} from full
            thrust, as it slips {plain(tightest.slip, "angle", habit)} into the turn:{" "}
            {tightest.by === "rudder"
              ? "that is what its rudder holds."
              : "its rudder could hold more, and fins stall beyond."}
          </>
        ) : (
          "and nothing more: no control yaws it."
        )}
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
        {wanted !== null && (
          <span
            data-rudder={rudder === null ? "none" : rudder.toFixed(3)}
            className={rudder === null || rudder > bending.travel ? "text-care" : "text-ink"}
          >
            {rudder === null
              ? "no rudder is large enough at that speed: more bank, more side area, or slower"
              : rudder === 0
                ? "the bank alone may do it"
                : bending.travel === 0
                  ? "it needs a control that yaws it"
                  : rudder <= bending.travel
                    ? `at the least ${plain(rudder, "angle", habit)} of the ${most} of its rudder`
                    : `at the least ${(rudder / bending.travel).toFixed(1)} times what its rudder gives at ${most}: a larger one, or further aft`}
          </span>
        )}
      </div>
    </div>
  );
}
