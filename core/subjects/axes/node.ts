import type { Point } from "../../design/schema";
import type { Sure } from "../../numeric/doubt";
import { supportOf } from "../../design/support";
import type { FlightSaid } from "../surfaces/declares";
import { type Of, type Outcome, solved, subject, whyNone } from "../../subject";
import { air } from "../air/node";
import { type EmptiedResult, emptied } from "../authority/emptied";
import { balance } from "../balance/node";
import { type LatticeResult, HINGE_DOUBT, lattice } from "../flight/latticeNode";
import { type FlightResult, NOT_WHOLE, flight, slowestOnFoils } from "../flight/node";
import { AT_SPEED, trimAt } from "../flight/trim";
import { trimmed } from "../flight/model";
import { launchSpeedOf } from "../flight/cord";
import { weighedOf } from "../flight/weighed";
import { floats } from "../floats/node";
import { gas } from "../gas/node";
import { mass } from "../mass/node";
import { placesUnsaid } from "../mass/placed";
import { shiftedMass } from "../mass/shifted";
import { type PropulsionResult, propulsion } from "../propulsion/node";
import { placedUnits } from "../propulsion/placed";
import { waterOf } from "../propulsion/setup";
import { about } from "../lateral/derivatives";
import { waves } from "../waves/node";
import { type Gust, gustThatStalls, sideGust } from "./gust";
import { type FallenAt, fallenAt, falling } from "./falling";
import { type AxisLine, type WingedState, linesOf } from "./inFlight";
import { type ByDrives, type Unpushed, ofDrives } from "./byDrives";

/** A craft on its wings, or on foils in water, at one speed and throttle. */
export interface AtSpeed {
  moment: "let go" | "slow" | "cruise" | "closed" | "emptied" | "on foils" | "foils closed" | "foils emptied";
  /** m/s */
  speed: number;
  lines: AxisLine[];
  /**
   * with the pack nearly empty: the charge left then, what full throttle pushes and what level flight takes at least,
   * N
   */
  left: { charge: number; thrust: Sure; drag: number; open: string[] } | null;
  /** null on foils, which no gust reaches */
  gust: {
    /** from the side, as far as its controls hold it; null: there is none, or what turns it already is not known */
    roll: Gust | null;
    yaw: Gust | null;
    /** m/s from below that stalls it; null: its wings or its mass are not all there */
    up: number | null;
  } | null;
}

export type AxesResult = { kind: "wings"; moments: AtSpeed[]; otherDrives: boolean } | ByDrives | Unpushed;

type Design = Parameters<typeof placedUnits>[0] & Parameters<typeof supportOf>[0];
type Weighed = Parameters<typeof weighedOf>[0];

/** Thrust along the flight, torque about it and where it acts, of the drives that push ahead, at full throttle. */
export function ahead(
  view: Design,
  drives: PropulsionResult | null,
  cg: Point,
  cgSd: Point,
  fallen: FallenAt[] | null,
) {
  if (view.units.length === 0) return { thrust: { value: 0, sd: 0 }, torque: { value: 0, sd: 0 }, arm: null };
  if (!drives) return { thrust: null, torque: null, arm: null };
  let [thrust, thrustVar, torque, torqueVar, over, beside] = [0, 0, 0, 0, 0, 0];
  let placed = true;
  let known = true;
  for (const [i, drive] of drives.drives.entries()) {
    const unit = view.units[i];
    if (!unit) continue;
    const units = placedUnits(view, i);
    const left = fallen?.[i] ?? { thrust: 1, torque: 1 };
    if (units.length !== unit.count) {
      // What nobody placed counts where its word says that it pushes ahead.
      if (unit.direction !== "ahead") continue;
      placed = false;
      thrust += left.thrust * drive.values.thrust;
      thrustVar += (left.thrust * drive.sd.thrust) ** 2;
      continue;
    }
    for (const { at, toward, k, share } of units.filter((u) => u.toward.x < -0.5)) {
      const t = (share * left.thrust * drive.values.thrust) / drive.count;
      thrust += t;
      thrustVar += ((left.thrust * drive.sd.thrust) / drive.count) ** 2;
      over += t * (at.z - cg.z);
      beside += t * (at.y - cg.y);
      const spin = unit.spin === "half each" ? (k % 2 === 0 ? 1 : -1) : unit.spin === "clockwise" ? 1 : -1;
      const q = drive.values.torque;
      if (Number.isFinite(q) && q > 0) {
        torque += share * left.torque * spin * q * toward.x;
        torqueVar += unit.spin === "half each" ? 0 : (left.torque * drive.sd.torque) ** 2;
      } else known = false;
    }
  }
  return {
    thrust: { value: thrust, sd: Math.sqrt(thrustVar) },
    torque: known && placed ? { value: torque, sd: Math.sqrt(torqueVar) } : null,
    arm:
      placed && thrust > 0
        ? { over: { value: over / thrust, sd: cgSd.z }, beside: { value: beside / thrust, sd: cgSd.y } }
        : null,
  };
}

/** The moments of flight that are looked at, and the throttle then: on foils both of its ends, at one speed. */
const IN_AIR = [
  ["let go", "full"],
  ["slow", "level"],
  ["cruise", "level"],
  ["closed", "closed"],
  ["emptied", "emptied"],
] as const;
const ON_FOILS = [
  ["on foils", "full"],
  ["foils closed", "closed"],
  ["foils emptied", "emptied"],
] as const;
/** Cruise is looked at by itself where it is faster than slow flight by this. */
const CRUISES = 1.1;
const GIVES_BACK = "what foils give back as it heels or pitches near the water’s surface is not computed";

/**
 * What pushes ahead at full throttle: a torque that was weighed outranks the computed one; its way is that of the
 * spin.
 */
function fullOf(
  view: Design & Weighed,
  drives: Outcome<PropulsionResult>,
  { cg, cgSd }: { cg: Point; cgSd: Point },
  fallen: FallenAt[] | null,
) {
  const full = ahead(view, solved(drives), cg, cgSd, fallen);
  const torque = weighedOf(view, "torque");
  const way = (full.torque?.value ?? 1) < 0 ? -1 : 1;
  return {
    full: torque ? { ...full, torque: { ...torque, value: torque.value * way } } : full,
    weighed: torque !== null,
  };
}

/**
 * The same with the usable charge of its packs spent: torque goes as the thrust does, both with the square of the
 * speed.
 */
function wornOf(
  view: Design & Weighed,
  drives: Outcome<PropulsionResult>,
  at: { cg: Point; cgSd: Point },
  fallen: FallenAt[] | null,
  { left }: EmptiedResult,
) {
  const shares = left.map((share, i) => ({
    thrust: share * (fallen?.[i]?.thrust ?? 1),
    torque: share * (fallen?.[i]?.torque ?? 1),
  }));
  const { full, weighed } = fullOf(view, drives, at, shares);
  const most = Math.max(...left, 0);
  return weighed && full.torque
    ? { ...full, torque: { value: most * full.torque.value, sd: most * full.torque.sd } }
    : full;
}

/** A line with why it is open besides; what was never there stays so, but on foils, which give back. */
function opened(line: AxisLine, wet: boolean, why: readonly string[]): AxisLine {
  const givesBack = wet && line.axis !== "yaw";
  const open = [...line.open, ...(givesBack && line.word !== "holds" ? [GIVES_BACK] : []), ...why];
  return open.length > 0 && (line.word !== "never had" || givesBack) ? { ...line, open, word: "open" } : line;
}

/** Which moments are looked at, and how fast it goes then, m/s. */
function momentsOf(f: FlightResult, { letGo, slow }: { letGo: number; slow: number }) {
  const cruise = f.values.glideSpeed?.value ?? 0;
  if (f.inWater) return ON_FOILS.map(([moment, throttle]) => ({ moment, throttle, speed: letGo }));
  return IN_AIR.flatMap(([moment, throttle]) => {
    // Where it glides farthest hardly faster than slow flight, cruising is that.
    if (moment === "cruise" && cruise < CRUISES * slow) return [];
    return { moment, throttle, speed: moment === "cruise" ? cruise : throttle === "full" ? letGo : slow };
  });
}

/** The gust from the side that what a control has left about an axis holds; null where that is not told. */
function gustHeld(line: AxisLine | undefined, turns: number, pressure: number, speed: number): Gust | null {
  if (!line?.answer || line.word === "open") return null;
  const taken = Math.abs(line.disturbs.reduce((sum, d) => sum + d.value, 0));
  const sd = Math.hypot(line.answer.sd, ...line.disturbs.map((d) => d.sd));
  return sideGust(line.answer.value - taken - sd, turns, pressure, speed);
}

/** The moments of a craft on its wings, or on foils in water. */
function onWings(
  view: Design & Weighed & { flight: FlightSaid },
  of: Of,
  l: LatticeResult,
  f: FlightResult,
): Outcome<AxesResult> {
  const at = of(balance);
  const stall = f.values.stallSpeed;
  if (!f.at || !stall || at.status !== "solved") return { status: "missing", needs: ["how slow it flies"] };
  const drives = of(propulsion);
  const { cg, cgSd } = at.result;
  const slow = AT_SPEED * stall.value;
  const rough = solved(of(waves))?.foils ?? null;
  const ledger = of(mass);
  const lacks = ledger.status === "solved" ? ledger.result.incomplete : ["mass"];
  const weight = ledger.status === "solved" && lacks.length === 0 ? ledger.result.mass : null;
  // On foils the waves that they make when slower are not computed.
  const letGo = f.inWater
    ? (slowestOnFoils(f) ?? slow)
    : Math.max(launchSpeedOf(view.flight, weight)?.value ?? 0, 1.1 * stall.value);
  const falls = of(falling);
  const fallen = falls.status === "solved" ? fallenAt(falls.result, letGo) : null;
  const { full, weighed } = fullOf(view, drives, at.result, fallen);
  const spent = solved(of(emptied));
  const late = falls.status === "solved" ? fallenAt(falls.result, f.inWater ? letGo : slow) : null;
  const worn = spent && wornOf(view, drives, at.result, late, spent);
  const across = placesUnsaid(view.items, "y").length === 0;
  const shift = shiftedMass(view.items);
  const doubtful = drives.status === "solved" ? [...drives.result.unknown, ...drives.result.outside] : [];
  const travels = trimmed(l.model, cg.x);
  const perRad = travels
    ? l.model.controls.reduce((s, c, k) => s + (travels.signs[k] ?? 0) * (c.reaction.my + cg.x * c.reaction.z), 0)
    : 0;
  const hinged = (value: number) => ({ value, sd: HINGE_DOUBT * value });
  const state = (speed: number, throttle: "full" | "level" | "closed" | "emptied"): WingedState | null => {
    const trim = trimAt(l, f.at as NonNullable<FlightResult["at"]>, speed);
    const pool = throttle === "emptied" ? worn : full;
    if (!trim || !pool) return null;
    const thrust =
      pool === worn || throttle === "full"
        ? pool.thrust
        : throttle === "closed"
          ? { value: 0, sd: 0 }
          : pool.thrust && { value: trim.drag, sd: 0 };
    // Torque goes with thrust along one propeller, nearly.
    const share = !pool.thrust || pool.thrust.value === 0 ? 0 : (thrust?.value ?? 0) / pool.thrust.value;
    const pressure = (f.density * speed ** 2) / 2;
    return {
      pressure,
      weight: f.weight,
      thrust,
      drag: trim.drag,
      most: (throttle === "full" || throttle === "emptied") && view.units.length > 0 && fallen === null,
      torque:
        throttle === "closed"
          ? { value: 0, sd: 0 }
          : pool.torque && { value: share * pool.torque.value, sd: share * pool.torque.sd },
      arm: pool.arm,
      cgAcross: across ? { value: cg.y, sd: cgSd.y } : null,
      cgAlong: cgSd.x,
      roll: l.rollControl ? hinged(Math.abs(l.rollControl.mx) * l.rollTravel) : null,
      yaw: l.yawControl ? hinged(Math.abs(l.yawControl.mz - cg.x * l.yawControl.y) * l.yawTravel) : null,
      shift,
      waves: rough && { pitch: rough.pitch, roll: rough.roll },
      pitch:
        f.travel && trim.command !== null
          ? { perRad: hinged(perRad), up: f.travel.up - trim.command, down: f.travel.down + trim.command }
          : null,
    };
  };
  const slip = about(l.beta, cg);
  const moments = momentsOf(f, { letGo, slow }).flatMap(({ moment, throttle, speed }) => {
    const s = state(speed, throttle);
    if (!s) return [];
    // With the throttle closed it does not matter what the drives give.
    const why = [
      ...(view.flight.whole ? [] : [NOT_WHOLE]),
      ...lacks.slice(0, 1),
      ...(throttle === "closed" ? [] : doubtful.slice(0, 1)),
    ];
    const lines = linesOf(s).map((line) => opened(line, f.inWater, why));
    const [roll, , yaw] = lines;
    const lift = l.model.alpha.z;
    return [
      {
        ...{ moment, speed, lines },
        left:
          spent && throttle === "emptied" && s.thrust
            ? { charge: spent.charge, thrust: s.thrust, drag: s.drag, open: [...doubtful, ...lacks] }
            : null,
        gust: f.inWater
          ? null
          : {
              roll: gustHeld(roll, slip.l, s.pressure, speed),
              yaw: gustHeld(yaw, slip.n - l.bodyYaw, s.pressure, speed),
              up:
                view.flight.whole && lacks.length === 0
                  ? gustThatStalls(f.weight, { speed, stall: stall.value, pressure: s.pressure, lift })
                  : null,
            },
      },
    ];
  });
  return moments.length > 0
    ? {
        status: "solved",
        result: { kind: "wings", moments, otherDrives: !weighed && view.flight.torque !== null },
      }
    : { status: "missing", needs: ["a trim that flies level"] };
}

/** What turns a craft about each axis, and what answers: on its wings at several moments, elsewhere by its drives. */
export const axes = subject({
  name: "axes",
  reads: ["states", "gasLift", "units", "batteries", "items", "surfaces", "flight", "brief.environment"],
  needs: [air, gas, floats, propulsion, balance, mass, lattice, flight, waves, falling, emptied],
  compute(view, of): Outcome<AxesResult> {
    const support = supportOf(view);
    if (support.beats) return { status: "not covered", because: "it flies by beating wings" };
    if (support.onThrust)
      return { status: "not covered", because: "it hangs on its drives: what they hold is told under thrust" };
    const wings = of(lattice);
    if (support.ways.includes("wings")) {
      const flown = of(flight);
      if (wings.status !== "solved") return wings;
      if (flown.status !== "solved") return flown;
      return onWings(view, of, wings.result, flown.result);
    }
    const at = of(balance);
    if (at.status !== "solved") return { status: "missing", needs: ["mass"] };
    const [open] = placesUnsaid(view.items, "x", "y", "z");
    if (open !== undefined) return { status: "missing", needs: [`every part's place: ${open}`] };
    const ledger = of(mass);
    const [lacks] = ledger.status === "solved" ? ledger.result.incomplete : ["mass"];
    if (lacks !== undefined) return { status: "missing", needs: [lacks] };
    const here = of(air);
    if (here.status !== "solved") return here;
    const density = { air: here.result.density, water: waterOf(view.brief.environment).density };
    const lifted = of(gas);
    const why = solved(lifted)?.open ?? whyNone(lifted);
    const hangs = solved(lifted)?.hangs ?? (support.gas && why !== null ? { open: why } : null);
    const lies = solved(of(floats))?.level;
    const [level, upright] = [lies?.water.value ?? null, lies?.upright ?? null];
    return ofDrives(view, of(propulsion), { cg: at.result.cg, density, level, hangs, upright });
  },
});
