import { type Evidence, evidenceByShare, magnitudeSd } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Design } from "../../design/schema";
import { type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, solved, subject, whyNone } from "../../subject";
import { air } from "../air/node";
import { type PropulsionResult, propulsion } from "../propulsion/node";
import { type BoxShape, type WALLS, quantities } from "./declares";
import { DISCHARGE, type Ways, riseOf } from "./warm";

/** W/m²K through walls, still air on both sides: 5 to 11 W/m²K on each, and the wall itself between (judgement). */
const THROUGH: Record<(typeof WALLS)[number], { value: number; sd: number }> = {
  "thin shell": { value: 3.8, sd: 0.8 },
  foam: { value: 2.4, sd: 0.6 },
  metal: { value: 4, sd: 0.8 },
  "not said": { value: 3.2, sd: 1.2 },
};
/** Motors and controllers lose as much as is reckoned to this share (the chain's losses; judgement). */
const LOSSES = 0.15;

export interface WarmBox {
  box: BoxShape;
  /** W in it at full throttle */
  heat: Doubtful;
  ways: Ways;
  /** K over the air outside; null: not known */
  rise: Doubtful | null;
  /** what is still wanted, or why there is no number */
  because: string | null;
}
export interface BoxResult {
  boxes: WarmBox[];
  /** °C outside, kg/m³ */
  outside: number;
  density: number;
  /** index of the hottest of those that are known */
  hottest: number;
}

/** What turns into heat in a closed space at full throttle, W; or what is not known of it. */
function heatIn(view: Pick<Design, "units" | "batteries">, drives: PropulsionResult, box: BoxShape) {
  let [drive, pack] = [0, 0];
  for (const [i, unit] of view.units.entries()) {
    const at = drives.drives[i];
    const [motor, controller] = [box.motors.includes(unit.id), box.controllers.includes(unit.id)];
    if (!at || !(motor || controller)) continue;
    const { motorLoss, controllerLoss } = at.point;
    const own = (motor ? motorLoss : 0) + (controller ? controllerLoss : 0);
    if (!Number.isFinite(own)) return { lacks: `what ${unit.name} loses: it is known by its curve alone` };
    drive += own * unit.count;
  }
  for (const battery of view.batteries) {
    if (!box.packs.includes(battery.id)) continue;
    const current = drives.packs.find((p) => p.id === battery.id)?.values.current ?? Number.NaN;
    if (!Number.isFinite(current)) return { lacks: `what ${battery.name} gives` };
    pack += current ** 2 * battery.series * battery.cellResistance.value;
  }
  return { drive, pack };
}

function warmed(
  view: Pick<Design, "units" | "batteries">,
  drives: Outcome<PropulsionResult>,
  box: BoxShape,
  outside: number,
  density: number,
): WarmBox {
  const through = THROUGH[box.walls];
  const ways: Ways = {
    walls: through.value * (box.surface?.value ?? 0),
    vent: box.vent?.value ?? 0,
    rise: box.rise?.value ?? 0,
    discharge: DISCHARGE.value,
  };
  const none = (because: string): WarmBox => ({ box, heat: { value: Number.NaN, by: {} }, ways, rise: null, because });
  const asked = box.motors.length + box.controllers.length + box.packs.length > 0;
  if (!asked && box.other === 0) return none("tick what is in it, or enter its heat");
  const result = solved(drives);
  if (asked && !result) return none(whyNone(drives) ?? "waits for the drives");
  const inside = result ? heatIn(view, result, box) : { drive: 0, pack: 0 };
  if ("lacks" in inside) return none(inside.lacks ?? "");
  const { drive, pack } = inside;
  const heat: Doubtful = {
    value: drive + pack + box.other,
    by: { "/losses": LOSSES * drive, "/packs": 0.3 * pack },
  };
  if (!box.surface) return { box, heat, ways, rise: null, because: "enter the area of its outer walls" };
  if (box.vent && !box.rise)
    return { box, heat, ways, rise: null, because: "enter how far its vents are apart in height" };
  const at = (h: number, w: Partial<Ways>) => riseOf(h, { ...ways, ...w }, outside, density);
  const rise = at(heat.value, {});
  if (rise === null) return { box, heat, ways, rise: null, because: "it would glow: check its walls and vents" };
  const moved = (h: number, w: Partial<Ways>) => (at(h, w) ?? 2 * rise) - rise;
  return {
    box,
    heat,
    ways,
    because: null,
    rise: {
      value: rise,
      by: {
        "/losses": moved(heat.value + (heat.by["/losses"] ?? 0), {}),
        "/packs": moved(heat.value + (heat.by["/packs"] ?? 0), {}),
        "/walls": moved(heat.value, {
          walls: (through.value - through.sd) * Math.max(0, box.surface.value - magnitudeSd(box.surface)),
        }),
        ...(box.vent && {
          "/vent": moved(heat.value, { vent: Math.max(0, box.vent.value - magnitudeSd(box.vent)) }),
          "/discharge": moved(heat.value, { discharge: DISCHARGE.value - DISCHARGE.sd }),
        }),
      },
    },
  };
}

/** How warm the air gets in closed spaces with what heats it: lasting, at full throttle. */
export const box = subject({
  name: "box",
  reads: ["boxes", "units", "batteries", "brief.environment"],
  needs: [air, propulsion],
  gives: keysOf(quantities),
  compute(view, of): Outcome<BoxResult> {
    if (view.boxes.length === 0) return { status: "missing", needs: ["a closed space with what warms it"] };
    const here = of(air);
    if (here.status !== "solved") return { status: "missing", needs: ["the air"] };
    const { airTemperature: outside } = view.brief.environment;
    const { density } = here.result;
    const boxes = view.boxes.map((b) => warmed(view, of(propulsion), b, outside, density));
    const known = boxes.flatMap((b, k) => (b.rise ? [{ k, rise: b.rise.value }] : []));
    const hottest = known.reduce((best, b) => (best < 0 || b.rise > (boxes[best]?.rise?.value ?? 0) ? b.k : best), -1);
    return { status: "solved", result: { boxes, outside, density, hottest } };
  },
  quantities({ boxes, outside, hottest }, _view, of): Partial<Record<keyof typeof quantities, Quantity>> {
    const warm = boxes[hottest];
    if (!warm?.rise) return {};
    const drives = solved(of(propulsion));
    // Another one of which nothing is known may be hotter.
    const others = boxes.filter((b) => b.rise === null).map((b) => `${b.box.name}: ${b.because}`);
    return {
      boxAir: {
        value: outside + warm.rise.value,
        sd: sdOf(warm.rise),
        dimension: "temperature",
        evidence: evidenceByShare(inputsOf(warm)),
        ...doubtsOf(drives?.outside ?? [], [...(drives?.incomplete ?? []), ...others], drives?.unknown ?? []),
      },
    };
  },
  lacks: (_key, { boxes }) => boxes.find((b) => b.because)?.because ?? null,
  working: (_key, { boxes, hottest }) => {
    const warm = boxes[hottest];
    return warm ? inputsOf(warm) : [];
  },
});

/** What the warmth of a closed space rests on. */
function inputsOf({ box: b, heat, ways, rise }: WarmBox): WorkingInput[] {
  const shares = rise ? sharesOf(rise) : new Map<string, number>();
  const line = (
    name: string,
    value: number,
    sd: number,
    dimension: WorkingInput["dimension"],
    evidence: Evidence,
    ...keys: string[]
  ): WorkingInput => ({
    name,
    value,
    sd,
    dimension,
    evidence,
    share: keys.reduce((s, k) => s + (shares.get(k) ?? 0), 0),
    source: null,
  });
  const through = THROUGH[b.walls];
  return [
    line(`${b.name}: losses inside`, heat.value, sdOf(heat), "power", "calculated", "/losses", "/packs"),
    line(
      `${b.name}: walls`,
      b.surface?.value ?? 0,
      b.surface ? Math.hypot(magnitudeSd(b.surface), (b.surface.value * through.sd) / through.value) : 0,
      "area",
      b.walls === "not said" ? "guess" : (b.surface?.evidence ?? "guess"),
      "/walls",
    ),
    ...(b.vent
      ? [line(`${b.name}: vents, each`, ways.vent, magnitudeSd(b.vent), "area", b.vent.evidence, "/vent", "/discharge")]
      : []),
  ];
}
