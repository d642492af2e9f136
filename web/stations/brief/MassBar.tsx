import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** The mass limit as a bar: what each group of the ledger takes of it, and what is left, or how far it is over. */
export function MassBar() {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const limit = design.brief.targets.find((t) => t.metric === "auw" && t.comparison === "atMost")?.value;
  const total = resultIn(evaluation, balance)?.mass;
  if (limit === undefined || total === undefined) return null;
  const groups = new Map<string, number>();
  for (const item of design.items) {
    const group = item.group || "other";
    groups.set(group, (groups.get(group) ?? 0) + (item.mass?.value ?? 0) * item.quantity);
  }
  const sorted = [...groups].sort((a, b) => b[1] - a[1]);
  const full = Math.max(limit, total) * 1.06;
  const width = 872;
  const px = (kg: number) => (kg / full) * width;
  let at = 0;
  const left = limit - total;
  return (
    <section aria-label="Mass against its limit" className="wide border-t border-hair px-4 py-3">
      <h2>Mass, by group, against the limit</h2>
      <svg
        viewBox={`0 0 ${width} 54`}
        className="mt-1 block w-full"
        role="img"
        aria-label={
          left >= 0
            ? `${plain(left, "mass", habit)} left of ${plain(limit, "mass", habit)}`
            : `${plain(-left, "mass", habit)} over ${plain(limit, "mass", habit)}`
        }
      >
        {sorted.map(([name, kg], i) => {
          const x = px(at);
          at += kg;
          const w = px(kg);
          return (
            <g key={name}>
              <rect
                x={x}
                y="20"
                width={w}
                height="22"
                fill={i % 2 === 0 ? "var(--band)" : "var(--part)"}
                stroke="var(--paper)"
              />
              {w > 46 && (
                <>
                  <text x={x + 4} y="15" fontSize="11" fill="var(--ink2)">
                    {name}
                  </text>
                  <text x={x + 4} y="35" className="num" style={{ fontSize: 11 }} fill="var(--ink)">
                    {plain(kg, "mass", habit)}
                  </text>
                </>
              )}
            </g>
          );
        })}
        {left >= 0 ? (
          <>
            <rect
              x={px(total)}
              y="20"
              width={px(left)}
              height="22"
              fill="none"
              stroke="var(--clear)"
              strokeWidth="1.5"
            />
            {px(left) > 60 && (
              <text x={px(total) + 5} y="35" fontSize="11" fill="var(--clear)">
                {plain(left, "mass", habit)} left
              </text>
            )}
          </>
        ) : (
          <rect
            x={px(limit)}
            y="20"
            width={px(-left)}
            height="22"
            fill="none"
            stroke="var(--stop)"
            strokeDasharray="3 2"
            strokeWidth="1.5"
          />
        )}
        <path d={`M${px(limit)} 8v40`} stroke="var(--stop)" strokeWidth="2" />
        <text x={px(limit) - 4} y="52" fontSize="11" textAnchor="end" fill="var(--stop)">
          limit {plain(limit, "mass", habit)}
          {left < 0 ? `, ${plain(-left, "mass", habit)} over` : ""}
        </text>
      </svg>
    </section>
  );
}
