import { resultIn } from "../../../core/evaluate";
import { floats } from "../../../core/subjects/floats/node";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** How deep a craft lies on its hull, held level, and what its bodies displace at the most. */
export function Afloat() {
  const { seen, evaluation } = useDesk();
  const { habit } = usePreferences();
  const result = resultIn(evaluation, floats);
  if (!result) return null;
  const { most, mass, level } = result;
  const xs = seen.bodies.filter((b) => b.frames.length > 1).flatMap((b) => b.frames.map((f) => f.x));
  const long = Math.max(...xs) - Math.min(...xs);
  const degrees = (v: number) => plain(Math.abs(v), "angle", habit, 1);
  const length = (q: { value: number; sd: number }) => {
    const s = show(q.value, q.sd, "length", habit);
    return `${s.value} ± ${s.sd} ${s.unit}`;
  };
  return (
    <section aria-label="Afloat" className="border-b border-hair px-4 py-3" data-afloat={level ? "floats" : "under"}>
      <h2>
        Afloat <span className="font-normal text-pencil">held upright and level</span>
      </h2>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        {level && (
          <div>
            <p className="num predicted text-[22px]! leading-8">{length(level.draught)}</p>
            <p className="text-pencil">
              from the lowest point of its hull to the water, {plain(level.water.value, "length", habit)} over the
              baseline
            </p>
          </div>
        )}
        <div>
          <p className={`num predicted text-[22px]! leading-8 ${level ? "" : "text-stop"}`}>
            {(most.value / mass.value).toFixed(1)} × its mass
          </p>
          <p className="text-pencil">
            displaced by its described bodies wholly under: {plain(most.value, "mass", habit)} for{" "}
            {plain(mass.value, "mass", habit)}
          </p>
        </div>
        {level?.upright && (
          <div>
            <p
              className={`num predicted text-[22px]! leading-8 ${level.upright.roll.gm.value < 0 ? "text-stop" : ""}`}
              data-gm
            >
              {length(level.upright.roll.gm)}
            </p>
            <p className="text-pencil">
              metacentric height GM: its metacentre over its CG, for small angles of heel (
              {plain(level.upright.pitch.gm.value, "length", habit, 0)} of pitch)
            </p>
          </div>
        )}
        {level?.behind && (
          <div>
            <p className="num predicted text-[22px]! leading-8">
              {length({ ...level.behind, value: Math.abs(level.behind.value) })}
            </p>
            <p className="text-pencil">
              the middle of that water lies {level.behind.value > 0 ? "behind" : "ahead of"} its CG: it settles by the{" "}
              {level.behind.value > 0 ? "bow" : "stern"}
              {level.upright?.pitch.rest
                ? ` by about ${degrees(level.upright.pitch.rest.value)}`
                : " until they are plumb"}
            </p>
          </div>
        )}
      </div>
      <p className="mt-1 text-pencil">
        By the frames of its bodies, closed and dry; what else is under water is not counted, nor water inside that runs
        to one side. How it heels and trims beyond small angles, or swamps, is not computed: float it in a tub. Hulls
        that do not plane commonly turn under full rudder on a circle of three to seven lengths, here{" "}
        {plain(3 * long, "distance", habit, 1)} to {plain(7 * long, "distance", habit, 1)} across (common practice); how
        this one turns is not computed: time a circle.
      </p>
    </section>
  );
}
