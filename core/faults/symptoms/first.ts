import { HAND, ON, PART_AT_RISK, RUNS, TURNS, type Symptom, c } from "./kinds";

/** One of several drives that pushes nothing, while the rest sound as ever. */
const ONE_DEAD = c(
  "one-dead",
  "One of several drives gives nothing",
  "Current of each drive at one command",
  5,
  "Its plug, controller or motor",
  RUNS,
  {
    raisedBy: ["masked-failure"],
    touchedBy: ["motor", "controller"],
    readBy: ["stands still", "gives nothing"],
  },
);

/** Those met most often, with what they are raised and lowered by. */
export const FIRST: Symptom[] = [
  {
    id: "never-rotates",
    text: "Runs along and never lifts off",
    group: "air",
    causes: [
      c(
        "weight",
        "Too heavy for its lift or thrust",
        "Weigh it whole; compare with the ledger",
        10,
        "Take mass off",
        HAND,
        {
          raisedBy: ["mass-over", "growth"],
          touchedBy: ["mass", "part"],
        },
      ),
      c(
        "thrust",
        "Thrust short",
        "Thrust on a scale, tied down, loaded volts read",
        20,
        "Larger propeller, more cells",
        TURNS,
        {
          raisedBy: ["thrust-short", "pack-floor", "cold-pack"],
          loweredBy: ["currents-hold"],
          touchedBy: ["propeller", "motor", "pack", "gear"],
        },
      ),
      c(
        "cg-forward",
        "CG too far forward",
        "Balance it; lift the nose by hand at speed zero",
        10,
        "Move mass aft",
        HAND,
        {
          raisedBy: ["cg-outside", "cg-doubtful"],
          loweredBy: ["cg-inside"],
          touchedBy: ["place"],
        },
      ),
      c(
        "ground-angle",
        "Ground angle or pitch control too small",
        "Full nose-up by hand against a spring scale",
        10,
        "Longer nose leg, more travel",
        HAND,
        {
          touchedBy: ["set-up", "part"],
        },
      ),
    ],
  },
  {
    id: "no-hover",
    text: "Will not hover although loud",
    group: "air",
    causes: [
      c(
        "thrust",
        "Thrust short of the weight",
        "Weigh the craft; thrust on a scale",
        20,
        "Larger propeller, more cells, less mass",
        TURNS,
        {
          raisedBy: ["cannot-lift", "thrust-short", "lift-throttle", "mass-over"],
          touchedBy: ["mass", "propeller", "motor"],
        },
      ),
      ONE_DEAD,
      c("intake", "Intake or outlet starved", "Thrust with the lid off and on", 15, "Open the inlet", TURNS, {
        touchedBy: ["part"],
      }),
      c(
        "sag",
        "Pack sags under load",
        "Loaded volts at full throttle with a fresh, warm pack",
        10,
        "Fresh or larger pack",
        TURNS,
        {
          raisedBy: ["pack-floor", "pack-current", "cold-pack"],
          touchedBy: ["pack"],
        },
      ),
      c(
        "propeller",
        "Propeller stalled or on backwards",
        "Tissue at idle shows which way the air goes; try less pitch",
        10,
        "Turn it round, finer pitch",
        TURNS,
        {
          raisedBy: ["blade-stall"],
          touchedBy: ["propeller"],
        },
      ),
    ],
  },
  {
    id: "nose-weight",
    text: "Needs an absurd amount of nose weight",
    group: "air",
    causes: [
      c(
        "tail-heavy",
        "Heavy tail on a long arm",
        "Ledger: share of each part in the moment",
        10,
        "Take mass out of the tail first",
        HAND,
        {
          raisedBy: ["cg-outside", "growth"],
          touchedBy: ["mass", "place", "part"],
        },
      ),
      c(
        "pack-place",
        "Battery cannot go far enough forward",
        "Slide the pack to its front stop and balance",
        5,
        "Move the bulkhead, not lead",
        HAND,
        {
          raisedBy: ["slide-outside"],
          touchedBy: ["place"],
        },
      ),
    ],
  },
  {
    id: "climbs-backflips",
    text: "Nose keeps rising, then it flips over backwards",
    group: "air",
    causes: [
      c(
        "cg-aft",
        "CG too far aft",
        "Glide or tow with power off; slide the pack forward in steps",
        15,
        "Move the pack forward",
        PART_AT_RISK,
        {
          raisedBy: ["cg-outside", "cg-doubtful"],
          loweredBy: ["cg-inside"],
          touchedBy: ["place", "mass", "part"],
        },
      ),
      c(
        "thrust-line",
        "Thrust line off the CG",
        "Power pulses in a straight pass; dummy mass high and low",
        15,
        "Tilt the motor",
        TURNS,
        {
          raisedBy: ["thrust-line"],
          touchedBy: ["thrust line", "motor"],
        },
      ),
      c("incidence", "Incidence of wing or tail", "Measure the angles with a jig", 20, "Shim it", HAND, {
        touchedBy: ["part"],
      }),
    ],
  },
  {
    id: "pitches-with-throttle",
    text: "Pitches when the throttle changes",
    group: "air",
    causes: [
      c(
        "thrust-line",
        "Thrust line above or below the CG",
        "Dummy mass high and low; power pulses",
        15,
        "Tilt the motor, shift mass in height",
        TURNS,
        {
          raisedBy: ["thrust-line"],
          touchedBy: ["thrust line", "mass", "place"],
        },
      ),
      c(
        "wash",
        "Tail stands in the propeller's wash",
        "Tufts on the tail, filmed",
        20,
        "Move the tail out of it",
        TURNS,
        { touchedBy: ["propeller", "part"] },
      ),
    ],
  },
  {
    id: "rolls-at-release",
    text: "Spins or rolls at release or at full power from rest",
    group: "air",
    causes: [
      c(
        "torque",
        "Motor torque against too little roll control",
        "Release with the motor off, then at lower throttle",
        10,
        "Ramp the throttle, smaller propeller",
        RUNS,
        {
          touchedBy: ["propeller", "motor", "gear"],
        },
      ),
      c("lateral-cg", "CG off the centreline", "Hang it by nose and tail", 10, "Move mass across", HAND, {
        raisedBy: ["cg-sideways"],
        touchedBy: ["place"],
      }),
      c("reversed", "A control surface works backwards", "Stick check from behind", 3, "Reverse the channel", ON, {
        touchedBy: ["set-up"],
      }),
    ],
  },
  {
    id: "cannot-climb",
    text: "Cannot climb, or top speed far below the last version",
    group: "air",
    causes: [
      c(
        "flat-pack",
        "Flat or cold pack",
        "Loaded volts now; repeat with a fresh, warm pack",
        10,
        "Launch gate on volts",
        TURNS,
        {
          raisedBy: ["cold-pack", "pack-floor", "pack-current"],
          touchedBy: ["pack"],
        },
      ),
      c(
        "propeller",
        "Wrong propeller",
        "Read the stamp; thrust and current on the bench",
        15,
        "Fit the right one",
        TURNS,
        {
          raisedBy: ["blade-stall", "thrust-short"],
          touchedBy: ["propeller"],
        },
      ),
      c("weight", "Too heavy", "Weigh it", 5, "Lighten", HAND, {
        raisedBy: ["mass-over", "growth"],
        touchedBy: ["mass", "part"],
      }),
      ONE_DEAD,
      c("drag", "Drag has grown", "Tow test with a spring scale", 30, "Clean it up", PART_AT_RISK, {
        touchedBy: ["part"],
      }),
    ],
  },
  {
    id: "weight-grows",
    text: "Weight grows version after version",
    group: "air",
    causes: [
      c(
        "features",
        "Features, walls, repair glue",
        "Ledger by part; weigh each piece",
        30,
        "Mass targets by part",
        HAND,
        {
          raisedBy: ["growth", "mass-over"],
          touchedBy: ["part", "mass"],
        },
      ),
      c("guesses", "Guessed masses were too low", "Weigh what is still a guess", 20, "Weigh before building on", HAND, {
        raisedBy: ["mass-missing", "rests-on-guess"],
      }),
    ],
  },
  {
    id: "will-not-start-moving",
    text: "Will not start moving, or sticks to the surface",
    group: "water and ground",
    causes: [
      c(
        "sticking",
        "Skids or hull stick or freeze to the surface",
        "Pull it with a spring scale, fresh and after a minute",
        10,
        "Other edge or coating, rock it free",
        HAND,
        {
          touchedBy: ["part"],
        },
      ),
      c(
        "thrust",
        "Thrust short",
        "Thrust on a scale against the pull to start moving",
        15,
        "Larger propeller, more reduction",
        TURNS,
        {
          raisedBy: ["thrust-short", "cold-pack", "pack-floor"],
          touchedBy: ["propeller", "gear", "motor", "pack"],
        },
      ),
      c("weight", "Too heavy", "Weigh it", 5, "Lighten", HAND, {
        raisedBy: ["mass-over", "growth"],
        touchedBy: ["mass"],
      }),
    ],
  },
  {
    id: "rests-leaning",
    text: "Rests leaning, or flops to the other side when pushed",
    group: "water and ground",
    causes: [
      c(
        "loll",
        "Negative stability upright (loll)",
        "Push it across: rests on either side",
        5,
        "Lower the mass or add beam; never add weight to the high side",
        HAND,
        {
          touchedBy: ["mass", "place", "part"],
        },
      ),
      c(
        "list",
        "Mass off the centreline (list)",
        "Push it across: always comes back to the same side",
        5,
        "Move mass across",
        HAND,
        {
          raisedBy: ["cg-sideways"],
          touchedBy: ["place"],
        },
      ),
    ],
  },
  {
    id: "scrapes-one-side",
    text: "Scrapes or drifts to one side",
    group: "water and ground",
    causes: [
      c(
        "lateral-cg",
        "CG off the centre of what lifts it",
        "Balance across; move a known mass across",
        10,
        "Move mass across",
        HAND,
        {
          raisedBy: ["cg-sideways"],
          touchedBy: ["place", "mass"],
        },
      ),
      c(
        "one-weak",
        "One drive gives less than its like",
        "Current and speed of each drive at one command",
        5,
        "Its plug, controller or propeller",
        RUNS,
        {
          touchedBy: ["motor", "controller", "propeller"],
          readBy: ["stands still", "gives nothing", "turns slower", "draws less", "drags", "runs light"],
        },
      ),
      c("crooked", "Crooked skirt, skid or hull", "Straight edge and level floor", 15, "Re-hang it", HAND, {
        touchedBy: ["part"],
      }),
    ],
  },
  {
    id: "water-inside",
    text: "Water inside",
    group: "water and ground",
    causes: [
      c(
        "seal",
        "Hatch seal, shaft or cable gland",
        "Paper towel map; dye or talc; vacuum hold",
        30,
        "Seal, grease, potting",
        PART_AT_RISK,
        { cost: 3, touchedBy: ["part"] },
      ),
      c(
        "condensation",
        "Condensation: moist air, cold wall",
        "Drops evenly on the coldest surface, vacuum holds",
        20,
        "Desiccant, close it in dry air",
        HAND,
      ),
    ],
  },
  {
    id: "shake-one-rpm",
    text: "Shakes at one speed of rotation",
    group: "rotating parts",
    causes: [
      c(
        "resonance",
        "Resonance of a spar or mount",
        "Tap tone against rpm; add a clamp or a mass, one at a time",
        20,
        "Brace it",
        TURNS,
        { touchedBy: ["part", "motor", "mass"] },
      ),
      c(
        "imbalance",
        "Imbalance of the propeller",
        "Balance on knife edges; swap the propeller",
        10,
        "Balance it",
        TURNS,
        { touchedBy: ["propeller"] },
      ),
      c("play", "Play in mount or bearing", "Wiggle by hand, power off", 3, "Tighten, new bearing", HAND, {
        readBy: ["drags"],
        touchedBy: ["gear"],
      }),
    ],
  },
  {
    id: "shake-all-rpm",
    text: "Shakes at every speed of rotation",
    group: "rotating parts",
    causes: [
      c(
        "imbalance",
        "Imbalance, or a damaged blade",
        "Spin without the propeller",
        5,
        "New or balanced propeller",
        TURNS,
        { touchedBy: ["propeller"], readBy: ["runs light"] },
      ),
      c("shaft", "Bent shaft", "Roll it on glass", 15, "New shaft", HAND, { touchedBy: ["motor", "gear"] }),
      c("loose", "Loose parts", "Wiggle by hand, power off", 3, "Tighten, secure", HAND, { touchedBy: ["part"] }),
    ],
  },
  {
    id: "propeller-struck",
    text: "Propeller struck ground, ice or structure",
    group: "rotating parts",
    causes: [
      c(
        "clearance",
        "Too little clearance in some pose",
        "Measure tip to ground nose-down and at full squat",
        5,
        "Smaller propeller, taller mount",
        HAND,
        {
          touchedBy: ["propeller", "thrust line", "part", "place"],
        },
      ),
      c("nose-over", "Nosed over", "Static tilt angle; film", 10, "Longer skid, CG aft", HAND, {
        raisedBy: ["cg-outside", "thrust-line"],
        touchedBy: ["thrust line"],
      }),
      c("flex", "Mount flexes under thrust", "Push the mount by hand, power off", 5, "Stiffen it", HAND, {
        touchedBy: ["part"],
      }),
    ],
  },
  {
    id: "cut-out",
    text: "Power cuts out, often on fast throttle",
    group: "electrical",
    causes: [
      c(
        "over-current",
        "Over-current of the controller",
        "Second ammeter; slow ramp to the same throttle",
        15,
        "Smaller propeller, larger controller",
        TURNS,
        {
          raisedBy: ["controller-current", "motor-current"],
          loweredBy: ["currents-hold"],
          touchedBy: ["propeller", "controller", "gear"],
        },
      ),
      c("sag", "Pack sags below the cut-off", "Volt log; fresh, warm pack", 10, "Larger or warmer pack", TURNS, {
        raisedBy: ["pack-floor", "pack-current", "cold-pack"],
        touchedBy: ["pack"],
      }),
      c(
        "sync",
        "Controller loses step with the motor",
        "Table of propeller × ramp time",
        30,
        "Slower ramp, timing, other controller",
        TURNS,
        {
          touchedBy: ["motor", "controller"],
        },
      ),
      c(
        "plug",
        "Plug or solder joint opens",
        "Tug test; millivolts across it under load",
        5,
        "Latching plug, new joint",
        TURNS,
      ),
    ],
  },
  {
    id: "resets",
    text: "Radio or controller resets at random",
    group: "electrical",
    causes: [
      c(
        "regulator",
        "Regulator overloaded or hot",
        "Log the rail; add an external regulator",
        20,
        "Separate regulator",
        TURNS,
        { touchedBy: ["part"] },
      ),
      c(
        "sag",
        "Brown-out with a sagging pack",
        "Log the pack under full throttle",
        10,
        "Larger pack, capacitor",
        TURNS,
        {
          raisedBy: ["pack-floor", "pack-current", "cold-pack"],
          touchedBy: ["pack"],
        },
      ),
      c("plug", "Loose plug", "Wiggle each by hand, power on, propeller off", 5, "Latch, tape", ON),
    ],
  },
  {
    id: "motor-hot",
    text: "Motor overheats or smells",
    group: "electrical",
    causes: [
      c(
        "propeller",
        "Propeller too large for the motor",
        "Current at full throttle against the rating",
        10,
        "Smaller or finer propeller",
        TURNS,
        {
          raisedBy: ["motor-current"],
          loweredBy: ["currents-hold"],
          touchedBy: ["propeller", "gear", "pack"],
        },
      ),
      c("blocked", "Blocked or tight drive", "Stop; turn each by hand", 3, "Free it", HAND, {
        touchedBy: ["gear"],
        readBy: ["drags", "draws more"],
      }),
      c("cooling", "No cooling air", "Temperature strip, lid on and off", 20, "Air inlet", TURNS, {
        readBy: ["hotter"],
        touchedBy: ["part"],
      }),
    ],
  },
  {
    id: "current-low",
    text: "Current reading too low to be true",
    group: "electrical",
    causes: [
      c(
        "meter",
        "Sensor not calibrated or out of its range",
        "Second meter; charge returned to the pack",
        15,
        "Calibrate",
        TURNS,
      ),
      c(
        "light",
        "Propeller unloaded: slipping or broken",
        "Mark shaft and hub; look at the thrust",
        5,
        "Secure it",
        TURNS,
        { touchedBy: ["propeller", "gear"] },
      ),
    ],
  },
  {
    id: "flat-early",
    text: "Battery flat before the planned end",
    group: "electrical",
    causes: [
      c(
        "duty",
        "More throttle used than planned",
        "Throttle log against the stated duty",
        10,
        "State the true duty",
        RUNS,
        {
          raisedBy: ["endurance-short", "lift-throttle", "mass-over"],
          touchedBy: ["duty", "mass"],
        },
      ),
      c(
        "pack",
        "Old or cold pack gives less",
        "Charge returned; resistance of the cells",
        20,
        "Retire it, start it warm",
        HAND,
        { raisedBy: ["cold-pack"], touchedBy: ["pack"] },
      ),
    ],
  },
  {
    id: "steering-lost",
    text: "Steering disappears when the throttle drops",
    group: "control",
    causes: [
      c(
        "thrust-coupled",
        "It steers by its thrust only",
        "Motor off, full rudder: see the turn rate",
        10,
        "Water rudder, minimum throttle in turns",
        RUNS,
        {
          touchedBy: ["part", "propeller"],
        },
      ),
      c("slack", "Push-rod loose, link slack", "Wiggle by hand", 2, "Keeper on every rod", HAND),
    ],
  },
  {
    id: "over-tuned",
    text: "Weaves or oscillates in calm conditions",
    group: "control",
    causes: [
      c("gain", "Gains too high for this frame", "Calm run with a log, gains down a quarter", 20, "Retune", RUNS, {
        touchedBy: ["mass", "propeller", "place", "set-up", "part"],
      }),
      c(
        "cg-aft",
        "CG further aft than the tune was made for",
        "Move the CG by a fixed step, retune",
        20,
        "CG back, retune",
        RUNS,
        {
          raisedBy: ["cg-outside", "cg-doubtful"],
          loweredBy: ["cg-inside"],
          touchedBy: ["place", "mass"],
        },
      ),
    ],
  },
  {
    id: "after-repair",
    text: "Worked before the repair, not after it",
    group: "repair and people",
    causes: [
      c(
        "touched",
        "Something that the repair touched",
        "Go through what was opened, moved, glued",
        15,
        "Check the whole path",
        HAND,
        {
          touchedBy: ["part", "controller", "motor"],
        },
      ),
      c(
        "reversed",
        "Plug, phase or surface the wrong way round",
        "Stick and direction check, propeller off",
        5,
        "Turn it round, mark it",
        ON,
      ),
      c("glue", "Glue on a shaft, magnet loose", "Turn by hand before travel", 3, "Solvent, check", HAND),
    ],
  },
  {
    id: "battery-moved",
    text: "Battery moved in the run",
    group: "repair and people",
    causes: [
      c("hold", "Held by glue or friction only", "Shake and pull", 2, "Strap", PART_AT_RISK, {
        raisedBy: ["weak-hold"],
        touchedBy: ["pack", "place"],
      }),
      c("crash-load", "Hard landing", "Film", 5, "Strap and stop", HAND),
    ],
  },
];
