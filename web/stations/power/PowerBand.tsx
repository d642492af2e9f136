import { thingAround } from "../../../core/subjects/propulsion/around/factor";
import type { Battery, Conductor, Regulator, Unit } from "../../../core/design/schema";
import type { Dimension, UnitHabit } from "../../../core/design/units";
import type { OperatingPoint } from "../../../core/subjects/propulsion/chain";
import { wetDrive } from "../../../core/subjects/propulsion/covered";
import { riseText, temperatureRise } from "../../../core/subjects/propulsion/heat";
import { kindOf } from "../../../core/subjects/propulsion/kinds/models";
import { plain, show } from "../../../core/wording/format";
import { measuredText } from "../../../core/wording/measured";
import { usePreferences } from "../../app/preferences";

const WIDTH = 872;
const PACK = 150;
const LINKS = ["Controller", "Motor", "Gearing", "Propeller"] as const;
const STEP = (WIDTH - PACK - 34) / LINKS.length;
const HEAD = 34;

type Spread = Partial<Record<keyof OperatingPoint, number>>;

export interface BandDrive {
  unit: Unit;
  point: OperatingPoint;
  sd: Spread;
}

interface Link {
  name: (typeof LINKS)[number] | "Measured";
  power: number;
  loss: number;
  lines: string[];
  /** What a limit allows against what flows; null where none is stated. */
  limit: { value: number; now: number } | null;
}

const quantityIn = (habit: UnitHabit) => (value: number, spread: number | undefined, dimension: Dimension) => {
  const s = show(value, spread ?? 0, dimension, habit);
  return `${s.value}${s.sd ? ` ± ${s.sd}` : ""} ${s.unit}`;
};

/** The links of one drive with what flows into each, for all its like units together. */
function linksOf({ unit, point: p, sd }: BandDrive, habit: UnitHabit): Link[] {
  const quantity = quantityIn(habit);
  // Small drives turn with thousandths of a newton metre.
  const torque = (v: number) => (habit === "metric" ? `${(v * 1000).toFixed(0)} mN·m` : plain(v, "torque", habit));
  const n = unit.count;
  if (unit.measured)
    return [
      {
        name: "Measured",
        // What it draws may never have been read: then the band has no height, and says so.
        power: Number.isFinite(p.controllerIn) ? p.controllerIn * n : 0,
        loss: 0,
        lines: [
          measuredText(unit.measured, habit),
          ...(Number.isFinite(p.controllerIn) ? [] : ["what it draws was not read"]),
          quantity(p.thrust * n, (sd.thrust ?? 0) * n, "force"),
          ...(Number.isFinite(p.rpm) ? [quantity(p.rpm, sd.rpm, "rotation")] : []),
        ],
        limit: null,
      },
    ];
  // Whether the water, or what air there is in a hull or box, cools this motor is not said: no rise is told.
  const rise =
    wetDrive({ units: [unit] }) || thingAround(unit, "openings") || unit.propulsor?.kind === "screw drum"
      ? null
      : temperatureRise(p, unit);
  const each = n > 1 ? "each " : "";
  return [
    {
      name: "Controller",
      power: p.controllerIn * n,
      loss: p.controllerLoss * n,
      lines: [
        `${each}${quantity(p.motorVoltage, sd.motorVoltage, "voltage")}`,
        `${each}${quantity(p.current, sd.current, "current")}`,
        rise ? riseText(rise.controller, habit) : "",
      ],
      limit: { value: unit.controller.maxCurrent, now: p.current },
    },
    {
      name: "Motor",
      power: p.motorIn * n,
      loss: p.motorLoss * n,
      lines: [
        quantity(p.motorRpm, sd.motorRpm, "rotation"),
        `${each}${torque(p.motorTorque)}`,
        rise ? riseText(rise.motor, habit) : "",
      ],
      limit: { value: unit.motor.maxCurrent, now: p.current },
    },
    {
      name: "Gearing",
      power: p.shaftPower * n,
      loss: p.gearLoss * n,
      lines: [unit.gear.ratio === 1 ? "direct" : `${unit.gear.ratio} : 1`, `${each}${torque(p.torque)} out`],
      limit: null,
    },
    {
      name: "Propeller",
      power: p.propellerPower * n,
      loss: 0,
      lines: [quantity(p.rpm, sd.rpm, "rotation"), quantity(p.thrust * n, (sd.thrust ?? 0) * n, "force")],
      limit: null,
    },
  ];
}

/** Share of a limit in words and its colour; the limit itself is drawn on the band. */
function Share({ x, y, limit }: { x: number; y: number; limit: { value: number; now: number } }) {
  const share = limit.now / limit.value;
  return (
    <text x={x} y={y} fontSize="11" fill={share > 1 ? "var(--stop)" : share > 0.85 ? "var(--care)" : "var(--pencil)"}>
      {Math.round(share * 100)} % of {limit.value.toFixed(0)} A
    </text>
  );
}

interface Props {
  battery: Battery;
  drives: BandDrive[];
  /** Main path of the pack, for its limits. */
  path: Conductor[];
  /** What feeds radio, servos and lights. */
  rails: Regulator[];
}

/** A, all loads of a rail at their peak. */
const peakOf = (r: Regulator): number => r.loads.reduce((s, l) => s + Math.max(l.peak, l.current), 0);

/**
 * The power of one pack as one flow that splits into its drives. Height is power, one scale for all; what is lost
 * falls off below each link. A limit is drawn on the band
 * itself, at the height that the band would have if the limited current flowed.
 */
export function PowerBand({ battery, drives, path, rails }: Props) {
  const { habit } = usePreferences();
  const quantity = quantityIn(habit);
  const first = drives[0]?.point;
  if (!first) return null;
  const unread = Number.isNaN(first.packCurrent);
  const given = unread ? 0 : first.packVoltage * first.packCurrent + first.packLoss;
  const several = drives.length > 1;
  const room = several ? Math.min(96, 54 * drives.length) : 76;
  const h = (w: number) => (given > 0 ? (w / given) * room : 0);
  const rows = drives.map((d) => ({ ...d, links: linksOf(d, habit) }));
  const rowHeight = (r: (typeof rows)[number]) => Math.max(h(r.links[0]?.power ?? 0), 8) * 1.12 + 76;
  const tops = rows.map((_, i) => HEAD + rows.slice(0, i).reduce((s, r) => s + rowHeight(r), 0));
  const loads = first.otherLoad;
  const height = HEAD + rows.reduce((s, r) => s + rowHeight(r), 0) + (loads > 0.5 ? 18 : 4);
  const packTop = HEAD + 16;
  const packLimit = { value: battery.capacity.value * battery.cRating, now: first.packCurrent };
  const weakest = path.reduce<Conductor | null>((a, b) => (a === null || b.maxCurrent < a.maxCurrent ? b : a), null);
  // What turns on the shafts of its drives that have one, where it is all of one kind.
  const kinds = new Set(
    rows.flatMap(({ unit: u }) => (u.measured ? [] : [u.propulsor ? kindOf(u.propulsor).word : "propeller"])),
  );
  const turned = kinds.size === 1 ? ([...kinds][0] ?? "") : "propulsor";
  const onShaft = turned.charAt(0).toUpperCase() + turned.slice(1);
  let taken = packTop + (unread ? 0 : h(first.packLoss));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      className="block"
      role="img"
      aria-label={`Power from pack to thrust: ${battery.name} ${unread ? "gives what was not read" : `${given.toFixed(0)} watts, loses ${first.packLoss.toFixed(0)}`}; ${rows
        .map((r) => r.links.map((l) => `${r.unit.name} ${l.name} ${l.power.toFixed(0)} watts`).join(", "))
        .join("; ")}`}
    >
      <defs>
        <pattern id="lost" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v5" stroke="var(--pencil)" strokeWidth="1.2" />
        </pattern>
      </defs>
      <text x="0" y="13" fontSize="13" fontWeight="650" fill="var(--ink)">
        {battery.name}
      </text>
      <text x="0" y="28" className="num" style={{ fontSize: 12, fontWeight: 600 }} fill="var(--ink)">
        {unread ? "not read" : `${given.toFixed(0)} W`}
      </text>
      {rows.some((r) => !r.unit.measured) &&
        LINKS.map((name, k) => (
          <text key={name} x={PACK + 34 + k * STEP} y="13" fontSize="13" fontWeight="650" fill="var(--ink)">
            {name === "Propeller" ? onShaft : name}
          </text>
        ))}
      <rect x="0" y={packTop} width={PACK - 30} height={room} fill="var(--band)" />
      {!unread && (
        <rect x="0" y={packTop} width={PACK - 30} height={Math.max(h(first.packLoss), 0.5)} fill="url(#lost)" />
      )}
      {packLimit.now > 0 && packLimit.value / packLimit.now < 1.35 && (
        <path
          d={`M0 ${packTop + room - (room * packLimit.value) / packLimit.now}h${PACK - 30}`}
          stroke={packLimit.now > packLimit.value ? "var(--stop)" : "var(--pencil)"}
          strokeWidth="1.6"
        />
      )}
      {!unread && <Share x={0} y={packTop + room + 13} limit={packLimit} />}
      {(unread
        ? []
        : [
            quantity(first.packVoltage, drives[0]?.sd.packVoltage, "voltage"),
            quantity(first.packCurrent, drives[0]?.sd.packCurrent, "current"),
            `sag ${(first.packLoss / Math.max(first.packCurrent, 1e-9)).toFixed(2)} V, ` +
              `−${first.packLoss.toFixed(first.packLoss < 10 ? 1 : 0)} W`,
          ]
      ).map((line, k) => (
        <text
          key={line}
          x="0"
          y={packTop + room + 28 + k * 14}
          className="num"
          style={{ fontSize: 11 }}
          fill="var(--ink2)"
        >
          {line}
        </text>
      ))}
      {weakest && !unread && (
        <text
          x="0"
          y={packTop + room + 72}
          fontSize="11"
          fill={first.packCurrent > weakest.maxCurrent ? "var(--stop)" : "var(--pencil)"}
        >
          {weakest.name}: {Math.round((100 * first.packCurrent) / weakest.maxCurrent)} % of {weakest.maxCurrent} A
        </text>
      )}
      {rows.map((row, i) => {
        const top = (tops[i] ?? HEAD) + 16;
        const inflow = h((row.links[0]?.power ?? 0) + row.point.pathLoss * row.unit.count);
        const from = taken;
        taken += inflow;
        const base = top + Math.max(h(row.links[0]?.power ?? 0), 1);
        const last = row.links.at(-1)?.power ?? 0;
        const step = (WIDTH - PACK - 34) / row.links.length;
        return (
          <BandRow
            key={row.unit.id}
            row={row}
            from={from}
            top={top}
            base={base}
            inflow={inflow}
            several={several}
            step={step}
            h={h}
            last={last}
          />
        );
      })}
      {loads > 0.5 && (
        <text x={PACK + 34} y={height - 4} fontSize="11" fill="var(--pencil)">
          and {loads.toFixed(loads < 10 ? 1 : 0)} W to radio, servos and regulators
          {rails.map((r) => (
            <tspan key={r.id} dx="14" fill={peakOf(r) > r.maxCurrent ? "var(--stop)" : "var(--pencil)"}>
              {r.name}: peak {peakOf(r).toFixed(1)} of {r.maxCurrent.toFixed(1)} A
            </tspan>
          ))}
        </text>
      )}
    </svg>
  );
}

/** One drive, from its pack to its thrust. */
function BandRow({
  row,
  from,
  top,
  base,
  inflow,
  several,
  step,
  h,
  last,
}: {
  row: { links: Link[]; unit: Unit; point: OperatingPoint; sd: Spread };
  from: number;
  top: number;
  base: number;
  inflow: number;
  several: boolean;
  step: number;
  h: (w: number) => number;
  last: number;
}) {
  return (
    <g data-band={row.unit.id}>
      <path
        d={
          `M${PACK - 30} ${from}C${PACK} ${from} ${PACK + 4} ${top} ${PACK + 34} ` +
          `${top}V${base}C${PACK + 4} ${base} ${PACK} ${from + inflow} ${PACK - 30} ${from + inflow}z`
        }
        fill="var(--band)"
      />
      {several && (
        <text x={WIDTH} y={top - 4} textAnchor="end" fontSize="12" fontWeight="650" fill="var(--ink)">
          {row.unit.name}
          {row.unit.count > 1 ? `, ${row.unit.count}` : ""}
        </text>
      )}
      {row.links.map((l, k) => {
        const x = PACK + 34 + k * step;
        const y = base - h(l.power);
        const next = row.links[k + 1]?.power ?? l.power;
        const share = l.limit ? l.limit.now / l.limit.value : 0;
        const limitY = l.limit && share > 0 ? base - h(l.power) / share : null;
        const fits = limitY !== null && limitY > top - 15;
        return (
          <g key={l.name}>
            <path
              d={
                `M${x} ${y}H${x + step * 0.72}C${x + step * 0.9} ${y} ${x + step * 0.84} ` +
                `${base - h(next)} ${x + step} ${base - h(next)}V${base}H${x}z`
              }
              fill="var(--band)"
            />
            {l.loss > 0 && (
              <path
                d={`M${x + step * 0.5} ${base}h${step * 0.34}l-6 ${Math.max(h(l.loss), 2)}h${-step * 0.34 + 12}z`}
                fill="url(#lost)"
              />
            )}
            {fits && limitY !== null && (
              <path
                d={`M${x} ${limitY}H${x + step * 0.74}`}
                stroke={share > 1 ? "var(--stop)" : "var(--pencil)"}
                strokeWidth={share > 1 ? 2 : 1.2}
              />
            )}
            {share > 1 && limitY !== null && (
              <rect
                x={x}
                y={y}
                width={step * 0.7}
                height={Math.max(limitY - y, 1)}
                fill="var(--stop)"
                fillOpacity="0.3"
              />
            )}
            {l.limit && <Share x={x + step * 0.36} y={base + 15} limit={l.limit} />}
            <text x={x} y={base + 15} className="num" style={{ fontSize: 12, fontWeight: 600 }} fill="var(--ink)">
              {l.name === "Measured" && l.power === 0 ? "" : `${l.power.toFixed(l.power < 10 ? 1 : 0)} W`}
            </text>
            {l.loss > 0.05 && (
              <text
                x={x + step - 12}
                y={base + 55}
                textAnchor="end"
                className="num"
                style={{ fontSize: 11 }}
                fill="var(--pencil)"
              >
                −{l.loss.toFixed(l.loss < 10 ? 1 : 0)} W
              </text>
            )}
            {l.lines.map((line, j) => (
              <text key={line} x={x} y={base + 29 + j * 13} className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
                {line}
              </text>
            ))}
          </g>
        );
      })}
      <path d={`M${WIDTH - 14} ${base - h(last)}l13 ${h(last) / 2}l-13 ${h(last) / 2}z`} fill="var(--accent)" />
    </g>
  );
}
