import { useState } from "react";
import { freeId } from "../../../core/design/ids";
import type { Patch } from "../../../core/design/patch";
import type { Item } from "../../../core/design/schema";
import { AXES, type Axis, type BallastSpot, ballastSpotSchema } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import {
  type BalancePlan,
  type CgGoal,
  alternatives,
  balance as balanceFor,
  packMassFor,
  planPatch,
} from "../../../core/subjects/balance/solver";
import { packPatch } from "../../../core/subjects/energy/packPatch";
import { extent } from "../../../core/subjects/extent/node";
import { ballastSpots } from "../../../core/subjects/mass/ballast";
import { slideOf } from "../../../core/subjects/mass/tree";
import { planText } from "../../../core/wording/balance";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { Flag } from "../../glyphs/Flag";

const METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;

/**
 * Where the CG shall be: the middle of each window that the brief states; on the centreline once it is said to be off
 * it.
 */
function useGoals() {
  const { seen: design, evaluation } = useDesk();
  const aside = evaluation.findings.some((f) => f.code === "cg-sideways");
  const start = (axis: Axis): number | null => {
    const t = design.brief.targets.find((x) => x.metric === METRIC[axis] && x.comparison === "between");
    if (t?.upper !== undefined) return (t.value + t.upper) / 2;
    return axis === "y" && aside ? 0 : null;
  };
  const [own, setOwn] = useState<Partial<Record<Axis, number | null>>>({});
  const goal = (axis: Axis) => (axis in own ? (own[axis] ?? null) : start(axis));
  return { goal, setGoal: (axis: Axis, v: number | null) => setOwn((o) => ({ ...o, [axis]: v })) };
}

function Way({ text, plan, patch, first }: { text: string; plan: BalancePlan | null; patch: Patch; first: boolean }) {
  const { setPreview, apply } = useDesk();
  const { habit } = usePreferences();
  const show = {
    onMouseEnter: () => setPreview(patch),
    onMouseLeave: () => setPreview(null),
    onFocus: () => setPreview(patch),
    onBlur: () => setPreview(null),
  };
  return (
    <li className="flex items-start gap-3 border-b border-hair py-2" data-way>
      <span className="flex-1">
        <b className="font-medium text-ink">{text}</b>
        {plan && (
          <span className="num block text-pencil">
            CG {AXES.map((a) => plain(plan.cg[a], "length", habit)).join(" / ")}
            {plan.added > 0
              ? `, + ${plain(plan.added, "mass", habit, habit === "metric" ? 1 : 2)} in all`
              : ", no mass added"}
          </span>
        )}
      </span>
      <button type="button" className={first ? "act act-first" : "act"} {...show} onClick={() => apply(patch)}>
        Apply
      </button>
    </li>
  );
}

/** The balance solver over everything that may move or be added. */
export function BalanceSheet() {
  const { seen: design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { goal, setGoal } = useGoals();
  const [fixed, setFixed] = useState<ReadonlySet<string>>(new Set());
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const spots = ballastSpots(design);
  const own = design.ballastSpots.length > 0;
  const sliding = design.items.filter((i) => AXES.some((a) => slideOf(i, a) !== null) && i.mass !== null);
  const toggled = (set: ReadonlySet<string>, id: string) =>
    new Set(set.has(id) ? [...set].filter((x) => x !== id) : [...set, id]);

  const now = resultIn(evaluation, balance);
  const goals: Partial<Record<Axis, CgGoal>> = {};
  for (const axis of AXES) {
    const g = goal(axis);
    if (g !== null) goals[axis] = { low: g, high: g };
  }
  const addSpot = () =>
    edit((d) => {
      const id = freeId(d.ballastSpots, "spot-");
      d.ballastSpots.push({
        id,
        name: id.replace("-", " "),
        place: { x: resultIn(evaluation, extent)?.min.x ?? 0, y: 0, z: now?.cg.z ?? 0 },
        most: 0.2,
      });
    });
  return (
    <section aria-label="Balance" className="grid grid-cols-[300px_1fr] gap-6 px-4 py-3 max-[860px]:grid-cols-1">
      <div>
        <h2>Where the CG shall be</h2>
        <table className="mt-1 w-full text-[12px]">
          <tbody>
            {AXES.map((axis) => (
              <tr key={axis}>
                <td className="w-6 text-ink">{axis}</td>
                <td className="w-28">
                  <QuantityField
                    boxed
                    label={`CG goal ${axis}`}
                    value={goal(axis)}
                    dimension="length"
                    empty="as it falls"
                    onCommit={(v) => setGoal(axis, v)}
                  />
                </td>
                <td className="num pl-2 text-pencil">
                  now {now?.placed[axis] ? plain(now.cg[axis], "length", habit) : "open"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <h2 className="mt-3">What may slide</h2>
        {sliding.length === 0 && (
          <p className="text-[12px]">Nothing yet. Select a part in the drawing and allow it to move.</p>
        )}
        {sliding.map((i) => (
          <label key={i.id} className="flex min-h-6 items-center gap-2 text-[12px]">
            <input type="checkbox" checked={!fixed.has(i.id)} onChange={() => setFixed(toggled(fixed, i.id))} />
            <span className="text-ink">{i.name}</span>
            <span className="num text-pencil">
              {AXES.flatMap((a) => {
                const r = slideOf(i, a);
                return r ? `${a} ${plain(r.from, "length", habit, 0)} to ${plain(r.to, "length", habit, 0)}` : [];
              }).join(", ")}
            </span>
          </label>
        ))}
        <h2 className="mt-3">Where ballast can sit</h2>
        <Spots spots={spots} closed={closed} setClosed={setClosed} toggled={toggled} own={own} />
        {!own && (
          <p className="text-[11px] text-pencil">Nose and tail of the drawing, until you name spots of your own.</p>
        )}
        <button type="button" className="link mt-1 text-[12px]" onClick={addSpot}>
          name a spot
        </button>
      </div>
      <Ways sliding={sliding} fixed={fixed} spots={spots} closed={closed} goals={goals} />
    </section>
  );
}

/** The ways found, or why there are none. */
function Ways({
  sliding,
  fixed,
  spots,
  closed,
  goals,
}: {
  sliding: Item[];
  fixed: ReadonlySet<string>;
  spots: BallastSpot[];
  closed: ReadonlySet<string>;
  goals: Partial<Record<Axis, CgGoal>>;
}) {
  const { seen: design } = useDesk();
  const { habit } = usePreferences();
  const question = {
    sliders: sliding.filter((i) => !fixed.has(i.id)).map((i) => i.id),
    spots: spots.filter((s) => !closed.has(s.id)).map((s) => s.id),
    goals,
  };
  const ways = alternatives(design, question);
  const result = ways.length > 0 ? null : balanceFor(design, question);
  const pack = goals.x ? packMassFor(design, goals.x.low) : null;
  const battery = design.batteries.find((b) => b.itemId === pack?.itemId);
  const packChange = pack && battery ? packPatch(design, battery.id, battery.capacity.value * pack.factor) : null;
  return (
    <div>
      <h2>
        Ways to get there{" "}
        <span className="text-[12px] font-normal text-pencil">
          least added mass, then least movement; point at one to see it
        </span>
      </h2>
      {result === null ? (
        <ul className="mt-1 border-t border-hair">
          {ways.map((w, i) => (
            <Way
              key={w.kind}
              text={planText(design, w.plan, habit)}
              plan={w.plan}
              patch={planPatch(design, w.plan)}
              first={i === 0}
            />
          ))}
          {packChange && pack && battery && Math.abs(pack.factor - 1) > 0.02 && (
            <Way
              first={false}
              plan={null}
              patch={packChange.patch}
              text={
                `Fit a ${pack.factor > 1 ? "heavier" : "lighter"} pack: ` +
                `${plain(battery.capacity.value * pack.factor, "capacity", habit)}, about ` +
                `${plain(packChange.mass, "mass", habit)}`
              }
            />
          )}
        </ul>
      ) : result.status === "noPlace" ? (
        <p className="mt-2 text-care">Open: {result.open}. Say where it is, then this can be answered.</p>
      ) : result.status === "noMass" ? (
        <p className="mt-2">No part has a mass yet.</p>
      ) : result.status === "infeasible" ? (
        <div className="mt-2" data-infeasible>
          <p className="flex items-center gap-2">
            <Flag severity="stop" /> <b className="text-stop">Out of reach</b> with what may slide and where ballast can
            sit.
          </p>
          <p className="mt-1">
            The nearest point is{" "}
            <span className="num text-ink">
              {AXES.map((a) => `${a} ${plain(result.nearest.cg[a], "length", habit)}`).join(", ")}
            </span>
            :{" "}
            {AXES.flatMap((a) =>
              result.miss[a] === undefined ? [] : `${plain(result.miss[a] ?? 0, "length", habit)} off along ${a}`,
            ).join(", ")}
            .
          </p>
          <ul className="mt-2 border-t border-hair">
            <Way
              first
              text={planText(design, result.nearest, habit)}
              plan={result.nearest}
              patch={planPatch(design, result.nearest)}
            />
          </ul>
          <p className="mt-2 text-[12px]">
            Widen a slide range, let another part slide, or name a ballast spot further out.
          </p>
        </div>
      ) : null}
    </div>
  );
}

/** Places where ballast may stand. */
function Spots({
  spots,
  closed,
  setClosed,
  toggled,
  own,
}: {
  spots: BallastSpot[];
  closed: ReadonlySet<string>;
  setClosed: (next: ReadonlySet<string>) => void;
  toggled: (set: ReadonlySet<string>, id: string) => Set<string>;
  own: boolean;
}) {
  const { edit } = useDesk();
  const editSpot = (id: string, mutate: (s: BallastSpot) => void) =>
    edit((d) => {
      const s = d.ballastSpots.find((x) => x.id === id);
      if (s) mutate(s);
    });
  return (
    <table className="mt-1 w-full text-[12px]">
      <thead>
        <tr>
          <th />
          <th>spot</th>
          <th className="text-right!">x</th>
          <th className="text-right!">y</th>
          <th className="text-right!">z</th>
          <th className="text-right!">at most</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {spots.map((s) => (
          <tr key={s.id}>
            <td>
              <input
                type="checkbox"
                aria-label={`Use ${s.name}`}
                checked={!closed.has(s.id)}
                onChange={() => setClosed(toggled(closed, s.id))}
              />
            </td>
            <td>
              {own ? (
                <TextField
                  required
                  label={`Ballast spot ${s.name}, name`}
                  value={s.name}
                  onCommit={(v) => editSpot(s.id, (x) => void (x.name = v))}
                />
              ) : (
                s.name
              )}
            </td>
            {AXES.map((axis) => (
              <td key={axis} className="w-12">
                <QuantityField
                  label={`Ballast spot ${s.name}, ${axis}`}
                  disabled={!own}
                  value={s.place[axis]}
                  dimension="length"
                  onCommit={(v) => v !== null && editSpot(s.id, (x) => void (x.place[axis] = v))}
                />
              </td>
            ))}
            <td className="w-14">
              <QuantityField
                label={`Ballast spot ${s.name}, at most`}
                disabled={!own}
                value={s.most}
                dimension="mass"
                schema={ballastSpotSchema.shape.most}
                onCommit={(v) => v !== null && editSpot(s.id, (x) => void (x.most = v))}
              />
            </td>
            <td>
              {own && (
                <button
                  type="button"
                  className="link"
                  aria-label={`Remove spot ${s.name}`}
                  onClick={() => edit((d) => void (d.ballastSpots = d.ballastSpots.filter((x) => x.id !== s.id)))}
                >
                  ×
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
