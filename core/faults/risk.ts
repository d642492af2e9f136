import type { Risk } from "../design/risk";

/** Tests that turn a propeller, rotor or wheel under power with people at hand. */
const PERSON =
  /full throttle|tied down|on the stand|spin test|held\b|hold it by hand at|same rpm|that rpm|throttle at hover|slow (ramp|throttle)|second ammeter|clamp meter|log (the pack|power)|spin it up|power pulses|thrust on a scale|strobe/i;
/** Tests in which the craft runs, so that it can be broken. */
const PART =
  /\bglide|\btow\b|release|\brun\b|calm run|in a run|mission|gust|turn rate|the turn|a circle|straight pass|upwind|launch|another pilot|another craft|range check|wind\b|by steps|deflection/i;
/** Tests that need something bought, and about what it costs, € (common practice). */
const BOUGHT: [RegExp, number][] = [
  [/new kit|new cutter|new piece/i, 5],
  [/dye|talc/i, 3],
];

/** What a test of the catalogue puts at risk, by what is done in it: a person before a part. Common practice; whoever knows better says so in an entry of one's own. */
export const riskOf = (test: string): Risk => (PERSON.test(test) ? "a person" : PART.test(test) ? "a part" : "none");

/** What a test of the catalogue costs, €: nothing, unless something has to be bought for it. */
export const costOf = (test: string): number => BOUGHT.find(([needs]) => needs.test(test))?.[1] ?? 0;
