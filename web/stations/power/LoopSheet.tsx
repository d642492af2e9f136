import { useMemo, useState } from "react";
import type { Turn } from "../../../core/sizing/loop";
import { type LoopResult, sizingLoop } from "../../../core/sizing/loop";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const SIZE = 300;

const ENDED: Record<Exclude<LoopResult["status"], "closes">, string> = {
  runsAway: "Runs away: each turn adds as much as the one before. No pack is enough.",
  outOfThrust: "The drives cannot hold the duty any more, whatever the pack.",
  packTooLarge: "No pack of many times the craft's mass lasts as long.",
  iterationLimit: "Has not settled after 40 turns: it is close to running away.",
};

/** The sizing loop made visible: each turn carries what the turn before added, and it closes or runs away. */
export function LoopSheet() {
  const { design: entered, seen: design } = useDesk();
  const { habit } = usePreferences();
  const [minutes, setMinutes] = useState<number | null>(null);
  const [structure, setStructure] = useState(0.2);
  const wanted = minutes ?? entered.brief.targets.find((t) => t.metric === "endurance")?.value ?? 600;
  const limit = design.brief.targets.find((t) => t.metric === "auw" && t.comparison === "atMost")?.value ?? null;
  const loop = useMemo(() => sizingLoop(design, wanted, structure), [design, wanted, structure]);
  const turns = loop?.turns ?? [];
  const masses = [...turns.map((t) => t.mass), ...(loop && Number.isFinite(loop.mass) ? [loop.mass] : [])];
  return (
    <section
      aria-label="The loop"
      className="grid grid-cols-[300px_minmax(0,1fr)] gap-6 px-4 py-3 max-[860px]:grid-cols-[minmax(0,1fr)]"
    >
      <div>
        <h2>The loop</h2>
        <p className="text-[12px] text-pencil">
          Mass asks for thrust, thrust for power, power and the time for a pack, and the pack is mass.
        </p>
        <div className="mt-1 flex gap-3 text-[12px]">
          <label className="w-28">
            Time wanted
            <QuantityField
              boxed
              label="Loop, time wanted"
              value={wanted}
              dimension="time"
              onCommit={(v) => v !== null && v > 0 && setMinutes(v)}
            />
          </label>
          <label className="w-36">
            Structure for each g of pack
            <QuantityField
              boxed
              label="Loop, structure"
              value={structure}
              dimension="ratio"
              onCommit={(v) => v !== null && setStructure(Math.max(0, v))}
            />
          </label>
        </div>
        {masses.length > 1 && <LoopDrawing masses={masses} limit={limit} />}
      </div>
      <div className="min-w-0">
        {!loop ? (
          <p>It needs parts with masses, a pack that stands in the ledger, a drive, and a duty.</p>
        ) : (
          <>
            <p className="text-[15px]" data-loop={loop.status}>
              {loop.status === "closes" ? (
                <>
                  Closes at <b className="num text-ink">{plain(loop.mass, "mass", habit)}</b> with{" "}
                  <b className="num text-ink">{plain(loop.capacity, "capacity", habit)}</b>
                  {limit !== null && loop.mass > limit && (
                    <span className="text-stop">
                      : {plain(loop.mass - limit, "mass", habit)} over the limit.{" "}
                      {loop.bare >= limit
                        ? "Without its pack it is over already: that is not the time's fault."
                        : "This drive cannot meet both the mass and the run time."}
                    </span>
                  )}
                  {loop.sizedBy === "current" && (
                    <span>
                      . The current sets that pack, not the energy: a smaller one sags to its floor before it is empty.
                    </span>
                  )}
                </>
              ) : (
                <span className="text-stop">
                  {ENDED[loop.status]}
                  {loop.status === "outOfThrust" && (
                    <>
                      {" "}
                      That is at <span className="num">{plain(loop.mass, "mass", habit)}</span>
                      {turns.length === 0 ? ", without the pack: the drives are too weak, whatever the time." : "."}
                    </>
                  )}
                </span>
              )}
            </p>
            {Number.isFinite(loop.growth) && (
              <p className="mt-1">
                One gram added anywhere grows to <b className="num text-[17px] text-care">{loop.growth.toFixed(2)}</b>{" "}
                g. Each turn adds {loop.gain.toFixed(2)} of the one before; at 1.00 the loop never closes.
              </p>
            )}
            <LoopParts turns={turns} />
          </>
        )}
      </div>
    </section>
  );
}

/** What each part grows to. */
function LoopParts({ turns }: { turns: Turn[] }) {
  const { habit } = usePreferences();

  return (
    <table className="rows mt-2 w-full max-w-[640px]">
      <thead>
        <tr>
          <th>turn</th>
          <th className="text-right!">mass</th>
          <th className="text-right!">thrust asked</th>
          <th className="text-right!">mean power</th>
          <th className="text-right!">pack</th>
          <th className="text-right!">its mass</th>
        </tr>
      </thead>
      <tbody>
        {turns.slice(0, 14).map((t) => (
          <tr key={t.number}>
            <td>{t.number}</td>
            <td className="num text-right">{plain(t.mass, "mass", habit)}</td>
            <td className="num text-right">{plain(t.thrust, "force", habit)}</td>
            <td className="num text-right">{plain(t.power, "power", habit)}</td>
            <td className="num text-right">{plain(t.capacity, "capacity", habit)}</td>
            <td className="num text-right">{plain(t.packMass, "mass", habit)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The mass that goes in against the mass that comes out. */
function LoopDrawing({ masses, limit }: { masses: number[]; limit: number | null }) {
  const { habit } = usePreferences();
  const most = Math.max(...masses, limit ?? 0, 1e-9);
  const least = Math.min(...masses);
  const radius = (kg: number) => 26 + ((kg - least * 0.94) / (most - least * 0.94 || 1)) * (SIZE / 2 - 40);
  const c = SIZE / 2;
  // A spiral: every turn goes once round, from its own mass to the next one's.
  const spiral = masses
    .slice(0, -1)
    .map((m, k) => {
      const next = masses[k + 1] ?? m;
      return Array.from({ length: 49 }, (_, i) => {
        const t = i / 48;
        const r = radius(m) + (radius(next) - radius(m)) * t;
        const a = -Math.PI / 2 + 2 * Math.PI * t;
        return (
          `${k === 0 && i === 0 ? "M" : "L"}${(c + r * Math.cos(a)).toFixed(1)} ` +
          `${(c + r * Math.sin(a)).toFixed(1)}`
        );
      }).join("");
    })
    .join("");
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      width="100%"
      className="mt-2 block bg-sheet"
      role="img"
      aria-label={`Sizing loop: ${masses.map((m) => plain(m, "mass", habit)).join(", ")}`}
    >
      {limit !== null && <circle cx={c} cy={c} r={radius(limit)} fill="none" stroke="var(--stop)" strokeWidth="1.4" />}
      <path d={`M${c} 6V${SIZE - 6}M6 ${c}H${SIZE - 6}`} stroke="var(--hair)" />
      <path d={spiral} fill="none" stroke="var(--pencil)" strokeDasharray="5 3" strokeWidth="1.8" />
      {masses.map((m, k) => (
        <circle
          key={`${m}${k}`}
          cx={c}
          cy={c - radius(m)}
          r="3.5"
          fill="var(--sheet)"
          stroke={limit !== null && m > limit ? "var(--stop)" : "var(--ink)"}
        />
      ))}
      {(
        [
          ["mass", c + 4, 14, "start"],
          ["thrust", SIZE - 6, c - 6, "end"],
          ["power", c + 4, SIZE - 8, "start"],
          ["pack", 6, c - 6, "start"],
        ] as const
      ).map(([word, x, y, anchor]) => (
        <text key={word} x={x} y={y} textAnchor={anchor} fontSize="11" fill="var(--ink2)">
          {word}
        </text>
      ))}
    </svg>
  );
}
