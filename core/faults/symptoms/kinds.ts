import type { Risk } from "../../design/risk";
import type { GROUPS } from "../../design/symptom";
import type { ChangeKind } from "../../design/fields";
import type { Odd } from "../../runs/eachDrive";

export interface Cause {
  id: string;
  text: string;
  /** The cheapest test that tells this cause from the others, and its minutes. */
  test: string;
  minutes: number;
  /**
   * What has to be bought for the test (€ in what ships, the currency of the workshop in one's own), and what
   * it puts at risk.
   */
  cost: number;
  risk: Risk;
  /** Whether the pack is in while it is made. */
  powered?: boolean;
  fix: string;
  /** Verdicts of the version that make this cause likelier. */
  raisedBy?: string[];
  /** Clear verdicts that make it less likely. */
  loweredBy?: string[];
  /** Recent changes that make it likelier. */
  touchedBy?: ChangeKind[];
  /** What one drive of several like ones reads otherwise, that makes it likelier. */
  readBy?: Odd[];
}

export interface Symptom {
  id: string;
  text: string;
  group: (typeof GROUPS)[number];
  causes: Cause[];
}

type Links = Pick<Cause, "raisedBy" | "loweredBy" | "touchedBy" | "readBy"> & { cost?: number };

/**
 * What a test puts at risk, said with each (common practice; whoever knows better says so in an entry of one's own).
 * There is no default.
 */
interface Stake {
  risk: Risk;
  powered: boolean;
}
/** By hand, pack out. */
export const HAND: Stake = { risk: "none", powered: false };
/** Pack in, and nothing that could turn is fitted or freed. */
export const ON: Stake = { risk: "none", powered: true };
/** Something may break, nobody is near what turns, pack out. */
export const PART_AT_RISK: Stake = { risk: "a part", powered: false };
/** The craft runs, away from people: it can be broken. */
export const RUNS: Stake = { risk: "a part", powered: true };
/** Propeller, rotor, wheel or gears turn under power with somebody at hand. */
export const TURNS: Stake = { risk: "a person", powered: true };
/** Fibres, heat, blades or resin: hands, eyes and lungs. */
export const TOUCH: Stake = { risk: "a person", powered: false };

export const c = (
  id: string,
  text: string,
  test: string,
  minutes: number,
  fix: string,
  stake: Stake,
  { cost = 0, ...links }: Links = {},
): Cause => ({
  id,
  text,
  test,
  minutes,
  cost,
  ...stake,
  fix,
  ...links,
});
export const symptom = (group: Symptom["group"], id: string, text: string, ...causes: Cause[]): Symptom => ({
  id,
  text,
  group,
  causes,
});

/** Verdicts and changes that several causes share. */
export const CG: Links = {
  raisedBy: ["cg-outside", "cg-doubtful"],
  loweredBy: ["cg-inside"],
  touchedBy: ["place", "mass"],
};
export const HEAVY: Links = { raisedBy: ["mass-over", "growth"], touchedBy: ["mass", "part"] };
export const THRUST: Links = {
  raisedBy: ["thrust-short", "cannot-lift", "sweep-stale"],
  touchedBy: ["propeller", "motor", "gear", "pack"],
};
export const SAG: Links = { raisedBy: ["pack-floor", "pack-current", "cold-pack", "brown-out"], touchedBy: ["pack"] };
export const CURRENT: Links = {
  raisedBy: ["motor-current", "controller-current", "conductor-current", "steep-change"],
  loweredBy: ["currents-hold"],
  touchedBy: ["propeller", "motor", "gear", "controller"],
};
export const RAIL: Links = { raisedBy: ["brown-out", "rail-current"], touchedBy: ["set-up", "part"] };
export const SHAKEN: Links = { touchedBy: ["propeller", "motor", "part"] };
export const PART: Links = { touchedBy: ["part"] };
export const SET_UP: Links = { touchedBy: ["set-up"] };
