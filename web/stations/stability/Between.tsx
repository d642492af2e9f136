import { scaleLinear } from "d3-scale";
import type { Corridor, CorridorWord } from "../../../core/corridor";
import { supportOf } from "../../../core/design/support";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useEveryState } from "../../app/useEveryState";

const COLOUR: Record<CorridorWord, string> = {
  carries: "text-clear",
  thin: "text-care",
  "does not carry": "text-stop",
};

/** What changes from one state to another, and what carries between them. */
export function Between() {
  const { design } = useDesk();
  const every = useEveryState();
  if (design.transitions.length === 0) return null;
  return (
    <section
      aria-label="Between the states"
      className={`border-b border-hair px-4 py-3 ${every && !every.current ? "opacity-60" : ""}`}
    >
      <h2>Between the states</h2>
      {!every && design.transitions.map((t) => <Waiting key={t.id} from={t.from} to={t.to} />)}
      {every &&
        design.transitions.map((t) => {
          const found = every.found.corridors[t.id];
          return found ? (
            <OneWay key={t.id} found={found} />
          ) : (
            <p key={t.id} className="text-care">
              A transition names a state that is gone: choose another in Brief.
            </p>
          );
        })}
    </section>
  );
}

/** Room for what comes, so that nothing below moves under a pointer when it is there. */
function Waiting({ from, to }: { from: string; to: string }) {
  const { design } = useDesk();
  const [one, other] = [from, to].map((id) => design.states.find((s) => s.id === id));
  // Between rotors and wings there is a drawing.
  const drawn = [one, other].map((s) => s && supportOf(design, s));
  const pictured = drawn.some((s) => s?.onThrust) && drawn.some((s) => s?.ways.includes("wings"));
  return (
    <article className={`mt-2 ${pictured ? "min-h-[320px]" : "min-h-[55px]"}`}>
      <h3>
        {one?.name ?? "?"} → {other?.name ?? "?"}
      </h3>
      <p className="text-pencil">Being worked out …</p>
    </article>
  );
}

function OneWay({ found }: { found: Corridor }) {
  const { habit } = usePreferences();
  const { from, to, shift } = found.ends;
  return (
    <article aria-label={`From ${from.name} to ${to.name}`} className="mt-2" data-corridor={found.status}>
      <h3>
        {from.name} → {to.name}
      </h3>
      <p className="text-[12px]">
        {shift === null
          ? "The CG is open at an end"
          : Math.abs(shift) < 5e-5
            ? "The CG stays where it is"
            : `The CG goes ${plain(Math.abs(shift), "length", habit)} ${shift < 0 ? "forward" : "aft"}`}
        {from.mass !== null && to.mass !== null && Math.abs(from.mass - to.mass) > 1e-6
          ? `, the mass from ${plain(from.mass, "mass", habit)} to ${plain(to.mass, "mass", habit)}`
          : ""}
        .{" "}
        {[from, to].map((end) =>
          end.stops > 0 ? (
            <span key={end.id} className="text-stop">
              {end.name} has {end.stops} {end.stops === 1 ? "stop" : "stops"}.{" "}
            </span>
          ) : null,
        )}
      </p>
      {found.status === "open" ? (
        <p className="mt-1 text-care">What carries between is open: {found.because}.</p>
      ) : (
        <Carried found={found} />
      )}
    </article>
  );
}

type Solved = Extract<Corridor, { status: "solved" }>;

/** The speeds at which neither wing nor thrust carries for sure, as a sentence. */
function Carried({ found }: { found: Solved }) {
  const { habit } = usePreferences();
  const { least, path, slowest } = found;
  const speed = (v: number) => plain(v, "speed", habit, 1);
  const between = path.filter((p) => p.speed <= slowest * (1 + 1e-9));
  const lost = between.filter((p) => p.word === "does not carry");
  const thin = between.filter((p) => p.word !== "carries");
  const [first, last] = [lost[0] ?? thin[0], (lost.length > 0 ? lost : thin).at(-1)];
  const share = (v: number) => plain(Math.abs(v), "percent", habit);
  return (
    <div className="mt-1 grid grid-cols-[minmax(0,380px)_1fr] gap-4 max-[760px]:grid-cols-1">
      <Picture found={found} />
      <div className="text-[12px]">
        <p className="text-[15px]">
          <b className={COLOUR[least.word]}>{least.word}</b>{" "}
          {least.word === "carries"
            ? `all the way: least at ${speed(least.speed)}, where ${share(least.margin)} of the weight is left over`
            : first && last
              ? `between ${speed(first.speed)} and ${speed(last.speed)}: at ${speed(least.speed)} ` +
                `${share(least.margin)} of the weight ` +
                `${least.margin < 0 ? "is missing" : "is left over"}, ± ${share(least.sd)}`
              : ""}
          .
        </p>
        <p className="mt-1">
          In level flight, getting faster slowly, at full throttle. Its wing carries alone from {speed(slowest)} on.
          Quicker than that it goes through by what it has of height and speed: try it high, and downward first.
        </p>
        <p className="mt-1 text-pencil">
          Below the stall by the lattice; beyond it as a plate that the flow has left (Viterna and Corrigan 1982), ± 25
          %. The drives blow over no wing here: what stands in their wash carries more, and steers more.
        </p>
      </div>
    </div>
  );
}

const W = 380;
const H = 220;
const PAD = { left: 44, right: 10, top: 8, bottom: 34 };

/** Speed across, raise of the thrust upward: hatched where wing and thrust together do not carry. */
function Picture({ found }: { found: Solved }) {
  const { habit } = usePreferences();
  const { speeds, raises, cells, path, slowest } = found;
  const top = speeds.at(-1) ?? 1;
  const x = scaleLinear([0, top], [PAD.left, W - PAD.right]);
  const y = scaleLinear([0, Math.PI / 2], [H - PAD.bottom, PAD.top]);
  const [dx, dy] = [(x(top) - x(0)) / (speeds.length - 1), (y(0) - y(Math.PI / 2)) / (raises.length - 1)];
  const marks = scaleLinear([0, toDisplay(top, "speed", habit)], [x(0), x(top)]);
  // One path for each kind: hundreds of boxes would be as many nodes.
  const box = (i: number, k: number) =>
    `M${(x(speeds[i] ?? 0) - dx / 2).toFixed(1)} ` +
    `${(y(raises[k] ?? 0) - dy / 2).toFixed(1)}h${dx.toFixed(2)}v${dy.toFixed(2)}h-${dx.toFixed(2)}z`;
  const paths = { low: "", slow: "" };
  for (const [k, row] of cells.entries())
    for (const [i, c] of row.entries()) {
      if (c.carried < 1) paths.low += box(i, k);
      else if (c.ahead < 0) paths.slow += box(i, k);
    }
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label="What carries over speed and raise of the thrust"
      >
        <defs>
          <pattern id="low" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0v5" stroke="var(--pencil)" strokeWidth="1.2" />
          </pattern>
          <clipPath id="inside">
            <rect x={x(0)} y={y(Math.PI / 2)} width={x(top) - x(0)} height={y(0) - y(Math.PI / 2)} />
          </clipPath>
        </defs>
        <g clipPath="url(#inside)">
          <path d={paths.low} fill="url(#low)" />
          <path d={paths.slow} fill="var(--hair)" opacity="0.6" />
          <path
            d={path.map((p, i) => `${i === 0 ? "M" : "L"}${x(p.speed).toFixed(1)} ${y(p.raise).toFixed(1)}`).join("")}
            fill="none"
            stroke="var(--accent)"
            strokeWidth="1.6"
            strokeDasharray="4 3"
          />
        </g>
        <path d={`M${x(slowest)} ${y(0)}V${y(Math.PI / 2)}`} stroke="var(--ink)" strokeDasharray="2 3" />
        <path d={`M${x(0)} ${y(Math.PI / 2)}V${y(0)}H${x(top)}`} fill="none" stroke="var(--ink)" />
        {marks.ticks(6).map((t) => (
          <g key={t}>
            <path d={`M${marks(t)} ${y(0)}v4`} stroke="var(--ink)" />
            <text x={marks(t)} y={y(0) + 14} textAnchor="middle" fontSize="10" fill="var(--ink2)">
              {t}
            </text>
          </g>
        ))}
        {[0, 30, 60, 90].map((d) => (
          <g key={d}>
            <path d={`M${x(0)} ${y((d * Math.PI) / 180)}h-4`} stroke="var(--ink)" />
            <text x={x(0) - 7} y={y((d * Math.PI) / 180) + 3} textAnchor="end" fontSize="10" fill="var(--ink2)">
              {d}°
            </text>
          </g>
        ))}
        <text x={(x(0) + x(top)) / 2} y={H - 4} textAnchor="middle" fontSize="11" fill="var(--ink2)">
          speed, {DISPLAY[habit].speed}
        </text>
        <text
          transform={`translate(11 ${(y(0) + y(Math.PI / 2)) / 2}) rotate(-90)`}
          textAnchor="middle"
          fontSize="11"
          fill="var(--ink2)"
        >
          thrust raised over the level
        </text>
      </svg>
      <figcaption className="text-[11px] text-pencil">
        Hatched: wing and thrust do not carry. Grey: they carry, and it gets slower. Dashed: where most is left. Upright
        line: slowest on the wing alone.
      </figcaption>
    </figure>
  );
}
