import type { HeldUpBy } from "../design/schema";
import type { InputKey } from "../subjects/propulsion/setup";

/** How a result is computed, in words that an engineer can check. */
export interface Method {
  formula: string;
  source: string;
  range: string;
}

const CHAIN = {
  source: "Three-constant motor model; blade-element-momentum propeller (Glauert 1935; one unknown per blade element after Ning 2014); generic cell curves (common practice).",
  range: "Standing still or moving along the propeller's axis, 2 to 6 blades, pitch/diameter 0.3 to 1.2, tip Mach below 0.75. Section model ± 6 % lift, ± 20 % drag.",
};
const LEDGER = {
  source: "First and second moments of mass; errors of different parts independent, first-order propagation.",
  range: "Any ledger. Parts without a mass are left out and named.",
};

export const METHODS: Record<string, Method> = {
  auw: { formula: "M = Σ n·m", ...LEDGER },
  auwExpected: {
    formula: "M + Σ n·m·a, a = 15 % guess, 8 % calculated, 3 % datasheet, 0 weighed",
    source: "Mass-growth allowance by maturity (AIAA S-120 practice); the shares are common practice for small craft, from memory.",
    range: "Ledgers of craft still being built. The ± surrounds the shifted value.",
  },
  netMass: { formula: "M − m_gas, with the mass that the gas carries entered by hand", ...LEDGER },
  ballastShare: { formula: "Σ m of entries that are there for balance alone / M", ...LEDGER },
  cgX: { formula: "x = Σ n·m·x / M;  σ² = Σ (σ_m (x_i − x)/M)² + (m σ_x/M)²", ...LEDGER },
  cgY: { formula: "y = Σ n·m·y / M", ...LEDGER },
  cgZ: { formula: "z = Σ n·m·z / M", ...LEDGER },
  inertiaRoll: { formula: "I = Σ m (b² + c²)/12 + m r²", ...LEDGER },
  inertiaPitch: { formula: "I = Σ m (a² + c²)/12 + m r²", ...LEDGER },
  inertiaYaw: { formula: "I = Σ m (a² + b²)/12 + m r²", ...LEDGER },
  thrust: { formula: "u·V_pack − I·R_esc = I·R_m + n/Kv, with (I − I0)·Kt·G·η = Q(n) and thrust T(n) from the blade elements", ...CHAIN },
  thrustToWeight: { formula: "T / (M·g), g = 9.80665 m/s²", ...CHAIN },
  thrustThrottle: { formula: "throttle at which T = M·g", ...CHAIN },
  current: { formula: "I = Q_motor/Kt + I0,  Kt = 60/(2π·Kv)", ...CHAIN },
  packCurrent: { formula: "I_pack = Σ u·I + P_other/V_pack", ...CHAIN },
  packVoltage: { formula: "V_pack = V_oc(charge)·S − I_pack·R_cell·S·cold factor", ...CHAIN },
  packPower: { formula: "P = V_pack·I_pack", ...CHAIN },
  rpm: { formula: "root of the voltage balance of the chain", ...CHAIN },
  torque: { formula: "Q = Σ ½ρW²·B·c·c_t·r·dr", ...CHAIN },
  motorLoss: { formula: "V·I − Q·ω = I²R + I0·ω·Kt", ...CHAIN },
  tipMach: { formula: "M = π·n·D / a", ...CHAIN },
  speed: { formula: "v at which T(v) = ½ρv²·C_D·A, all drives ahead at full throttle", ...CHAIN },
  endurance: {
    formula: "t = Σ ΔQ / I_mean(charge), each step solved at its own open-circuit voltage; ends at the usable share, at the cells' floor, or when the thrust can no longer be held",
    ...CHAIN,
  },
};

/** Names of the drive's inputs as shown. */
export const INPUT_NAME: Record<InputKey, string> = {
  kv: "Kv",
  motorResistance: "Winding resistance",
  noLoadCurrent: "No-load current",
  controllerResistance: "Controller resistance",
  gearEfficiency: "Gear efficiency",
  diameter: "Propeller diameter",
  pitch: "Propeller pitch",
  chord: "Widest chord",
  bladeLift: "Section lift, method",
  bladeDrag: "Section drag, method",
  kvFactor: "Kv, from the stand",
  thrustFactor: "Thrust factor, from the stand",
  torqueFactor: "Torque factor, from the stand",
  capacity: "Capacity",
  cellResistance: "Cell resistance",
  cellVoltage: "Cell curve, method",
  mass: "All-up weight",
  dragArea: "Drag area",
};

export const HELD_UP_WORD: Record<HeldUpBy, string> = {
  wings: "wings",
  rotors: "rotors",
  hull: "hull",
  gas: "gas",
  cushion: "cushion",
  ground: "wheels or screws",
  flapping: "flapping",
  submerged: "displacement, submerged",
};

export const FIRST_ANSWER: Record<HeldUpBy, string> = {
  rotors: "P = W·√(W/A / 2ρ) / FM (momentum theory)",
  flapping: "P = W·√(W/A / 2ρ) / FM on the swept disc",
  wings: "P = W·v / (L/D) / η",
  hull: "P = W·(R/W)·v / η",
  gas: "P = ½ρv³·C·V^⅔ / η, V = m / 1.0557 kg/m³",
  cushion: "P = W·e·√(2p/ρ) / η, times propulsion",
  ground: "P = W·(R/W)·v / η",
  submerged: "P = ½ρv³·C·V^⅔ / η",
};
