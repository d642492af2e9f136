import type { Aboard, Around } from "../design/hazards";
import type { Caution, CautionPlace } from "../safety/cautions";

/**
 * The usual cautions in plain words (common practice). They stand beside local rules and licensed practice, not in
 * their place.
 */
export const CAUTION: Record<Caution, string> = {
  turning:
    "Whatever turns, propeller, rotor, wheel, drum or screw: restrain the craft, stand out of its " +
    "plane, wear eye protection, keep hands off until the pack is unplugged.",
  "fast-tips": "Blade tips above 150 m/s: a broken blade flies far. Stand behind a barrier at full throttle.",
  "home-made rotor":
    "Home-made rotor or blade: first spin-ups behind a shield, nobody in its plane, in small steps; " +
    "look at the roots after each.",
  flywheel:
    "Flywheel: it keeps its energy when the power is off, and it can burst. Shield it, wait until it " +
    "stands, do not tilt it while it turns.",
  spring:
    "Spring or bungee under tension: it lets go all at once. Eyes out of its line, a pin through it " +
    "until it is meant to go.",
  "pressure gas": "Gas under pressure: a relief valve, filled behind a shield, never warmed and never left in the sun.",
  gears: "Belts and gears take fingers, hair and sleeves: cover them, and keep hands off until the pack is unplugged.",
  "first-plug":
    "First plug-in after any work on the wiring: through a current limiter or a lamp, propeller off, " +
    "one hand on the plug.",
  spark: "Above six cells the plug sparks: an anti-spark plug or a resistor lead, never a bare pair of wires.",
  lithium:
    "Lithium pack: charge it watched and on a fireproof base, never a swollen, dented or punctured one. " +
    "Smoke or hissing means it is burning: outdoors, away from it, and it is left to burn out.",
  "wet-pack":
    "A pack that was in sea water, or was punctured, is not charged again: outdoors in a metal box, watched for a day.",
  "pack-store":
    "Store packs at about half charge, cool and in a fire-safe bag; worn ones are discharged and go to " +
    "a collection point.",
  "cold-pack": "Cold pack: do not charge it below 5 °C (41 °F); warm it first.",
  unstable:
    "Unstable on purpose: when its controller resets it is lost at once. Height, soft ground, nobody " +
    "below, and a supply of its own for the controller.",
  link:
    "Loss of radio: test the fail-safe and the range with the propeller off or the craft held, before it " +
    "goes out of reach.",
  "takes-off": "It may lift off: before power, are all controls connected, and is it agreed how the run ends?",
  "hand launch": "Thrown by hand: motor off or behind the hand, glove on, thrown level into the wind, nobody in front.",
  "hand catch":
    "Caught by hand: motor stopped first, glove and glasses on, from the side; let it fall rather than reach for it.",
  surface: "Cold water and ice: never alone, rope at hand, ice measured before anyone steps on it.",
  retrieval: "It is fetched back by a line, a net or a second boat, never by swimming or walking out.",
  gas: "Helium in a closed room displaces air: keep it open, and keep the craft tied.",
  "cutting dust":
    "Dust of glass and carbon fibre and of foam: mask, vacuum at the cut, gloves, wet sanding; never swept dry.",
  resin: "Resin: gloves, fresh air, small cups. A full cup gets hot enough to burn: pour it out flat, outdoors.",
  "hot wire": "Hot wire in foam gives off fumes: outdoors or drawn off, and never left on.",
  laser: "Laser: its own glasses, closed box, fumes drawn off; never plastics that hold chlorine.",
  "out of sight":
    "Out of sight: in most places not allowed without a licence. A second person watches it, and it " +
    "comes back or stops by itself.",
  fog: "Fog: it is lost sooner than it looks. Closer than half of what can be seen, a horn or light on it.",
  night: "Night: lights that show which way it points, and a lit place to stand.",
  roads: "Roads: no run that can end on one; somebody stands towards it.",
  "power lines": "Power lines: at least three times the height of the pole away, and nothing is ever fetched from one.",
  airfield: "Near an airfield: ask its operator first; full-size traffic always goes first.",
  animals: "Animals: not near nests, herds or dogs; it ends when they are disturbed.",
  people: "People: nobody under it or in its line; a marshal keeps others back, and it stops when somebody walks in.",
  alone:
    "Alone: somebody knows where you are and when you are back, phone on you, no rung above held-down " +
    "runs without a second person in call.",
  rules: "Check local rules on where and how such a craft may be run; they differ from place to place.",
};

export const CAUTION_PLACE: Record<CautionPlace, string> = {
  workshop: "In the workshop",
  power: "Before power",
  site: "At the site",
  plan: "For this place",
};

export const ABOARD_WORD: Record<Aboard, string> = {
  "home-made rotor": "a rotor or blades of one's own make",
  flywheel: "a flywheel",
  spring: "a spring or bungee",
  "pressure gas": "gas under pressure",
  "belts or gears": "belts or gears",
  "hand launch": "it is thrown by hand",
  "hand catch": "it is caught by hand",
  "cutting dust": "fibre or foam is cut and sanded",
  resin: "resin",
  "hot wire": "hot wire",
  laser: "laser",
};
export const AROUND_WORD: Record<Around, string> = {
  "out of sight": "it goes out of sight",
  fog: "fog",
  night: "night",
  roads: "roads",
  "power lines": "power lines",
  airfield: "an airfield",
  animals: "animals",
  people: "people",
};
