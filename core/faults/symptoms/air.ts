import { CG, HAND, HEAVY, ON, PART, PART_AT_RISK, RUNS, SAG, SET_UP, THRUST, TURNS, c, symptom } from "./kinds";

/** Weight, thrust and balance in the air. */
export const AIR = [
  symptom(
    "air",
    "rolls-at-full-power",
    "Rolls at full power from rest",
    c("reaction", "Reaction torque with no airspeed yet", "Slow throttle; then a propeller that turns the other way", 15, "Ramp the throttle, aileron set before", TURNS, {
      raisedBy: ["spin-unmatched"],
      touchedBy: ["propeller", "motor", "gear"],
    }),
    c("cross-wind", "Cross-wind", "Same start into the wind", 5, "Start into the wind", RUNS),
    c("lopsided", "Mass off the middle", "Balance it across", 5, "Mass to the middle", HAND, { raisedBy: ["cg-sideways", "pair-unequal"], touchedBy: ["place", "mass"] }),
  ),
  symptom(
    "air",
    "sways",
    "Sways in yaw and roll, slowly",
    c("cg-aft", "CG too far aft", "Pack forward in steps", 15, "CG forward", RUNS, CG),
    c("fin", "Fin too small", "Taped-on fin area", 10, "Larger fin", RUNS, PART),
    c("loose", "A surface or hinge is loose", "Wiggle each by hand", 3, "Tighten", HAND),
  ),
  symptom(
    "air",
    "stalls-at-launch",
    "Stalls at launch, or hangs on the tail angle",
    c("slow", "Launched too slowly", "Ten throws of the same speed, filmed", 15, "Faster launch, lower wing loading", PART_AT_RISK, HEAVY),
    c("tail-setting", "Tail set wrong by a degree", "Repeat throws with 1° jigs", 15, "Fix the angle with a jig", PART_AT_RISK, SET_UP),
    c("cg", "CG off its window", "Balance it", 5, "Move mass", HAND, CG),
  ),
  symptom(
    "air",
    "unflyable-in-wind",
    "Cannot be held above a certain wind",
    c("slower-than-wind", "The wind is faster than the craft", "Log wind and outcome of each run", 5, "A wind limit; faster or heavier", RUNS),
    c("authority", "Controls too weak for the gusts", "Full deflection against a gust, filmed", 10, "Larger surfaces, more throw", RUNS, SET_UP),
  ),
  symptom(
    "air",
    "unstable-suddenly",
    "An unstable craft got suddenly worse",
    c("cg-past", "CG past what the controller holds", "CG in fixed steps, retuned at each", 30, "A stop line for the CG", RUNS, CG),
    c("tune", "The tune belongs to another set-up", "What changed since it was tuned", 5, "Retune", HAND, { touchedBy: ["set-up", "propeller", "pack", "mass"] }),
    c("coupled", "Roll and yaw coupled", "One axis at a time, tied", 20, "Mix out the coupling", TURNS, SET_UP),
  ),
  symptom(
    "air",
    "trim-off-after-ballast",
    "Trim is off after ballast was moved",
    c("reflex", "Elevon reflex still that of the old CG", "Photo of the neutral before and after", 5, "A mechanical reflex for each CG", HAND, { touchedBy: ["place", "mass"] }),
    c("moved", "Ballast moved in the run", "Mark it, run, look", 5, "Fix it", RUNS),
  ),
  symptom(
    "air",
    "tube-lowers-thrust",
    "A duct or tube round the propeller lowers the thrust",
    c("lip", "No lip radius", "With and without a rounded lip on the scale", 15, "Lip radius a tenth of the diameter", TURNS, PART),
    c("exit", "Exit too small or too long", "Shorten it in steps on the scale", 20, "Exit area as the disc", TURNS, PART),
    c("gap", "Tip gap too large", "Measure the gap against the diameter", 3, "Below 1 % of the diameter", HAND, { touchedBy: ["propeller"] }),
  ),
  symptom(
    "air",
    "no-lift-at-all",
    "A propulsor of a new kind gives no lift",
    c("principle", "It does not work as thought", "One unit on the scale before any copy", 20, "Stop at one", TURNS, { raisedBy: ["copies-unmeasured", "thrust-unmeasured"] }),
    c("gaps", "Gaps let it flow back", "Tape every gap, weigh again", 10, "Close the gaps", TURNS, PART),
    c("direction", "It turns or blows the wrong way", "Tissue at idle", 2, "Swap two motor wires", TURNS, SET_UP),
  ),
  symptom(
    "air",
    "climbs-at-zero-throttle",
    "Shoots up or climbs at zero throttle on arming",
    c("vibration", "Gyro clipped by vibration", "Propellers off, log the gyro, one motor after the other", 20, "Stiffen, filter", ON, {
      touchedBy: ["propeller", "motor", "part"],
    }),
    c("order", "Motor order or direction wrong", "Each motor alone at idle, tissue", 5, "Put the order right", TURNS, SET_UP),
    c("calibration", "Gyro or throttle not calibrated", "Calibrate at rest, read the offsets", 5, "Calibrate", ON, SET_UP),
  ),
  symptom(
    "air",
    "falls-when-pitched",
    "Falls when pitched up",
    c("saturates", "Vibration leaves the controller nothing", "Log gyro and motor commands", 15, "Stiffen, balance", RUNS, { touchedBy: ["propeller", "part"] }),
    c("sag", "The rail sags in that attitude", "Log the rail's voltage", 10, "Separate regulator, stronger pack", RUNS, SAG),
    c("thrust", "No thrust in hand", "Throttle at hover", 5, "Lighten, larger propellers", TURNS, THRUST),
  ),
];
