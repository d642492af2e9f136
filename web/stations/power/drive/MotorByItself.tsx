import { useState } from "react";
import { finite } from "../../../../core/design/bounds";
import { type Unit, gearSchema } from "../../../../core/design/schema";
import { motorAlone, ratioFor, voltsOf } from "../../../../core/subjects/propulsion/alone";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { Line } from "../../../fields/FormParts";

const RATE = finite.positive("a rate is more than 0").max(1e6);

/**
 * What a motor gives by itself at the end of its gearing, before anything turns on it; and the gearing for a wanted
 * rate.
 */
export function MotorByItself({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const { design } = useDesk();
  const { habit } = usePreferences();
  const [rate, setRate] = useState<number | null>(null);
  const volts = voltsOf(unit, design.batteries);
  if (volts === null) return null;
  const alone = motorAlone(unit, volts);
  const rpm = (x: number) => plain(x, "rotation", habit, 0);
  const ratio = rate === null ? null : Number(ratioFor(unit, volts, rate).toPrecision(3));
  const fits = ratio !== null && gearSchema.shape.ratio.safeParse(ratio).success;
  const geared = unit.gear.ratio !== 1;
  return (
    <div className="mt-1 flex flex-col gap-1" data-alone>
      <p className="text-pencil">
        By itself on <span className="num">{plain(volts, "voltage", habit)}</span>
        {geared ? ", behind its gearing" : ""}: free <span className="num">{rpm(alone.free)}</span>; wastes least at{" "}
        <span className="num">
          {rpm(alone.best.rpm)}, {plain(alone.best.torque, "torque", habit)}
        </span>{" "}
        (<span className="num">{Math.round(100 * alone.best.efficiency)} %</span>); at its rating{" "}
        <span className="num">{plain(alone.ratedPower, "power", habit, 0)}</span> at the shaft; held still{" "}
        <span className="num">
          {plain(alone.stallTorque, "torque", habit)}, {plain(alone.stallCurrent, "current", habit, 0)}
        </span>
        , for a moment only. Twice the reduction: twice the torque at half the rate, the same power.
      </p>
      <Line label="To turn at">
        <QuantityField
          boxed
          label="Rate to turn at"
          value={rate}
          dimension="rotation"
          empty="rpm wanted"
          schema={RATE}
          onCommit={setRate}
        />
      </Line>
      {ratio !== null && (
        <p className="flex items-center justify-between gap-2">
          <span>
            where it wastes least: a reduction of <b className="num">{ratio} : 1</b>
          </span>
          {fits ? (
            <button type="button" className="act" onClick={() => drive((u) => void (u.gear.ratio = ratio))}>
              Gear it so
            </button>
          ) : (
            <span className="text-care">beyond 0.05 to 200</span>
          )}
        </p>
      )}
    </div>
  );
}
