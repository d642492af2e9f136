import { useMemo } from "react";
import { DISPLAY } from "../../../core/design/units";
import { LEAST_MARGIN, type LatticeResult } from "../../../core/subjects/flight/latticeNode";
import type { FlightResult } from "../../../core/subjects/flight/node";
import { cgPerCommand, withCgAt } from "../../../core/subjects/flight/shift";
import { AT_SPEED } from "../../../core/subjects/flight/trim";
import { plain, showSd } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** A round step of the CG: about a twentieth of the mean chord, m. */
function stepOf(mac: number, inches: boolean): number {
  const unit = inches ? 0.0254 : 0.001;
  const fine = (0.05 * mac) / unit;
  const ten = 10 ** Math.floor(Math.log10(fine));
  return unit * ten * ([1, 2, 5, 10].find((k) => k * ten >= fine * 0.8) ?? 10);
}

/** What a shift of the CG asks of the trim, and what a degree of the pitch control is worth. */
export function CgShift({ wings, flown }: { wings: LatticeResult; flown: FlightResult }) {
  const { habit } = usePreferences();
  const { seen: design, evaluation } = useDesk();
  const { staticMargin: margin, trimCommand: command } = evaluation.metrics;
  const least = design.flight.margin ?? LEAST_MARGIN;
  const { at, travel, values } = flown;
  const slowest = values.stallSpeed?.value;
  const speed = slowest === undefined ? null : AT_SPEED * slowest;
  const step = stepOf(wings.mac, habit === "imperial");
  const rows = useMemo(
    () =>
      at && speed !== null
        ? withCgAt(
            wings,
            at,
            speed,
            travel,
            [-2, -1, 0, 1, 2].map((k) => at.cg + k * step),
          )
        : [],
    [wings, at, travel, speed, step],
  );
  const perRad = useMemo(() => (at && speed !== null ? cgPerCommand(wings, at, speed) : null), [wings, at, speed]);
  if (!at || speed === null || rows.length === 0) return null;
  const places = habit === "imperial" ? 2 : 0;
  return (
    <section aria-label="What a shift of the CG asks" className="min-w-0">
      <h3>A shift of the CG, at {plain(speed, "speed", habit)}</h3>
      <table className="rows mt-1 w-auto">
        <thead>
          <tr>
            <th className="text-right!">CG, {DISPLAY[habit].length}</th>
            <th className="text-right!">shift</th>
            <th className="text-right!">static margin</th>
            <th className="text-right!">pitch control, nose up</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => {
            const shift = r.cg - at.cg;
            const here = Math.abs(shift) < 1e-9;
            const [unstable, thin] = [r.margin !== null && r.margin < 0, r.margin !== null && r.margin < least];
            return (
              <tr key={r.cg} data-shift={Math.round(shift / step)}>
                <td className={`num text-right ${here ? "font-semibold text-ink" : ""}`}>
                  {plain(r.cg, "length", habit, places).split("\u00a0")[0]}
                </td>
                <td className="num text-right">
                  {here
                    ? "as it is"
                    : `${plain(Math.abs(shift), "length", habit, places + (step < 0.002 ? 1 : 0))} ` +
                      `${shift > 0 ? "aft" : "forward"}`}
                </td>
                <td className={`num text-right ${unstable ? "text-stop" : thin ? "text-care" : ""}`}>
                  {r.margin === null
                    ? "–"
                    : `${plain(r.margin, "percent", habit)}${unstable ? ", unstable" : thin ? ", under the least" : ""}`}
                </td>
                <td className={`num text-right ${r.reached === false ? "text-stop" : ""}`}>
                  {r.command === null
                    ? "none is described"
                    : `${plain(r.command, "angle", habit)}${r.reached === false ? ", beyond its travel" : ""}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1 text-pencil">
        {margin && `Each margin ± ${showSd(margin.sd, "percent", habit)} %`}
        {command && `, each angle ± ${showSd(command.sd, "angle", habit)}°`}: as where the CG is now. The craft weighs
        the same everywhere.
      </p>
      {perRad !== null && (
        <p className="mt-1 text-pencil" data-worth>
          One degree of the pitch control, or of reflex, is worth{" "}
          {plain(Math.abs(perRad) * (Math.PI / 180), "length", habit, places + 1)} of CG there
          {perRad < 0
            ? ": more up with the CG farther aft, for its own lift does more than its moment"
            : ": less up with the CG farther aft"}
          .
        </p>
      )}
    </section>
  );
}
