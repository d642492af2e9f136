import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import type { PropulsionResult } from "../../../core/subjects/propulsion/node";
import { plain } from "../../../core/wording/format";
import { Cautions } from "../runs/Cautions";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { DragArea } from "./DragArea";
import { Duty } from "./Duty";

const RESULTS: MetricKey[] = [
  "thrust",
  "thrustToWeight",
  "thrustThrottle",
  "speed",
  "current",
  "packCurrent",
  "packVoltage",
  "packPower",
  "rpm",
  "torque",
  "motorLoss",
  "tipMach",
  "endurance",
];

/** What a drive known by its curve alone does not have. */
const OF_PARTS: readonly MetricKey[] = ["current", "rpm", "torque", "motorLoss", "tipMach"];

/** What the drives give standing at full throttle, what they are asked for, and what to beware of. */
export function Standing({ result }: { result: PropulsionResult | null }) {
  const { seen: design, evaluation, preview, go } = useDesk();
  const { habit } = usePreferences();
  const byCurve = design.units[result?.lead ?? 0]?.measured != null;
  return (
    <div>
      <h2>
        Standing, full throttle
        {design.units.length > 1 ? `: ${result?.drives[result.lead]?.name ?? ""} leads` : ""}
      </h2>
      <table className="rows mt-1 w-full">
        <tbody>
          {RESULTS.map((key) => {
            const q = evaluation.metrics[key];
            const then = preview?.evaluation.metrics[key];
            if (!q && (key === "thrustThrottle" || key === "speed" || (byCurve && OF_PARTS.includes(key)))) return null;
            return (
              <tr key={key}>
                <td>{(q?.by?.label ?? METRICS[key].label).replace(", full throttle", "")}</td>
                <td className="text-right">
                  <Computed metric={key} quantity={q} />
                  {then && q && Math.abs(then.value - q.value) > 1e-4 * Math.abs(q.value) && (
                    <span className="num block text-accent">→ {plain(then.value, METRICS[key].dimension, habit)}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Duty />
      {result && <DragArea />}
      <Cautions places={["power"]} />
      {!resultIn(evaluation, balance) && (
        <p className="mt-2 text-pencil">
          The craft has no mass yet:{" "}
          <button type="button" className="link" onClick={() => go({ station: "layout" })}>
            enter parts
          </button>
          .
        </p>
      )}
    </div>
  );
}
