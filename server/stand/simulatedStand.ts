import type { StandReading, StandSetup } from "../../api/contracts";
import { type Random, seededRandom } from "../../core/numeric/random";
import type { Stand } from "./stand";

/** Readings a second, and the steps of the integration between two. */
const RATE = 10;
const SUBSTEPS = 25;
/** Standard gravity, m/s² (ISO 80000-3). */
const G = 9.80665;
/** Gas constant of dry air, J/(kg·K). */
const GAS = 287.05;
/** Temperature coefficient of the resistance of copper, 1/K at 20 °C (handbooks, from memory). */
const COPPER = 0.0039;
/**
 * The parts of the stand-in differ from what is entered of them, by these factors: nobody's motor is what its sheet
 * says.
 */
const TRUE_KV = 0.975;
const TRUE_RESISTANCE = 1.04;
const TRUE_NO_LOAD = 1.1;
const TRUE_CELL_RESISTANCE = 1.15;

/** Controller of the stand-in: it starts and stops a little apart, and is fully on before the stick is. */
const STARTS = 0.085;
const STOPS = 0.06;
const FULL = 0.965;

/** What each unit after the first adds of what one pushes: well apart, and nearly in one another's wash (our own). */
const ADDS = { apart: 0.92, close: 0.55 };

/** Cell voltage against state of charge: a plain polynomial, nobody's cell. */
const cellVoltage = (soc: number) => 3.25 + 0.62 * soc + 0.28 * soc ** 3 - 0.35 * (1 - soc) ** 8;

/**
 * A simulated stand. On purpose it does not use the application's own model: constant coefficients from pitch over
 * diameter instead of blade elements, a dynamic motor with a rotor that
 * has to be spun up, a winding that warms, a pack that empties, a pivot that sticks, instruments with noise. So what
 * is measured on it differs from what is predicted.
 */
export class SimulatedStand implements Stand {
  readonly id = "simulated";
  readonly name = "Simulated stand";
  readonly rate = RATE;
  #setup: StandSetup | null = null;
  #listeners = new Set<(r: StandReading) => void>();
  #timer: NodeJS.Timeout;
  #random: Random = seededRandom(1);
  #throttle = 0;
  #turning = false;
  #time = 0;
  #rps = 0;
  #charge = 0;
  #winding = 0;
  #stuck = 0;
  #zero = 0;
  #settled = 0;

  /** @param interval ms between readings; a test may run it faster than life */
  constructor(interval = 1000 / RATE) {
    this.#timer = setInterval(() => this.#tick(), interval);
    this.#timer.unref();
  }

  setUp(setup: StandSetup): void {
    this.#setup = setup;
    this.#random = seededRandom(setup.seed);
    this.#throttle = 0;
    this.#turning = false;
    this.#time = 0;
    this.#rps = 0;
    this.#charge = 0;
    this.#winding = setup.air.temperature;
    this.#stuck = 0;
    this.#zero = 0;
    this.#settled = 0;
  }

  command(throttle: number): void {
    this.#throttle = Math.min(1, Math.max(0, throttle));
  }

  listen(onReading: (r: StandReading) => void): () => void {
    this.#listeners.add(onReading);
    return () => void this.#listeners.delete(onReading);
  }

  close(): void {
    clearInterval(this.#timer);
    this.#listeners.clear();
  }

  #tick(): void {
    const setup = this.#setup;
    if (!setup) return;
    const reading = this.#advance(setup);
    if (setup.faults.silent && this.#throttle > 0.35) return;
    for (const listener of this.#listeners) listener(reading);
  }

  /** One reading further: the drive by small steps, then the instruments. */
  #advance(setup: StandSetup): StandReading {
    const { unit, battery, rig, air, faults } = setup;
    const { motor, controller, gear, propeller } = unit;
    const density = air.pressure / (GAS * (air.temperature + 273.15));
    const d = propeller.diameter.value;
    // Coefficients at rest by pitch over diameter, and what blades that bend (170 m/s at the tip bends them fully)
    // leave of them: shapes of our own, within the usual 0.08–0.14 and 0.03–0.09.
    const ratio = Math.min(1.3, propeller.pitch.value / d);
    const solidity = (propeller.blades / 2) ** 0.85;
    const bend = (n: number) => (faults.bending ? 1 - 0.28 * Math.min(1, (n * Math.PI * d) / 170) ** 2 : 1);
    const ct = (n: number) => (0.05 + 0.088 * ratio * (1 - 0.28 * ratio)) * solidity * bend(n);
    const cp = (n: number) => (0.011 + 0.082 * ratio ** 1.6) * solidity * bend(n) ** 0.6;
    // Behind a small inlet a blade does less work on less air; one that is chipped pushes less for nearly the same
    // work.
    const starved = faults.starved ? { thrust: 0.78, torque: 0.92 } : { thrust: 1, torque: 1 };
    const weak = faults.weak ? { thrust: 0.86, torque: 0.98 } : { thrust: 1, torque: 1 };
    const [pushes, takes] = [starved.thrust * weak.thrust, starved.torque * weak.torque];
    // Each that is added works in what the others stir: it adds less than the first one pushes.
    const { together } = setup;
    const all = 1 + (together - 1) * (faults.close ? ADDS.close : ADDS.apart);
    const kt = 60 / (2 * Math.PI * motor.kv.value * TRUE_KV);
    const cells = battery?.series ?? 3;
    const capacity = battery?.capacity.value ?? 2;
    const packR = cells * (battery?.cellResistance.value ?? 0.01) * TRUE_CELL_RESISTANCE;
    // kg·m² of propeller (mass by diameter to the 2.5th) and rotor, and J/K of a motor of 4 W/g at 11 V: sizes only,
    // they set how fast it spins up and warms.
    const inertia = 0.06 * 0.6 * d ** 2.5 * d ** 2 + 4e-6 * gear.ratio ** 2;
    const heatCapacity = 400 * Math.max(0.01, (motor.maxCurrent * 11) / 4000);
    const dt = 1 / RATE / SUBSTEPS;
    let [voltage, current, thrust] = [0, 0, 0];
    let slipped = 0;
    for (let k = 0; k < SUBSTEPS; k++) {
      this.#turning = this.#throttle >= STARTS || (this.#turning && this.#throttle >= STOPS);
      const duty = this.#turning ? Math.min(1, Math.max(0.03, (this.#throttle - 0.03) / (FULL - 0.03))) : 0;
      const soc = Math.max(0, 1 - this.#charge / (capacity * 3600));
      const open = cells * cellVoltage(soc);
      const resistance =
        (motor.resistance.value * (1 + COPPER * (this.#winding - 25)) + controller.resistance.value) * TRUE_RESISTANCE;
      // A belt that slips lets the motor turn faster than the propeller has it.
      const back = ((this.#rps * 60 * gear.ratio) / (1 - slipped) / motor.kv.value / TRUE_KV) * (duty > 0 ? 1 : 0);
      // Winding current of each of n with the pack's sag in it: I = (u·(V0 − n·R_p·u·I) − E)/R.
      const i = duty > 0 ? Math.max(0, (duty * open - back) / (resistance + together * duty * duty * packR)) : 0;
      current = together * duty * i;
      voltage = open - packR * current;
      const drag = takes * cp(this.#rps) * density * this.#rps ** 2 * d ** 5 * (1 / (2 * Math.PI));
      const most = 0.25 * kt * motor.maxCurrent * gear.ratio;
      slipped = faults.slipping && drag > most ? Math.min(0.3, (0.12 * (drag - most)) / most) : 0;
      const bearings = kt * motor.noLoadCurrent.value * gear.ratio * (0.1 + (0.2 * this.#rps) / 300);
      const torque =
        kt * Math.max(0, i - motor.noLoadCurrent.value * TRUE_NO_LOAD) * gear.ratio * gear.efficiency.value;
      this.#rps = Math.max(0, this.#rps + ((torque - drag - bearings) / (2 * Math.PI * inertia)) * dt);
      // Iron and bearings stop a motor that is off within half a second.
      if (!this.#turning) this.#rps = this.#rps < 3 ? 0 : this.#rps * Math.exp(-dt / 0.2);
      this.#charge += current * dt;
      const loss =
        i * i * motor.resistance.value * (1 + COPPER * (this.#winding - 25)) + 0.5 * motor.noLoadCurrent.value * back;
      this.#winding += ((loss - (this.#winding - air.temperature) * 0.9 * (0.3 + this.#rps / 150)) / heatCapacity) * dt;
      thrust = all * pushes * ct(this.#rps) * density * this.#rps ** 2 * d ** 4;
    }
    this.#time += 1 / RATE;

    // A pivot that sticks: the scale follows only beyond its play.
    const play = 0.006 * thrust + 0.001;
    this.#stuck = Math.min(thrust + play, Math.max(thrust - play, this.#stuck));
    if (faults.looseTare && thrust > 0.5) this.#zero += (0.0012 * thrust) / RATE;
    const arms = rig.kind === "direct" ? 1 : rig.thrustArm / rig.scaleArm;
    const pushed = ((this.#stuck * arms) / G) * (rig.reads === "more" ? 1 : -1);
    const noisy = (value: number, share: number, floor: number) =>
      value + this.#random.normal() * Math.hypot(share * value, floor);
    const onto = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(6));
    this.#settled = onto(noisy(rig.tare + this.#zero + pushed, 0.0012, 0.0006), rig.scale.step);
    return {
      t: Number(this.#time.toFixed(2)),
      throttle: this.#throttle,
      scale: this.#settled,
      voltage: onto(noisy(voltage, 0.0004, 0.006), rig.voltage.step),
      current: Math.max(0, onto(noisy(current * (faults.wrongCurrent ? 0.42 : 1), 0.004, 0.03), rig.current.step)),
      rpm: this.#rps > 0 ? onto(noisy(this.#rps * 60, 0.0006, 4), rig.rpm.step) : 0,
      temperature: onto(noisy(this.#winding, 0, 0.25), 0.1),
      noise: this.#rps > 0 ? onto(52 + 22 * Math.log10(1 + this.#rps * d * 4) + this.#random.normal() * 0.6, 0.1) : 38,
    };
  }
}
