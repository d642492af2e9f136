import { useSearchParams } from "react-router";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { type Item, itemSchema } from "../../../core/design/schema";
import { plain, show } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { CraftDrawing } from "../../drawing/CraftDrawing";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { Ledger, newPart } from "./Ledger";
import { WindowStrip } from "./WindowStrip";

const ROWS: MetricKey[] = ["auw", "cgX", "cgY", "cgZ"];
const MORE: MetricKey[] = ["inertiaRoll", "inertiaPitch", "inertiaYaw", "length", "width", "height", "cost"];

/** Mass and CG, predicted beside the newest measurement of this version. */
function Balance() {
  const { evaluation, preview, file, version } = useDesk();
  const { habit } = usePreferences();
  const measured = (metric: MetricKey) =>
    file.runs
      .filter((r) => r.version === version.label)
      .flatMap((r) => r.metrics.flatMap((m) => (m.metric === metric && m.measured ? [m.measured] : [])))
      .at(-1);
  const odds = evaluation.findings.find((f) => f.code === "cg-outside" || f.code === "cg-doubtful" || f.code === "cg-inside");
  const chance = (e: typeof evaluation) => {
    const t = e.targets.find((x) => x.target.metric === "cgX");
    return t?.odds === null || t?.odds === undefined ? null : Math.round(t.odds * 100);
  };
  const now = chance(evaluation);
  const then = preview ? chance(preview.evaluation) : null;
  return (
    <section aria-label="Mass and centre of gravity">
      <h2>Mass and centre of gravity</h2>
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th />
            <th>predicted</th>
            <th>measured</th>
          </tr>
        </thead>
        <tbody>
          {ROWS.map((key) => {
            const m = measured(key);
            const q = evaluation.metrics[key];
            const changed = preview?.evaluation.metrics[key];
            const s = m && show(m.value, m.sd, METRICS[key].dimension, habit);
            return (
              <tr key={key}>
                <td className="whitespace-nowrap text-ink">{key === "auw" ? "AUW" : `CG ${key.slice(2).toLowerCase()}`}</td>
                <td>
                  <Computed metric={key} quantity={q} colour={key === "cgX" && odds?.code === "cg-outside" ? "text-stop font-semibold" : "text-ink font-medium"} />
                  {changed && q && Math.abs(changed.value - q.value) > 1e-5 && (
                    <span className="num block text-accent">→ {show(changed.value, changed.sd, changed.dimension, habit).value}</span>
                  )}
                </td>
                <td className="num measured">{s ? `${s.value}${s.sd ? ` ± ${s.sd}` : ""}` : <span className="font-normal text-pencil">not yet</span>}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {now !== null && (
        <p className="mt-2 text-[12px]">
          Odds inside the window: <b className={`num ${now < 50 ? "text-stop" : "text-ink"}`}>{now}</b> in 100
          {then !== null && then !== now && (
            <>
              , <b className="num text-accent">{then}</b> after the change
            </>
          )}
        </p>
      )}
      <details className="mt-2 text-[12px]">
        <summary className="cursor-pointer text-accent">Inertia, size and cost</summary>
        <table className="rows mt-1 w-full">
          <tbody>
            {MORE.map((key) => (
              <tr key={key}>
                <td>{METRICS[key].label}</td>
                <td className="text-right">
                  <Computed metric={key} quantity={evaluation.metrics[key]} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}

/** Everything about the selected part that the ledger's row does not hold. */
function Selected({ item, number }: { item: Item; number: number }) {
  const { edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const change = (mutate: (item: Item) => void) =>
    edit((d) => {
      const found = d.items.find((i) => i.id === item.id);
      if (found) mutate(found);
    });
  const mass = evaluation.mass;
  const perTen = mass && item.mass ? (0.01 * item.mass.value * item.quantity) / mass.mass : null;
  return (
    <section aria-label="Selected part" className="mt-4">
      <h2>
        Selected:{" "}
        <span className="text-accent">
          {number} {item.name}
        </span>
      </h2>
      <table className="mt-1 w-full text-[12px]">
        <tbody>
          <tr>
            <td>group</td>
            <td colSpan={3}>
              <TextField label={`${item.name}, group`} value={item.group} placeholder="none" onCommit={(v) => change((p) => void (p.group = v))} />
            </td>
          </tr>
          <tr>
            <td>box</td>
            {(["x", "y", "z"] as const).map((axis) => (
              <td key={axis}>
                <QuantityField
                  label={`${item.name}, box ${axis}`}
                  value={item.size[axis]}
                  dimension="length"
                  schema={itemSchema.shape.size.shape[axis]}
                  onCommit={(v) => v !== null && change((p) => void (p.size[axis] = v))}
                />
              </td>
            ))}
          </tr>
          <tr>
            <td className="whitespace-nowrap pr-2">slides x</td>
            {item.slide ? (
              <>
                <td>
                  <QuantityField
                    label={`${item.name}, slides from`}
                    value={item.slide.from}
                    dimension="length"
                    onCommit={(v) => v !== null && change((p) => void (p.slide = { from: v, to: p.slide?.to ?? v + 0.05 }))}
                  />
                </td>
                <td>
                  <QuantityField
                    label={`${item.name}, slides to`}
                    value={item.slide.to}
                    dimension="length"
                    onCommit={(v) => v !== null && change((p) => void (p.slide = { from: p.slide?.from ?? v - 0.05, to: v }))}
                  />
                </td>
                <td className="text-right">
                  <button type="button" className="link" onClick={() => change((p) => void (p.slide = null))}>
                    fix it
                  </button>
                </td>
              </>
            ) : (
              <td colSpan={3}>
                fixed,{" "}
                <button type="button" className="link" onClick={() => change((p) => void (p.slide = { from: p.place.x - 0.05, to: p.place.x + 0.05 }))}>
                  let it slide
                </button>
              </td>
            )}
          </tr>
          <tr>
            <td>comes</td>
            <td colSpan={3}>
              <select
                className="cell"
                aria-label={`${item.name}, comes from`}
                value={item.source}
                onChange={(e) => change((p) => void (p.source = e.target.value as Item["source"]))}
              >
                <option value="have">on hand</option>
                <option value="buy">to buy</option>
                <option value="salvage">from another craft</option>
                <option value="make">to make</option>
              </select>
            </td>
          </tr>
          <tr>
            <td colSpan={4}>
              <label className="flex min-h-6 items-center gap-2">
                <input type="checkbox" checked={item.mirrored} onChange={(e) => change((p) => void (p.mirrored = e.target.checked))} />a pair: half at +y, half at −y
              </label>
            </td>
          </tr>
        </tbody>
      </table>
      {perTen !== null && (
        <p className="mt-1 text-[12px]">
          {plain(0.01, "length", habit, habit === "metric" ? 0 : 2)} of slide moves the CG <b className="num text-ink">{plain(perTen, "length", habit)}</b>
        </p>
      )}
      <p className="mt-1">
        <button type="button" className="link text-[12px]" onClick={() => edit((d) => void (d.items = d.items.filter((i) => i.id !== item.id)))}>
          Remove this part
        </button>
      </p>
    </section>
  );
}

export function LayoutStation() {
  const { design, edit } = useDesk();
  const [search, setSearch] = useSearchParams();
  const selected = search.get("part");
  const select = (id: string) => {
    if (id !== selected) setSearch({ part: id }, { replace: true });
  };
  const index = design.items.findIndex((i) => i.id === selected);
  const item = design.items[index];
  if (design.items.length === 0)
    return (
      <section className="p-6">
        <h2 className="text-[18px]">No parts yet</h2>
        <p className="mt-2">Begin with the heaviest: the battery, then the motor. A name, a mass and how far it sits behind the nose are enough.</p>
        <button type="button" className="act act-first mt-4" onClick={() => edit((d) => d.items.push({ ...newPart(d), name: "Battery" }))}>
          Add the first part
        </button>
      </section>
    );
  return (
    <>
      <div className="flex min-h-[470px] flex-wrap border-b border-hair">
        <div className="min-w-[300px] flex-1 bg-sheet">
          <CraftDrawing selected={selected} onSelect={select} height={400} />
          <WindowStrip />
        </div>
        <div className="w-[276px] shrink-0 border-l border-hair px-4 py-3 max-[640px]:w-full">
          <Balance />
          {item && <Selected item={item} number={index + 1} />}
          <p className="mt-3 text-[11px] text-pencil">Dashed outline: mass not yet weighed. ± holds 2 times in 3, ellipse 9 in 10.</p>
        </div>
      </div>
      <Ledger selected={selected} onSelect={select} />
    </>
  );
}
