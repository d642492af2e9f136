import { verdict } from "../../../subject";
import { plain } from "../../../wording/format";
import { GRAVITY } from "../../air/air";
import { openCircuit } from "../../energy/battery";
import { advice, figure, gearDown, ofUnit, percent } from "../../say";
import { eachDrive, unitOf } from "../eachDrive";
import { noLoadAt, torqueConstant } from "../motor";
import { mediumOf } from "../setup";
import { bladePull } from "./cycloid";
import { leastPower } from "./duct";
import { kindOf } from "./models";

/**
 * A motor that turns slower than this share of what its voltage would give without a load mostly heats (common
 * practice).
 */
const STALLS = 0.15;

/**
 * A motor that does not turn what is on its shaft, or hardly: held near standing still it takes its greatest current
 * and turns all of it into heat. Of a beat the hardest moment counts.
 */
const motorStalls = verdict<{ drive: string; share: number; peak: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, point, evidence, batteryId }, unit, name }) => {
      const { propulsor: p, motor, controller, gear } = unit;
      const battery = see.design.batteries.find((b) => b.id === batteryId);
      if (!p || !battery) return [];
      const volts = point.motorVoltage > 0 ? point.motorVoltage : battery.series * openCircuit(battery.chemistry, 1);
      const share = (values.rpm * gear.ratio) / (volts * motor.kv.value);
      const { peak } = kindOf(p);
      const asked =
        (values.torque * peak) / (gear.ratio * gear.efficiency.value) / torqueConstant(motor.kv.value) +
        noLoadAt({ kv: motor.kv.value, noLoadCurrent: motor.noLoadCurrent.value }, values.rpm * gear.ratio);
      const most = volts / (motor.resistance.value + controller.resistance.value);
      if (share >= STALLS && asked <= most) return [];
      return [
        {
          severity: "stop",
          params: { drive: name, share: Math.max(0, share), peak: share >= STALLS ? asked / most : 0 },
          figure: figure("motor current", Math.min(asked, most), 0.2 * most, "current", evidence, motor.maxCurrent),
        },
      ];
    }),
  remedies(see, { about }) {
    const unit = unitOf(see, about);
    return unit
      ? [
          ...gearDown(see.design, unit, ofUnit(about, "current"), 0.98 * unit.motor.maxCurrent),
          advice("More cells or a faster motor do not help: it is torque that is wanted"),
        ]
      : [];
  },
  says: (p) =>
    p.peak > 0
      ? `${p.drive ? `${p.drive}: in` : "In"} the hardest moment of a beat ${percent(p.peak)} of what the ` +
        "motor can give standing still is asked: it stalls"
      : `${p.drive ? `${p.drive}: the` : "The"} motor stalls: it turns at ${percent(p.share)} of its free ` +
        "speed, takes its greatest current and heats",
});

/** Share of the grip from which on wheels count as spinning. */
const SPINS = 0.97;
/** Wheels that slip before the motor gives all it has: no motor makes them push more. */
const wheelsSpin = verdict<{ drive: string; most: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence, count }, unit, name }) => {
      const { propulsor: p } = unit;
      if (p?.kind !== "wheel") return [];
      const most = p.grip.value * p.load.value * GRAVITY * count;
      if (values.thrust < SPINS * most) return [];
      return [
        {
          severity: "note",
          params: { drive: name, most: p.grip.value },
          figure: figure("push", values.thrust, sd.thrust, "force", evidence, most),
        },
      ];
    }),
  remedies: () => [advice("More load on the driven wheels or more grip; a weaker motor would push as much")],
  says: (p) =>
    `${p.drive ? `${p.drive}: wheels` : "Wheels"} spin at full throttle: grip lets them push ` +
    `${percent(p.most)} of their load, and no motor more`,
});

/** Share of the power that the blades of a common small open propeller turn into its stream (docs/physics.md). */
const OPEN_MERIT = 0.6;
/** A duct that takes more than it gives: at this power an open propeller as wide would push more. */
const ductTakes = verdict<{ drive: string; share: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence, point, count }, unit, name }) => {
      const { propulsor: p } = unit;
      if (p?.kind !== "ducted fan" || !(point.shaftPower > 0)) return [];
      const disc = (Math.PI / 4) * p.diameter.value ** 2;
      // The stream of an open propeller is half as wide behind it: its least power is that of an exit of half its disc.
      const { density } = mediumOf(unit, see.design.brief.environment);
      const open = (OPEN_MERIT * point.propellerPower) ** (2 / 3) / leastPower(1, disc / 2, density) ** (2 / 3);
      const share = values.thrust / count / open;
      if (!(share < 0.9)) return [];
      return [
        {
          severity: "care",
          params: { drive: name, share },
          figure: figure("push", values.thrust, sd.thrust, "force", evidence, open * count),
        },
      ];
    }),
  remedies: () => [
    advice("A rounder lip, an exit nearer to the ring of the blades, or an open propeller of the same size"),
  ],
  says: (p) =>
    `${p.drive ? `${p.drive}: the` : "The"} duct takes more than it gives: an open propeller as wide ` +
    `would push more at this power (this one ${percent(p.share)} of it)`,
});

/** By how much the loads entered may exceed the weight before they cannot be. */
const TOO_MUCH = 1.05;
/** More rests on the wheels or drums of a drive than the craft weighs: their push is counted too high. */
const loadBeyond = verdict<{ drive: string; loads: number; mass: number }>({
  find: (see) =>
    eachDrive(see, ({ unit, name, drive: { count } }) => {
      const { propulsor: p } = unit;
      const { auw } = see.metrics;
      if (!p || !("load" in p) || !auw || p.load.value * count <= TOO_MUCH * auw.value + 2 * auw.sd) return [];
      const loads = p.load.value * count;
      return [{ severity: "care", params: { drive: name, loads, mass: auw.value }, figure: null }];
    }),
  remedies: () => [advice("Set the craft on its wheels or drums, a scale under one of them")],
  says: (p, h) =>
    `${p.drive ? `${p.drive}: ` : ""}${plain(p.loads, "mass", h)} are said to rest on what it drives, ` +
    `and the craft weighs ${plain(p.mass, "mass", h)}`,
});

/** Times its own weight from which on the pull at a blade is said (judgement). */
const HEAVY = 20;
/**
 * What pulls at a blade that runs around an axis: said as soon as its mass is known, for nobody feels it in the hand.
 */
const bladePulls = verdict<{ drive: string; times: number; bending: number }>({
  find: (see) =>
    eachDrive(see, ({ unit, name, drive: { values, sd, evidence } }) => {
      const { propulsor: p } = unit;
      if (p?.kind !== "cycloidal rotor" || p.bladeMass === null) return [];
      const { pull, bending } = bladePull(p.bladeMass, p.radius.value, p.span.value, values.rpm);
      if (!(pull > HEAVY * p.bladeMass * GRAVITY)) return [];
      const doubt = (2 * pull * sd.rpm) / values.rpm;
      return [
        {
          severity: "note",
          params: { drive: name, times: pull / (p.bladeMass * GRAVITY), bending },
          figure: figure("pull on each blade", pull, doubt, "force", evidence, HEAVY * p.bladeMass * GRAVITY),
        },
      ];
    }),
  remedies: () => [advice("Hold each blade at both ends, and spin it up behind a shield first")],
  says: (p, h) =>
    `${p.drive ? `${p.drive}: each` : "Each"} blade is pulled outwards with ${Math.round(p.times)} ` +
    `times its weight at full speed, and bent by ${plain(p.bending, "torque", h)} in its middle`,
});

/** What only drives of other kinds than open propellers can have. */
export const kindVerdicts = {
  "motor-stalls": motorStalls,
  "wheels-spin": wheelsSpin,
  "duct-takes": ductTakes,
  "load-beyond": loadBeyond,
  "blade-pulls": bladePulls,
};
