import type { OperatingPoint } from "../../../core/power/chain";
import type { Battery, Unit } from "../../../core/design/schema";
import { show } from "../../../core/wording/format";

const WIDTH = 872;
const HEIGHT = 190;
const TOP = 62;
const LINKS = ["Pack", "Controller", "Motor", "Gearing", "Propeller"] as const;

interface Link {
  name: (typeof LINKS)[number];
  power: number;
  loss: number;
  lines: string[];
  /** What a limit allows against what flows, both in the same unit; null where none is stated. */
  limit: { value: number; now: number; unit: string; label: string } | null;
}

type Spread = Partial<Record<keyof OperatingPoint, number>>;

/** The links of the chain with what flows into each, for all like units together. */
function links(p: OperatingPoint, sd: Spread, unit: Unit, battery: Battery): Link[] {
  const n = unit.count;
  const q = (value: number, spread: number | undefined, dimension: Parameters<typeof show>[2]) => {
    const s = show(value, spread ?? 0, dimension);
    return `${s.value}${s.sd ? ` ± ${s.sd}` : ""} ${s.unit}`;
  };
  const each = n > 1 ? "each " : "";
  return [
    {
      name: "Pack",
      power: p.packVoltage * p.packCurrent + p.packLoss,
      loss: p.packLoss,
      lines: [q(p.packVoltage, sd.packVoltage, "voltage"), q(p.packCurrent, sd.packCurrent, "current"), `sag ${(p.packLoss / Math.max(p.packCurrent, 1e-9)).toFixed(2)} V`],
      limit: { value: battery.capacity.value * battery.cRating, now: p.packCurrent, unit: "A", label: `${battery.cRating} C` },
    },
    {
      name: "Controller",
      power: p.controllerIn * n,
      loss: p.controllerLoss * n,
      lines: [`${each}${q(p.motorVoltage, sd.motorVoltage, "voltage")}`, `${each}${q(p.current, sd.current, "current")}`],
      limit: { value: unit.controller.maxCurrent, now: p.current, unit: "A", label: "rated" },
    },
    {
      name: "Motor",
      power: p.motorIn * n,
      loss: p.motorLoss * n,
      lines: [`${q(p.motorRpm, sd.motorRpm, "rotation")}`, `${each}${(p.motorTorque * 1000).toFixed(0)} mN·m`],
      limit: { value: unit.motor.maxCurrent, now: p.current, unit: "A", label: "rated" },
    },
    {
      name: "Gearing",
      power: p.shaftPower * n,
      loss: p.gearLoss * n,
      lines: [unit.gear.ratio === 1 ? "direct" : `${unit.gear.ratio} : 1`, `${each}${(p.torque * 1000).toFixed(0)} mN·m out`],
      limit: null,
    },
    {
      name: "Propeller",
      power: p.propellerPower * n,
      loss: 0,
      lines: [q(p.rpm, sd.rpm, "rotation"), q(p.thrust * n, (sd.thrust ?? 0) * n, "force")],
      limit: null,
    },
  ];
}

/**
 * The power as one flow from pack to propeller. Height is power; what is lost falls off below. A limit is drawn on the band itself, at the
 * height that the band would have if the limited current flowed.
 */
export function PowerBand({ point, sd, unit, battery }: { point: OperatingPoint; sd: Spread; unit: Unit; battery: Battery }) {
  const list = links(point, sd, unit, battery);
  const most = Math.max(list[0]?.power ?? 1, 1);
  const room = HEIGHT - TOP - 62;
  const tallest = Math.max(...list.map((l) => (l.limit && l.limit.now > 0 ? Math.min(1.5, l.limit.value / l.limit.now) : 1)), 1);
  const h = (w: number) => (w / most) * (room / tallest) * Math.min(tallest, 1.5);
  const base = TOP + room;
  const step = WIDTH / LINKS.length;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      className="block"
      role="img"
      aria-label={`Power from pack to propeller: ${list.map((l) => `${l.name} ${l.power.toFixed(0)} watts, loses ${l.loss.toFixed(0)}`).join("; ")}`}
    >
      <defs>
        <pattern id="lost" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v5" stroke="var(--pencil)" strokeWidth="1.2" />
        </pattern>
      </defs>
      {list.map((l, i) => {
        const x = i * step;
        const top = base - h(l.power);
        const after = list[i + 1]?.power ?? l.power;
        const nextTop = base - h(after);
        const share = l.limit ? l.limit.now / l.limit.value : 0;
        const over = share > 1;
        const limitY = l.limit && l.limit.now > 0 ? Math.max(base - h(l.power) / share, TOP - 8) : null;
        const clipped = l.limit !== null && l.limit.now > 0 && base - h(l.power) / share < TOP - 8;
        return (
          <g key={l.name}>
            <path d={`M${x} ${top}H${x + step * 0.72}C${x + step * 0.9} ${top} ${x + step * 0.84} ${nextTop} ${x + step} ${nextTop}V${base}H${x}z`} fill="var(--band)" />
            {l.loss > 0 && <path d={`M${x + step * 0.5} ${base}h${step * 0.34}l-6 ${Math.max(h(l.loss), 2)}h${-step * 0.34 + 12}z`} fill="url(#lost)" />}
            {l.loss > 0.05 && (
              <text x={x + step * 0.86} y={base + 13} className="num" style={{ fontSize: 11 }} fill="var(--pencil)">
                −{l.loss.toFixed(l.loss < 10 ? 1 : 0)} W
              </text>
            )}
            {limitY !== null && l.limit && (
              <g>
                <path
                  d={`M${x + 6} ${limitY}H${x + step * 0.74}`}
                  stroke={over ? "var(--stop)" : "var(--pencil)"}
                  strokeWidth={over ? 2 : 1.2}
                  strokeDasharray={clipped ? "2 4" : undefined}
                />
                {over && <rect x={x + 6} y={top} width={step * 0.66} height={Math.max(limitY - top, 1)} fill="var(--stop)" fillOpacity="0.3" />}
              </g>
            )}
            <text x={x + 6} y="13" fontSize="13" fontWeight="650" fill="var(--ink)">
              {l.name}
            </text>
            <text x={x + 6} y="28" className="num" style={{ fontSize: 12, fontWeight: 600 }} fill="var(--ink)">
              {l.power.toFixed(0)} W
            </text>
            {l.limit && (
              <text x={x + 6} y="42" fontSize="11" fill={over ? "var(--stop)" : "var(--pencil)"}>
                {Math.round(share * 100)} % of {l.limit.value.toFixed(0)} {l.limit.unit} {l.limit.label}
              </text>
            )}
            {l.lines.map((line, k) => (
              <text key={line} x={x + 6} y={base + 28 + k * 14} className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
                {line}
              </text>
            ))}
          </g>
        );
      })}
      <path d={`M${WIDTH - 14} ${base - h(list.at(-1)?.power ?? 0)}l13 ${h(list.at(-1)?.power ?? 0) / 2}l-13 ${h(list.at(-1)?.power ?? 0) / 2}z`} fill="var(--accent)" />
    </svg>
  );
}
