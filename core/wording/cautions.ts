import type { Caution } from "../safety/cautions";

export const CAUTION: Record<Caution, string> = {
  propeller: "Spinning propeller: restrain the craft, stand out of its plane, wear eye protection, keep hands off until the pack is unplugged.",
  "fast-tips": "Blade tips above 150 m/s: a broken blade flies far. Stand behind a barrier at full throttle.",
  lithium: "Lithium pack: charge it watched and on a fireproof base, never a swollen or dented one; carry it in a fire-safe bag.",
  "cold-pack": "Cold pack: do not charge it below 5 °C; warm it first.",
  "takes-off": "It may lift off: before power, are all controls connected, and is it agreed how the run ends?",
  surface: "Cold water and ice: never alone, rope at hand, ice measured before anyone steps on it.",
  gas: "Helium in a closed room displaces air: keep it open, and keep the craft tied.",
  link: "Loss of radio: test the fail-safe and the range with the propeller off or the craft held, before it goes out of reach.",
  rules: "Check local rules on where and how such a craft may be run; they differ from place to place.",
};
