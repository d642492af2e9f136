/**
 * How people say what they saw, beside the catalogue's own sentence: plain words and phrases for each entry. They are
 * searched, never shown.
 */
export const WORDS: Readonly<Record<string, string>> = {
  "one-weak":
    "one rotor is lower than the others, a corner hangs low, one corner sags in hover, one corner " +
    "hangs, one motor slower than the others, one side weaker, leans towards one arm, one drive weak, " +
    "one fan weaker",
  "gas-lost":
    "flabby after the night, wrinkled in the morning, balloon lost gas overnight, envelope goes limp, " +
    "cell shrinks, helium escapes, less lift than yesterday, soft in the morning, hydrogen leaks, loses " +
    "lift day by day",
  "sinks-in-turns":
    "loses height in turns, drops in a bank, sinks when it turns, falls out of the turn, height lost in the curve",
  "drifts-in-hover":
    "drifts backwards in hover, wanders off in hover, slides away by itself, creeps sideways in the " +
    "air, will not stay over its spot",
  "surface-flutters":
    "rudder buzzes at speed, flutter, tail flutters at speed, aileron buzzes, wing flaps like a flag, " +
    "elevator shakes in a dive, surface buzzes, fin flutters",
  "foil-drops":
    "foil pops out of the water, front foil came out, splashes down from the foils, foil broaches, foil " +
    "ventilates, drops off the foils, falls off its foils, foil sucks air, crashes down from the foils, " +
    "lift gone on the foil",
  "screw-races":
    "bubbles behind the screw and no push, froth behind the propeller, screw races, revs go up and it " +
    "slows down, spins in foam, no bite in the water, hub slips",
  "bow-digs":
    "nose dives, nose first into the water, bow dives, bow buries, pitchpoles, trips over its bow, nose " +
    "digs in, digs in and stops",
  "slides-off-course":
    "hard to keep straight on ice, skids, no grip sideways, slides out on ice, spins out on ice, " +
    "slippery, sideways on snow, tail steps out",
  "track-off":
    "tracks slip off, track came off, lost a track, threw a track, belt jumped off, belt came off, " +
    "wheel came off, chain fell off",
  "drive-noisy":
    "grinding when the motor turns, nasty noise when it turns, screeching, squealing, grinding, " +
    "clicking, knocking, whining gears, noisy gearbox, crunching noise, howling bearing",
  "start-stutters":
    "only twitches when throttle is given, motor stutters at startup, cogs, jerks back and forth, " +
    "twitches and does not turn, trembles but does not spin up, will not start turning, motor shivers",
  "servo-dead":
    "servo stopped reacting, servo does not react, servo died, servo does not move, no reaction of the " +
    "servo, servo dead after water, rudder does not move, surface does not move",
  "will-not-arm":
    "cannot get it armed, won't arm, does not arm, cannot arm, arming refused, esc beeping, controller " +
    "beeps, keeps beeping, beeps and nothing happens, motors will not spin up",
  "turns-one-way":
    "circles to port are twice as wide, one circle is wider than the other, won't turn left, won't turn " +
    "right, only turns right, only turns left, turns better to one side, wider circle to port",
  "part-comes-off":
    "lost a guard, lost a blade guard, wing came off, fell off, lost a part in the air, flew off, tore " +
    "off, cable pulled out, lost its tail in the air, came apart, propeller came off, props unscrewed, " +
    "nut came off, lost a fin",
  "structure-cracks":
    "ring cracked, frame cracked, arm cracked, crack at the joint, spar broke, strut broke, split open, " +
    "hairline crack, boom broke",
  "never-rotates":
    "does not take off, will not lift off, runs out of runway, keeps rolling, won't get airborne, stays on the ground",
  "no-hover":
    "sits there roaring and does not come up, full throttle and it still sinks, will not rise, cannot " +
    "lift itself, lots of noise no lift, does not leave the ground, settles, too heavy to hover",
  "nose-weight":
    "lots of lead in the nose, tail heavy, needs ballast, cannot get it to balance, balance point too far back",
  "climbs-backflips":
    "rears up and flips, pitches up and loops, noses up, nose comes up with speed, goes over backwards, " +
    "blows over, lifts its nose, somersault",
  "pitches-with-throttle":
    "dives when throttle is opened, nose drops with power, nose rises with power, balloons with " +
    "throttle, changes pitch with power",
  "rolls-at-release":
    "rolls over when let go, corkscrews, spins at launch, twists when released, turns round its own " +
    "axis, rotates by itself when it lifts, torque roll",
  "cannot-climb":
    "no climb, too slow, lost its top speed, sluggish, less power than before, weak, will not go up, " +
    "slower than last time",
  "weight-grows": "too heavy, overweight, came out heavier, heavier than planned, gains weight",
  "will-not-start-moving":
    "stuck to the ice, stuck in the mud, sticks, frozen to the ground, does not move off, sits still at " +
    "full power, cannot get going",
  "rests-leaning": "lists, heels over, sits crooked, leans to a side, flops over, lies on its side",
  "scrapes-one-side":
    "drifts to port, drifts to starboard, drags on one side, pulls left, pulls right, goes left all the " +
    "time, does not track straight, veers, wanders off course",
  "water-inside": "leaks, leaking, wet inside, took on water, flooded, puddle in the hull, hull full of water",
  "shake-one-rpm":
    "buzzes only around a certain throttle, vibrates at half throttle, resonance, buzzes at one " +
    "throttle, shakes in the middle of the range, hums at one speed",
  "shake-all-rpm":
    "vibration shakes the video, picture wobbles like jelly, blurred video, vibrates, vibration, " +
    "rattles, out of balance, shakes all the time, rough running, bent shaft",
  "propeller-struck":
    "rotor blades hit the duct, blades rub the duct, blade scrapes the shroud, shaft bent after a " +
    "stone, propeller hits the ground on landing, blade touched, blade strike, prop strike, hit a " +
    "stone, blades hit the ring, blades hit the boom",
  "cut-out":
    "cut out at full throttle, cuts out, motor stops, power loss, engine quits, motor cuts when " +
    "throttle is punched, stutters, shuts off, loses power suddenly, screeches and stops, desync",
  resets:
    "brown out, brownout, reboots, radio drops out, everything goes dead for a moment, loses control " +
    "for a second, restarts",
  "motor-hot":
    "overheats in summer, gets hot in the sun, motor too hot to touch, motor smells burnt, burning " +
    "smell, motor overheating, motor cooks, hot windings",
  "current-low": "ammeter reads almost nothing, amps too low, current sensor wrong, draws hardly anything",
  "flat-early":
    "battery died half as soon as reckoned, battery dies too soon, pack gone in half the time, " +
    "endurance far below, battery does not last, short run time, short flight time, empty too soon, " +
    "pack empty early, poor endurance, low voltage alarm early",
  "steering-lost":
    "no steering without throttle, rudder does nothing when coasting, cannot steer at idle, steers only under power",
  "over-tuned":
    "wobbles in hover, oscillates, shivers, twitches fast, gain too high, hunts, jitters in the air, " +
    "buzzing oscillation",
  "after-repair": "worked before I repaired it, broken since the repair, since I opened it, fixed it and now",
  "battery-moved": "battery slid, pack shifted, pack came loose, battery fell out, velcro let go",
  "rolls-at-full-power":
    "leans over when the throttle is pushed, tips over at full throttle on the ground, rolls over on the spot",
  sways: "dutch roll, wags its tail, snakes, fishtails, slow sway, swings left and right",
  "stalls-at-launch":
    "thrown and fell straight down, drops after the throw, falls out of my hand, mushes, wing stalls, " +
    "hangs nose high and sinks",
  "unflyable-in-wind": "blown away, cannot hold it in wind, wind takes it, no control in wind, blown backwards",
  "unstable-suddenly": "suddenly uncontrollable, tumbles, went wild, departed, lost it without warning, diverges",
  "trim-off-after-ballast": "needs other trim since the weight was moved, trim changed, out of trim",
  "tube-lowers-thrust": "duct makes it worse, less thrust with the shroud, nozzle costs thrust, ring lowers thrust",
  "no-lift-at-all":
    "new rotor gives nothing, no thrust at all, home made blades do not lift, spins but no thrust, pushes nothing",
  "climbs-at-zero-throttle":
    "shoots up on arming, takes off by itself, jumps when armed, climbs with throttle closed, will not come down",
  "falls-when-pitched":
    "drops when tilted, loses height in forward flight, sinks in transition, falls out of the transition",
  "sits-low": "low in the water, deck under water, waterline too high, floats too deep, stern under water",
  porpoises:
    "bucks up and down, does not plane, bounces up and down, bow up, nose dives into the water, " +
    "gallops, ploughs, won't get on the plane, pitches up and down on the water",
  "hops-in-turns":
    "skips sideways, flips in the turn, rolls over in a turn, tips over in the turn, capsizes in turns, " +
    "trips on its chine",
  "spray-in-propeller": "water thrown into the propeller, spray over the deck, prop eats water, spray hits the fan",
  "will-not-turn-upwind":
    "weathervanes wrong, cannot turn into wind, nose blown off, blown downwind, will not come round",
  "fog-inside": "camera fogs, misted window, condensation, steamed up, damp inside, lens misted",
  "dome-cracks": "window cracked, acrylic cracked, crazed, dome split, tube split",
  "half-the-speed":
    "won't go faster than walking pace, much slower than it should be, half as fast, draggy, more power but slower",
  "one-dead": "a thruster did not run, one motor was off, one fan dead, one of them not turning, flew on three",
  weed:
    "grass round the shaft, fishing line, weed in the screw, tangled, reeds, seaweed, shaft squeals, " +
    "something wound round it",
  "motor-short-life": "motor rusted, motor corroded, bearings gone after salt water, motor died after the sea, rust",
  "drifts-up-down":
    "slowly sinks, slowly rises, will not hold depth, will not hold height, floats up, not neutral, buoyancy off",
  "oscillates-tail": "tail wags on the cushion, spins out, tail swings, snakes on the cushion",
  "skirt-fails":
    "cushion blows out on one side, skirt torn, skirt ripped, bag burst, skirt wears through, air leaks from the skirt",
  "no-turning": "will not turn when coasting, rudder needs thrust, goes straight on, understeers",
  wallows: "sloppy, soft, lazy response, floats about, gain too low, mushy, drifts about in hover",
  "arms-oscillate": "swing arm shakes, folding arm flutters, arms flap, tilt mechanism shakes, nacelle wobbles",
  "blades-twist":
    "blades flatten, blades bend, loses thrust at high rpm, blades too soft, will not reach full rpm, " +
    "thrust drops off at full throttle",
  "hub-bursts": "blade flew off, hub broke, rotor came apart, threw a blade, disc exploded, rim flew apart",
  "grows-with-rpm": "shakes worse the faster it turns, vibration increases with speed, coupling wobbles",
  "belt-skips": "belt jumps teeth, belt slips, belt squeals, toothed belt skips, chain jumps",
  twitches: "wings vibrate instead of flapping, flapping stutters, flapping mechanism jerks, wing beat uneven",
  "next-part-fails":
    "now the next part breaks, something else broke instead, strengthened it and the mount broke, another place breaks",
  "stalls-under-load":
    "motor stalls, motor stops under load, screw stalls, jams under load, not enough torque, bogs down, " +
    "hums and does not turn",
  "gears-strip":
    "printed gear melted, gear melted, bevel teeth stripped, teeth broken, gear worn, stripped pinion, " +
    "gear skips, cogs stripped, grinding gearbox",
  "shaft-snaps": "shaft broke, broken axle, shaft sheared, pin sheared, drive shaft twisted off",
  "gearbox-shifts": "gearbox moved, gearbox loose, motor mount shifts, mesh opens, mount bends under torque",
  "spin-up-stops": "flywheel does not get up to speed, will not spin up, stops accelerating, rotor stays slow",
  "energy-lost-fast": "flywheel runs down quickly, slows down fast, coasts down too soon, loses its spin",
  "slips-at-launch": "wheels spin, no grip, clutch slips, friction drive slips, slides instead of launching",
  "body-turns":
    "spins round and round when throttle is opened, whirls on the spot, two props turning the same " +
    "direction, both rotors turn the same way, fuselage rotates, body spins against the rotor, turns " +
    "round its own axis, spins when it lifts, yaws with torque, counter rotates",
  "tips-to-one-side": "tilts over as it spins up, rotor tips over, falls over on spin up, leans while spinning up",
  "cyclic-weak":
    "does not react to the stick, weak cyclic, hardly tilts, sluggish pitch and roll, rotor ignores the stick",
  "yaw-after-mount": "turns since the motor was moved, yaws since the new mount, crabs, flies sideways",
  smoke:
    "smoke came out when the pack was connected, magic smoke, smoke when plugged in, sparks at plug in, " +
    "fire at connection, plugged in backwards, reversed polarity",
  "wires-melt": "wire melted, insulation melted, switch burnt, hot cable, cable got soft, connector melted",
  "controller-burns":
    "esc burnt, esc fire, esc smoked, speed controller dead, board burnt, magic smoke from the esc, fet blown",
  "one-side-dead":
    "left drum does not turn, one drum does not turn, one motor does not start, left side dead, one " +
    "motor twitches, one motor stays still, only one runs",
  "locked-after-repair":
    "motor seized after gluing, motor stuck, cannot turn the motor, glue in the bearing, shaft stuck, seized",
  "ignores-signal":
    "receiver light is off, no light on the receiver, does not react, esc does not arm, no response to " +
    "the radio, beeps and does nothing, won't arm, servo does not move, not recognised",
  "compass-off":
    "heading wrong, compass error, toilet bowl, circles instead of holding, wrong heading under power, magnetometer",
  "plug-loose":
    "connector came off, plug fell out, cable pulled out, plug shook loose, intermittent contact, bad connection",
  "joint-hot": "connector hot, plug hot, solder joint hot, terminal burnt, discoloured plug",
  "controller-hot": "esc hot, esc overheats, thermal cut off, controller too hot to touch, esc shuts down warm",
  "servo-jitters": "servo buzzes, servo twitches, servo shakes, surface flutters at rest, servo hums",
  "pack-puffed":
    "pack blown up, swollen pack, lipo is a cushion, cells out of balance after charging, one cell " +
    "lower, battery swollen, lipo puffed, swollen pack, cells out of balance, one cell low, bloated " +
    "battery",
  overshoots:
    "keeps turning after the stick is let go, misses the waypoint, weaves along the track, swings past " +
    "the target, circles the waypoint",
  "slow-turns": "autopilot turns too wide, cannot make the turn, wide turns on mission, slow to turn on autopilot",
  "erratic-steering":
    "rudder sticks, steering jerks, wanders, twitchy rudder, rudder stiff, linkage loose, pushrod came " +
    "off, steering unpredictable, rudder frozen",
  "flips-on-ground":
    "flips after landing, tips over when disarming, tumbles at touch down, motors spool up on the " +
    "ground, bounces and flips",
  "tune-invalid": "old gains no longer work, tune gone, flew well before with these settings, needs a new tune",
  "fails-at-once":
    "crashes as soon as autopilot takes over, flips immediately at take off, goes wild when armed, " +
    "wrong motor order, wrong orientation",
  twitchy: "nervous, too sensitive, over reacts, touchy on pitch, darts",
  "bench-not-free": "works on the stand but not in the air, stable when held, fine on the string, only on the rig",
  gusts:
    "a gust rolled it, takes ages to level after a gust, gusts throw it about, slow to recover, knocked " +
    "about, upset by a gust",
  "return-home-fails": "did not come home, flew the wrong way home, return went the wrong way, rth failed, flew off",
  "out-of-range":
    "position lost, gps lost, no satellites, loses signal, lost radio, no telemetry, fly away, lost " +
    "link, failsafe kicked in, out of control, signal lost far out, flew off",
  "range-wrong": "did not make it back, estimated distance wrong, ran out before it came home, range estimate wrong",
  "throttle-curve":
    "all the thrust in the last bit of stick, hover at a third, throttle too sensitive, dead band on " +
    "the stick, nothing until half stick",
  "foam-dissolves": "glue ate the foam, foam melted, paint ate foam, solvent",
  "resin-tacky": "epoxy still sticky, resin did not cure, soft resin, epoxy does not harden, sticky surface",
  "gels-early": "resin got hot in the cup, epoxy set too fast, resin kicked off, pot life too short",
  "part-warps": "bent after curing, twisted after cure, warped, banana shaped, bowed part",
  "laminate-heavy": "too much resin, fibreglass came out heavy, wet layup heavy, resin rich",
  "bond-lets-go":
    "glue did not hold, glue failed in the cold, glue joint open, came unglued, delaminated, part came " +
    "off, glue let go, tape came off, lost a part in the air, wing came off",
  "sheet-lifts": "sheet comes up in the router, part moves while milling, vacuum lost, tape lets go when milling",
  "plate-flexes": "carbon plate bends, frame flexes, frame twists, floppy frame, arm bends",
  "print-breaks":
    "printed part melted, printed part snapped, layers separate, print delaminates, printed bracket " +
    "broke, split along layers",
  "laser-stops": "laser does not cut through, burns but no cut, laser too weak",
  "joint-loosens":
    "screw came loose, nut fell off, bolt backed out, vibrated loose, wobbly joint, wing folds, joint has play",
  "hinge-bound": "hinge stiff, flap does not move, control surface stuck, surface binds, hinge glued",
  "sharp-waste": "carbon dust, splinters, itching, fibre splinters, conductive dust",
  "unplanned-lift-off":
    "took off unexpectedly, lifted off during the run up, jumped into the air, flew without meaning to",
  "gear-fails":
    "bounces on landing and falls over, legs fold on landing, lands tail first, landing gear broke, " +
    "undercarriage bent, leg snapped, skid broke, hard landing breaks it",
  "tail-lost": "tail broke off, boom snapped, tail came off at landing, broken tail boom",
  "trip-wasted": "drove out for nothing, forgot the, left at home, nothing worked at the field",
  "no-spare": "all craft broken, nothing left to fly, season over, everything is in pieces",
  "evidence-gone": "do not know why it crashed, cleaned up before, no log, overwritten log, picked it up before photos",
  "wrong-credit": "thought it was fixed, it came back, fixed the wrong thing, changed several things",
  "pilot-error": "my mistake, wrong stick, pilot mistake, dumb thumbs, lost orientation",
  "servo-breaks": "servo gear stripped in the crash, servo arm broke, servo lug broke",
  "control-reversed":
    "goes the wrong way, left is right, elevator reversed, reversed servo, gyro works the wrong way, inputs inverted",
  "propellers-wrong": "prop on backwards, props swapped, wrong rotation, blows the wrong way, mounted upside down",
  "nose-over": "tips on its nose, noses over on landing, flips forward, nose digs in, cartwheels",
  "antenna-shaded": "loses radio when it turns away, signal weak from behind, range depends on heading, antenna broken",
};

/** Different words for one thing, as stems: each is searched by the first. */
export const SAME: readonly (readonly string[])[] = [
  ["controller", "esc", "regler"],
  ["pack", "batter", "battery", "lipo", "accu"],
  ["propeller", "prop", "screw", "airscrew"],
  ["shake", "vibrat", "vibrate", "vibration", "shak", "tremble", "trembl", "rattle", "rattl"],
  ["oscillate", "oscillat", "wobble", "wobbl", "hunt", "jitter"],
  ["burn", "burnt", "burned", "scorch", "fried"],
  ["crash", "crashe", "wreck"],
  ["break", "broke", "broken", "snap", "snapp", "crack"],
  ["hot", "heat", "overheat", "overheat", "warm"],
  ["water", "wet", "flood", "leak"],
  ["sink", "sank", "sunk"],
  ["tooth", "teeth", "cog", "gear"],
  ["turn", "yaw", "rotate", "rotat", "spin"],
  ["glue", "gluing", "glu", "bond", "epoxy"],
  ["seiz", "seized", "lock", "jamm", "jam", "stuck"],
  ["radio", "signal", "link", "telemetry"],
  ["ground", "floor", "runway"],
  ["strip", "stripp"],
  ["flip", "flipp", "somersault", "tumble", "tumbl"],
];
