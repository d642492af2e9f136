import type { SweepResult } from "../../../../core/bench/sweep";
import { STANDARD_DENSITY } from "../../../../core/bench/sweep";
import { plain, showSd } from "../../../../core/wording/format";
import { curveText } from "../../../../core/wording/sweep";
import { usePreferences } from "../../../app/preferences";

/** What the sweep came to, number by number. */
export function SweepNumbers({ result }: { result: SweepResult }) {
  const { habit } = usePreferences();
  const standard = STANDARD_DENSITY / result.density;
  const row = (label: string, value: string, hint = "") => (
    <tr key={label} data-sweep={label}>
      <td>{label}</td>
      <td className="num measured text-right whitespace-nowrap text-ink">{value}</td>
      <td className="text-pencil">{hint}</td>
    </tr>
  );
  return (
    <table className="rows h-max w-full">
      <tbody>
        {row(
          "Top thrust",
          `${plain(result.top.value, "force", habit)} ± ${showSd(result.top.sd, "force", habit)}`,
          result.top.each.length > 1 ? `by sweep ${result.top.each.map((t) => t.toFixed(2)).join(", ")} N` : "",
        )}
        {row(
          "In standard air",
          plain(result.top.value * standard, "force", habit),
          `at the same speed, × ${standard.toFixed(3)}`,
        )}
        {result.curve.status === "converged" &&
          row(
            "Curve",
            `e ${result.curve.e.toFixed(2)} ± ${result.curve.range.toFixed(2)}`,
            curveText(result).replace(/^[^:]*: /, ""),
          )}
        {result.deadBand &&
          row(
            "Dead band",
            `${(result.deadBand.mean * 100).toFixed(1)} ± ${(result.deadBand.sd * 100).toFixed(1)} %`,
            result.deadBand.by === "rpm"
              ? `starts at ${((result.deadBand.start ?? 0) * 100).toFixed(1)} %, stops at ` +
                  `${((result.deadBand.stop ?? 0) * 100).toFixed(1)} %`
              : "by thrust: 2 % of the top",
          )}
        {row(
          "Most useful throttle",
          `${(result.maxUseful * 100).toFixed(0)} %`,
          result.saturation === null ? "it rises to the end" : "nothing more comes above it",
        )}
        {result.idle !== null &&
          row("Idle throttle, suggested", `${(result.idle * 100).toFixed(0)} %`, "just above where it starts")}
        {result.half &&
          row(
            "At half thrust",
            `${(result.half.throttle * 100).toFixed(1)} %`,
            [
              result.half.power !== null &&
                `${plain(result.half.power, "power", habit)}, ` +
                  `${((1000 * result.half.thrust) / result.half.power).toFixed(1)} mN/W ` +
                  `(${(((result.half.thrust / 9.80665) * 1000) / result.half.power).toFixed(2)} g/W)`,
              result.half.merit !== null && `figure of merit ${result.half.merit.toFixed(2)}`,
            ]
              .filter(Boolean)
              .join(", "),
          )}
        {result.hysteresis &&
          row(
            "Rising less falling",
            `${plain(result.hysteresis.value, "force", habit)} ± ${showSd(result.hysteresis.sd, "force", habit)}`,
            `at ${(result.hysteresis.throttle * 100).toFixed(0)} %`,
          )}
        {result.constancy &&
          row(
            "Thrust over speed²",
            `${(result.constancy.change * 100).toFixed(2)} ± ${(result.constancy.sd * 100).toFixed(2)} %`,
            "from the middle speed to the top: steady blades stay near 0",
          )}
        {result.resistance &&
          row(
            "Pack and leads",
            `${plain(result.resistance.value, "resistance", habit)} ± ` +
              `${showSd(result.resistance.sd, "resistance", habit)}`,
            `sag ${plain(result.resistance.volts, "voltage", habit)} at most`,
          )}
        {result.temperature &&
          row(
            "Motor",
            plain(result.temperature.highest, "temperature", habit),
            "rise " +
              `${plain(result.temperature.rise, "warmth", habit)}${result.temperature.perMinute === null ? "" : `, ${plain(result.temperature.perMinute, "warmth", habit, 1)} a minute`}`,
          )}
        {result.highest.current !== null && row("Most current", plain(result.highest.current, "current", habit))}
        {result.highest.rpm !== null && row("Highest speed", plain(result.highest.rpm, "rotation", habit))}
        {result.noise !== null && row("Loudest", `${result.noise.toFixed(0)} dB`)}
      </tbody>
    </table>
  );
}
