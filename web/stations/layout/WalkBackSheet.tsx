import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import type { Item, WalkBack } from "../../../core/design/schema";
import { walkBackSchema } from "../../../core/design/schema";
import { movingMass } from "../../../core/subjects/mass/tree";
import { walkBack } from "../../../core/subjects/balance/walkBack";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const WHY: Record<string, string> = {
  noPart: "Choose the part that is slid or lightened.",
  noMass: "No part has a mass yet.",
  wrongWay: "The stop line must lie behind the CG; a part that is lightened must sit ahead of it.",
  noRange: "This part is fixed: let it slide, or take mass out of it instead.",
};

/** A plan to walk the CG back in steps, for a craft that is unstable on purpose; printed, it has a line to fill in at each step. */
export function WalkBackSheet() {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const cg = resultIn(evaluation, balance)?.cg.x ?? 0;
  // The part that moves the CG furthest by sliding is the first proposal.
  const strength = (i: Item) => (i.slide ? movingMass(design.items, i) * (i.slide.to - i.place.x) : 0);
  const first = design.items.length > 0 ? design.items.reduce((best, i) => (strength(i) > strength(best) ? i : best)) : undefined;
  const plan: WalkBack = design.walkBack ?? { stop: Math.round((cg + 0.02) * 1000) / 1000, steps: 4, itemId: first?.id ?? null, by: first?.slide ? "slide" : "remove" };
  const put = (change: Partial<WalkBack>) => edit((d) => void (d.walkBack = { ...plan, ...change }));
  const result = walkBack(design, plan);
  const item = design.items.find((i) => i.id === plan.itemId);
  return (
    <section aria-label="Walk it back" className="px-4 py-3">
      <h2>Walk the CG back to a stop line</h2>
      <p className="max-w-[70ch]">
        For a craft held by its controller rather than by balance{design.schools.balance === "stable" ? " (the brief says this one is stable by balance)" : ""}: one step at a time,
        tuned again and trimmed before the next, and never past the stop line.
      </p>
      <div className="my-2 flex flex-wrap items-end gap-3">
        <label className="w-32">
          Stop line, x
          <QuantityField boxed label="Stop line" value={plan.stop} dimension="length" onCommit={(v) => v !== null && put({ stop: v })} />
        </label>
        <label className="w-20">
          Steps
          <QuantityField boxed label="Steps" value={plan.steps} dimension="count" schema={walkBackSchema.shape.steps} onCommit={(v) => v !== null && put({ steps: v })} />
        </label>
        <label>
          By
          <select className="box" aria-label="By" value={plan.by} onChange={(e) => put({ by: e.target.value as WalkBack["by"] })}>
            <option value="slide">sliding</option>
            <option value="remove">taking mass out of</option>
          </select>
        </label>
        <label className="min-w-44">
          Part
          <select className="box" aria-label="Part to walk with" value={plan.itemId ?? ""} onChange={(e) => put({ itemId: e.target.value || null })}>
            <option value="">choose</option>
            {design.items.map((i) => (
              <option key={i.id} value={i.id}>
                {i.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {result.status !== "planned" ? (
        <p className="text-care">{WHY[result.status]}</p>
      ) : (
        <>
          {result.endsAt !== null && (
            <p className="text-stop">
              Step {result.endsAt} is out of reach of {item?.name}: {plan.by === "slide" ? "its range ends before" : "it has no more mass to give"}.
            </p>
          )}
          <table className="rows mt-1 w-full max-w-[900px]">
            <thead>
              <tr>
                <th>step</th>
                <th className="text-right!">CG x</th>
                <th className="text-right!">{plan.by === "slide" ? "slide by" : "take out"}</th>
                <th className="text-right!">{plan.by === "slide" ? "stands at" : "left"}</th>
                <th>retuned, date</th>
                <th>trim that it needed</th>
                <th>go on</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td className="text-ink">start</td>
                <td className="num text-right">{plain(result.start, "length", habit)}</td>
                <td />
                <td className="num text-right">
                  {item && (plan.by === "slide" ? plain(item.place.x, "length", habit) : plain((item.mass?.value ?? 0) * item.quantity, "mass", habit))}
                </td>
                <td className="border-l border-l-hair" />
                <td className="border-l border-l-hair" />
                <td className="border-l border-l-hair">☐</td>
              </tr>
              {result.steps.map((s) => (
                <tr key={s.number} className={s.possible ? "" : "text-stop"} data-step={s.number}>
                  <td className="text-ink">{s.number === result.steps.length ? `${s.number}, the stop line` : s.number}</td>
                  <td className="num text-right">{plain(s.cg, "length", habit)}</td>
                  <td className="num text-right">{plain(s.by, plan.by === "slide" ? "length" : "mass", habit)}</td>
                  <td className="num text-right">{s.possible ? plain(s.to, plan.by === "slide" ? "length" : "mass", habit) : "out of reach"}</td>
                  <td className="border-l border-l-hair" />
                  <td className="border-l border-l-hair" />
                  <td className="border-l border-l-hair">☐</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-2 text-[12px]">
            Expect to need more nose-down trim at each step, and a twitchier response to pitch: lower the gains first, raise them after. Stop at once when it needs more than half
            of its control travel.
          </p>
        </>
      )}
    </section>
  );
}
