import { DISPLAY, toDisplay } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import { BRISK, type Push, spin } from "../../../core/subjects/spin/node";
import { TURN_WORD } from "../../../core/wording/axes";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** What the turning parts store: what opening the throttle at once does, and what a brisk turn does. */
export function Stored() {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  const outcome = evaluation.outcomes[spin.name];
  const result = resultIn(evaluation, spin);
  if (!result) {
    if (outcome?.status !== "missing") return null;
    return (
      <section aria-label="What its rotors store" className="border-b border-hair px-4 py-3">
        <h2>What its rotors store</h2>
        <p className="text-care">Open: {whyNone(outcome)}.</p>
      </section>
    );
  }
  const { rotors, cancels, onWings, kicks, pushes } = result;
  // Of a blade: too little for the unit that a whole craft is told in.
  const small = (inertia: number) =>
    habit === "metric"
      ? `${(1e6 * inertia).toPrecision(2)} kg·mm²`
      : `${toDisplay(inertia, "inertia", habit).toPrecision(2)} ${DISPLAY[habit].inertia}`;
  const kick = kicks.toSorted((a, b) => Math.abs(b.rate) - Math.abs(a.rate))[0];
  return (
    <section aria-label="What its rotors store" className="border-b border-hair px-4 py-3" data-cancels={cancels}>
      <h2>What its rotors store</h2>
      <p className="mt-1 max-w-[72ch]">
        {cancels ? (
          <>
            <b className="text-clear">Nothing together:</b> as they are said to turn, they turn against one another, and
            neither opening the throttle nor a brisk turn pushes it aside.
          </>
        ) : kick ? (
          <>
            The throttle opened at once turns it about {kick.axis} at{" "}
            <span className="num">
              {show(Math.abs(kick.rate), kick.sd, "angle", habit).value} ±{" "}
              {show(Math.abs(kick.rate), kick.sd, "angle", habit).sd}°
            </span>{" "}
            a second, while nothing answers.
          </>
        ) : onWings ? (
          "Turned briskly, they push it aside:"
        ) : (
          <span className="text-care">What that does to the craft is open: a part has no place.</span>
        )}
      </p>
      {!cancels && pushes.length > 0 && (
        <ul className="mt-1">
          {pushes.map((p) => (
            <li key={`${p.turned} ${p.pushed}`} data-push={`${p.turned} ${p.pushed}`}>
              <PushText push={p} />
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1 text-pencil">
        {rotors.map((r) => `${r.name}: ${small(r.inertia)} each at ${Math.round(r.rpm)} rpm`).join("; ")}, ±{" "}
        {Math.round(100 * Math.max(...rotors.map((r) => r.sd / r.inertia)))} %: blades of the mass in the list,
        standing, full throttle. What the motor turns with them is not in it.
      </p>
    </section>
  );
}

function PushText({ push: p }: { push: Push }) {
  const { habit } = usePreferences();
  const said = show(Math.abs(p.moment), p.sd, "torque", habit);
  const share = p.answer === null ? null : Math.abs(p.moment) / p.answer;
  return (
    <>
      {TURN_WORD[p.turned]} at {plain(BRISK, "angle", habit)} a second pushes it about {p.pushed} with{" "}
      <span className="num">
        {said.value} ± {said.sd} {said.unit}
      </span>
      {share !== null && (
        <span className={share > 0.5 ? "text-care" : "text-clear"}>, {Math.round(100 * share)} % of what answers</span>
      )}
      .
    </>
  );
}
