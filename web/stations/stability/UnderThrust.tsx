import { TURNS, type Turn } from "../../../core/subjects/authority/allocate";
import type { AuthorityResult } from "../../../core/subjects/authority/node";
import { mixingCsv, mixingJson } from "../../../core/exchange/mixing";
import { saveFile } from "../../drawing/saveSvg";
import { THIN_AXIS } from "../../../core/subjects/authority/verdicts";
import { plain, show } from "../../../core/wording/format";
import { Computed, Doubted } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

const LEFT = { holds: "holds", spins: "stays up and spins", lost: "comes down" } as const;
const WORD: Record<Turn, string> = { roll: "Roll", pitch: "Pitch", yaw: "Yaw" };

/** A craft that hangs on its drives: throttle of each in hover, what is left about each axis, and with one dead. */
export function UnderThrust({ result }: { result: AuthorityResult }) {
  const { evaluation, file, version } = useDesk();
  const save = (ending: "csv" | "json", text: string | null) =>
    text !== null &&
    saveFile(
      `${file.craft.name} ${version.label} allocation.${ending}`,
      text,
      ending === "csv" ? "text/csv" : "application/json",
    );
  const { habit } = usePreferences();
  const { holding, units, losses, offset, scale } = result;
  const quantity = evaluation.metrics.hoverShare;
  const away = Math.hypot(offset.x, offset.y);
  const axis = (turn: Turn) => {
    const never = holding.never.includes(turn);
    const { plus, minus } = holding.reach[turn];
    const share = Math.min(plus, minus) / scale;
    const open = turn === "yaw" && result.noTorque;
    const vanes = result.vanes.find((v) => v.turn === turn && v.most > 0);
    const each = vanes && show(vanes.most, vanes.sd, "torque", habit);
    if (vanes)
      return (
        <tr key={turn} data-axis={turn}>
          <td className="text-ink">{WORD[turn]}</td>
          <td className="num text-right" colSpan={2}>
            {each?.value} ± {each?.sd} {each?.unit}, each way
          </td>
          <td className={vanes.word === "holds" ? "text-clear" : vanes.word === "thin" ? "text-care" : "text-stop"}>
            {vanes.word} by {vanes.names.join(", ")}, {plain(vanes.need, "torque", habit)} to be held
          </td>
          {result.emptied && <td />}
        </tr>
      );
    const word = open
      ? "open"
      : never
        ? "never had"
        : !holding.shares
          ? "lost"
          : share < THIN_AXIS && turn !== "yaw"
            ? "thin"
            : "holds";
    return (
      <tr key={turn} data-axis={turn}>
        <td className="text-ink">{WORD[turn]}</td>
        <td className="num text-right">{open || never ? "–" : plain(minus, "torque", habit)}</td>
        <td className="num text-right">{open || never ? "–" : plain(plus, "torque", habit)}</td>
        <td className={word === "holds" ? "text-clear" : word === "lost" ? "text-stop" : "text-care"}>{word}</td>
        {result.emptied && (
          <td className="num text-right" data-emptied-axis>
            {open || never ? "–" : plain(Math.min(...Object.values(result.emptied.reach[turn])), "torque", habit)}
          </td>
        )}
      </tr>
    );
  };
  return (
    <section aria-label="Under thrust" className="border-b border-hair px-4 py-3">
      <div className="flex flex-wrap gap-x-10 gap-y-3">
        <div>
          <h2>Hardest unit in hover</h2>
          <p className="leading-8 [&_.num]:text-[22px]!">
            <Computed metric="hoverShare" quantity={evaluation.metrics.hoverShare} />
          </p>
          <p className="text-pencil">
            of its thrust
            {result.emptied && quantity && !quantity.unknown && (
              <span className="block" data-emptied>
                {Math.round(100 * result.emptied.hardest.value)} ± {Math.round(100 * result.emptied.hardest.sd)} % with{" "}
                {Math.round(100 * result.emptied.charge)} % left in its pack
                {result.emptied.hardest.value > 1 && ": nothing holds it then"}
                <Doubted quantity={quantity} />
              </span>
            )}
            CG {plain(away, "length", habit, habit === "metric" ? 0 : 2)} beside the middle of its thrust
          </p>
        </div>
        <table className="rows w-auto">
          <caption className="text-left font-semibold text-ink">Moment left in level hover</caption>
          <thead>
            <tr>
              <th>axis</th>
              <th className="text-right!">one way</th>
              <th className="text-right!">the other</th>
              <th />
              {result.emptied && <th className="text-right!">pack nearly empty</th>}
            </tr>
          </thead>
          <tbody>{TURNS.map(axis)}</tbody>
        </table>
        <div className="overflow-x-auto">
          <table className="rows w-auto">
            <caption className="text-left font-semibold text-ink">Each unit</caption>
            <thead>
              <tr>
                <th>unit</th>
                <th className="text-right!">in hover</th>
                <th>when it is dead</th>
                <th className="text-right!">hardest then</th>
              </tr>
            </thead>
            <tbody>
              {units.map((u, k) => {
                const loss = losses[k];
                const share = holding.shares?.[k];
                return (
                  <tr key={u.name} data-unit-row={k}>
                    <td className="text-ink">{u.name}</td>
                    <td className="num text-right">{share === undefined ? "–" : `${Math.round(100 * share)} %`}</td>
                    <td
                      className={
                        loss?.left === "holds" && !result.noTorque
                          ? "text-clear"
                          : loss?.left === "lost"
                            ? "text-stop"
                            : "text-care"
                      }
                    >
                      {loss ? (result.noTorque && loss.left === "holds" ? "level, yaw open" : LEFT[loss.left]) : ""}
                    </td>
                    <td className="num text-right">
                      {loss?.hardest == null ? "–" : `${Math.round(100 * loss.hardest)} %`}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      </div>
      <p className="mt-1 text-pencil">
        Of one-way units by a linear programme: level, still air. Units that turn half each way are taken in turns.
        Controls in a wash count by what of them stands in it, ± 30 %: like the rotors' torque it grows with the thrust,
        so that their ratio is the same at any throttle. Swirl is not counted.{" "}
        {result.mixing && (
          <span className="no-print">
            How each answers a newton and a newton metre, as a file:{" "}
            <button type="button" className="link" onClick={() => save("csv", mixingCsv(result))}>
              allocation as CSV
            </button>{" "}
            or{" "}
            <button
              type="button"
              className="link"
              onClick={() => save("json", mixingJson(file.craft.name, version.label, result))}
            >
              as JSON
            </button>
            .
          </span>
        )}
        {!result.upright && " On its tail: yaw is about the line of its thrust."}
      </p>
    </section>
  );
}
