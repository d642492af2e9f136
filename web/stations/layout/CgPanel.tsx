import { chance } from "../../../core/subjects/say";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { growthOf } from "../../../core/subjects/mass/growth";
import { plain, show } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import type { MeasuredValue } from "../bench/measured";
import { useMeasured } from "../bench/measured";

const ROWS: MetricKey[] = ["auw", "cgX", "cgY", "cgZ"];
const MORE: MetricKey[] = [
  "auwExpected",
  "inertiaRoll",
  "inertiaPitch",
  "inertiaYaw",
  "length",
  "width",
  "height",
  "ballastShare",
  "packShare",
  "cost",
  "costToBuy",
];

/** Mass and CG, predicted beside the newest measurement of this version; odds, growth, inertia. */
export function CgPanel() {
  const { seen: design, evaluation, preview } = useDesk();
  const { habit } = usePreferences();
  const measured = useMeasured();
  const oddsIn = (e: typeof evaluation) => e.targets.find((x) => x.target.metric === "cgX")?.odds ?? null;
  const now = oddsIn(evaluation);
  const then = preview ? oddsIn(preview.evaluation) : null;
  const growth = growthOf(design);
  return (
    <section aria-label="Mass and centre of gravity">
      <h2>Mass and centre of gravity</h2>
      <CgTable measured={measured} />
      {now !== null && (
        <p className="mt-2 text-[12px]">
          Chance that the CG is in range: <b className={`num ${now < 0.5 ? "text-stop" : "text-ink"}`}>{chance(now)}</b>
          {then !== null && chance(then) !== chance(now) && (
            <>
              , <b className="num text-accent">{chance(then)}</b> after the change
            </>
          )}
        </p>
      )}
      {(growth.planned !== null || growth.expected > 0.0005) && (
        <p className="mt-1 text-[12px]" data-growth>
          {growth.planned !== null && growth.share !== null && (
            <>
              Planned <span className="num">{plain(growth.planned, "mass", habit)}</span>, now{" "}
              <b className={`num ${growth.share > 0.2 ? "text-care" : "text-ink"}`}>
                {growth.share >= 0 ? "+" : "−"}
                {Math.abs(growth.share * 100).toFixed(0)} %
              </b>
              .{" "}
            </>
          )}
          {growth.expected > 0.0005 && (
            <>
              Expected weight growth: <span className="num">{plain(growth.expected, "mass", habit)}</span>.
            </>
          )}
        </p>
      )}
      <details className="mt-2 text-[12px]">
        <summary className="cursor-pointer text-accent">Inertia, size and cost</summary>
        <table className="rows mt-1 w-full">
          <tbody>
            {MORE.filter((key) => evaluation.metrics[key]).map((key) => (
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

/** The CG along each axis, with its ± and its window. */
function CgTable({ measured }: { measured: (metric: MetricKey) => MeasuredValue | undefined }) {
  const { evaluation, preview, go } = useDesk();
  const { habit } = usePreferences();
  const odds = evaluation.findings.find(
    (f) => f.code === "cg-outside" || f.code === "cg-doubtful" || f.code === "cg-inside",
  );
  return (
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
              <td className="whitespace-nowrap text-ink">
                {key === "auw" ? "AUW" : `CG ${key.slice(2).toLowerCase()}`}
              </td>
              <td>
                <Computed
                  metric={key}
                  quantity={q}
                  colour={
                    key === "cgX" && odds?.code === "cg-outside" ? "text-stop font-semibold" : "text-ink font-medium"
                  }
                />
                {changed && q && Math.abs(changed.value - q.value) > 1e-5 && (
                  <span className="num block text-accent">
                    → {show(changed.value, changed.sd, changed.dimension, habit).value}
                  </span>
                )}
              </td>
              <td className="num measured">
                {s ? (
                  <span title={m.by}>{`${s.value}${s.sd ? ` ± ${s.sd}` : ""}`}</span>
                ) : (
                  <button
                    type="button"
                    className="link whitespace-nowrap font-sans! font-normal"
                    onClick={() =>
                      go({
                        station: "bench",
                        search: {
                          new: key === "auw" ? "total" : key === "cgZ" ? "level-and-tilted" : "three-scales",
                        },
                      })
                    }
                  >
                    {key === "auw" ? "weigh it" : "balance it"}
                  </button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
