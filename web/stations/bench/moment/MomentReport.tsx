import { type MomentResult, momentKnown, momentOf, takenAs, unsaidOf } from "../../../../core/bench/moment";
import { type MomentTest, momentReadings } from "../../../../core/design/bench";
import { supportOf } from "../../../../core/design/support";
import type { Dimension } from "../../../../core/design/units";
import { resultIn } from "../../../../core/evaluate";
import { axes } from "../../../../core/subjects/axes/node";
import { balance } from "../../../../core/subjects/balance/node";
import { tightest } from "../../../../core/subjects/wind/flat";
import { wind } from "../../../../core/subjects/wind/node";
import { drivesSign } from "../../../../core/subjects/propulsion/learned";
import { plain, show } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { BesideMeasured } from "../BesideMeasured";
import { usePreferences } from "../../../app/preferences";

/** What is predicted of the same, where something is; N·m. */
function usePredicted({ axis, role }: MomentTest): { value: number; sd: number } | null {
  const { evaluation, seen } = useDesk();
  const board = resultIn(evaluation, axes);
  // What was weighed stands on the board in its place: it is no prediction.
  if (board?.kind === "wings" && seen.flight.torque && !board.otherDrives) return null;
  if (board?.kind === "drives" && role === "answers") {
    const { coupled } = board.lines.find((l) => l.axis === axis)?.command ?? { coupled: { plus: 0, minus: 0 } };
    const most = Math.max(coupled.plus, coupled.minus);
    return most > 0 ? { value: most, sd: board.share * most } : null;
  }
  if (board?.kind !== "wings" || role !== "turns it" || axis !== "roll") return null;
  const piece = board.moments
    .find((m) => m.moment === "let go")
    ?.lines.find((l) => l.axis === axis)
    ?.disturbs.find((p) => p.what === "torque");
  return piece ? { value: Math.abs(piece.value), sd: piece.sd } : null;
}

/** The radius that no turn near the ground goes below, m; null where that is not told, or it banks freely. */
function useTightest({ axis, way }: MomentTest): { radius: number; speed: number } | null {
  const held = resultIn(useDesk().evaluation, wind)?.held;
  if (axis !== "yaw" || way.by !== "timed turn" || held?.kind !== "wings") return null;
  if (held.flat?.status !== "known") return null;
  // Slower it turns tighter: what was paced or read off the clip counts.
  return tightest({ ...held.flat.bending, speed: way.speed ?? held.flat.bending.speed });
}

/** What the readings say beside what is predicted, and what to take over. */
export function MomentReport({ test, number }: { test: MomentTest; number: number | null }) {
  const { design, evaluation, edit, frozen } = useDesk();
  const { habit } = usePreferences();
  const mass = resultIn(evaluation, balance);
  const { ways, onThrust, beats } = supportOf(design);
  const { auw } = evaluation.metrics;
  // A part without a mass hangs on the lines too.
  const listed = auw && !auw.incomplete?.length ? auw.value : null;
  // Hung by its nose a propeller pulls along the lines, and rotors lift whatever hangs level.
  const pushed = test.axis === "roll" || onThrust;
  const result = momentOf(test, listed, pushed);
  const predicted = usePredicted(test);
  const least = useTightest(test);
  const inertia = mass && { value: mass.inertia[test.axis], sd: mass.inertiaSd[test.axis] };
  if (momentReadings(test) === 0) return null;
  const said = (m: { value: number; sd: number } | null, dimension: Dimension) => {
    if (!m) return null;
    const s = show(m.value, m.sd, dimension, habit);
    return `${s.value}${s.sd ? ` ± ${s.sd}` : ""} ${s.unit}`;
  };
  const row = (key: keyof MomentResult, label: string, text: string | null, before: string | null) =>
    text !== null && (
      <tr key={key}>
        <td className="text-ink">{label}</td>
        <td className="num predicted">{before ?? "–"}</td>
        <td className="num measured" data-moment={key}>
          {text}
        </td>
      </tr>
    );
  // What the board does not reckon with is not taken over.
  const winged = ways.includes("wings");
  const counts = { torque: winged, steering: !winged && !onThrust && !beats };
  const asked = takenAs(test);
  const place = asked !== null && counts[asked] ? asked : null;
  const known = result.moment && momentKnown(result.moment, test.way.by, number);
  const taken = place !== null && known !== null && design.flight[place]?.note === known.note;
  const perSecond = (m: { value: number; sd: number } | null) =>
    m && `${((m.value * 180) / Math.PI).toFixed(0)} ± ${((m.sd * 180) / Math.PI).toFixed(0)} °/s`;
  return (
    <section aria-label="What the readings say" className="mt-3 border-t border-hair pt-2">
      <BesideMeasured>
        {row("moment", `Moment about ${test.axis}`, said(result.moment, "torque"), said(predicted, "torque"))}
        {row("inertia", `Inertia about ${test.axis}`, said(result.inertia, "inertia"), said(inertia, "inertia"))}
        {row("rate", "Turns", perSecond(result.rate), null)}
        {row(
          "radius",
          "On a circle of",
          said(result.radius, "distance"),
          least && `${plain(least.radius, "distance", habit)} or more`,
        )}
      </BesideMeasured>
      {predicted && <p className="mt-1 text-pencil">Predicted at full throttle, standing.</p>}
      {least && result.radius && result.radius.value + 2 * result.radius.sd < least.radius && (
        <p className="mt-1 text-care" data-too-tight>
          Tighter than 15° of slip lets it turn at {plain(least.speed, "speed", habit, 1)}: it was slower, it skidded,
          or something touched.
        </p>
      )}
      {unsaidOf(test.way) !== null && <p className="mt-1 text-care">Open: {unsaidOf(test.way)} is not said.</p>}
      {test.way.by === "two lines" && test.way.mass === null && (
        <p className="mt-1 text-care" data-carried>
          {pushed && test.way.twists.length > 0
            ? "Open: its drives push along the lines. Read off a scale above what these carry at that throttle."
            : listed === null && "Open: what the lines carry, or a mass for every part in the list."}
        </p>
      )}
      {result.left > 0 && (
        <p className="mt-1 text-care">
          {result.left === 1 ? "One twist is" : `${result.left} twists are`} beyond what lines so short and far apart
          allow: check lengths and angles.
        </p>
      )}
      {place !== null && known && number !== null && !frozen && !taken && (
        <p className="mt-1">
          <button
            type="button"
            className="act"
            onClick={() =>
              edit((d) => {
                const sign = drivesSign(d);
                // What was weighed with other drives does not count any more, and is let go.
                if (d.flight.weighedWith !== sign) Object.assign(d.flight, { torque: null, steering: null });
                d.flight[place] = known;
                d.flight.weighedWith = sign;
              })
            }
          >
            Take it over
          </button>{" "}
          <span className="text-pencil">
            {place === "torque"
              ? "in place of the torque that is computed of the drives at full throttle"
              : "as the steering at full command, beside what is computed"}
          </span>
        </p>
      )}
      {taken && <p className="mt-1 text-clear">taken over: {plain(known?.value ?? 0, "torque", habit)}</p>}
      {place === null && result.moment && (
        <p className="mt-1 text-pencil">
          Kept with the session, and nothing reckons with it. Taken over can be:{" "}
          {winged
            ? "what turns it about roll, at full throttle"
            : counts.steering
              ? "what a command gives about yaw, at full throttle"
              : "nothing so far of a craft that hangs on its drives or beats its wings"}
          .
        </p>
      )}
      {number === null && place !== null && !taken && (
        <p className="mt-1 text-pencil">Keep the session first: then its number goes along as the source.</p>
      )}
    </section>
  );
}
