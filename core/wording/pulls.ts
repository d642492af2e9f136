import type { PullsResult, Share } from "../bench/pulls";
import type { PullsTest } from "../design/pulls";

const share = ({ value, sd }: Share) => `${(100 * value).toFixed(0)} ± ${Math.max(1, 100 * sd).toFixed(0)} %`;

/** What a side of a test is called. */
export function sideWord({ of, together }: Pick<PullsTest, "of" | "together">, side: number): string {
  if (of === "each corner") return `unit ${side + 1}`;
  if (of === "one and a pair") return side === 0 ? "one by itself" : together === 2 ? "the pair" : `all ${together}`;
  return side === 0 ? "by itself" : "built in";
}

/** What pulls in turns say, one sentence each; empty while there is too little to say. */
export function pullsText(
  test: Pick<PullsTest, "of" | "together" | "what">,
  { left, atEqualPower, corners }: PullsResult,
): string[] {
  const said: string[] = [];
  if (left) {
    const who = test.what || (test.of === "one and a pair" ? "being together" : "what is around it");
    const takes = 1 - left.value;
    // Less than twice its doubt is no difference that anybody has seen.
    const unseen = Math.abs(takes) < 2 * left.sd;
    const each = test.of === "one and a pair" ? " of each" : "";
    said.push(
      unseen
        ? `No difference shows: ${share(left)} is left${each}, and the doubt is as large.`
        : takes > 0
          ? `${upper(who)} takes ${share({ value: takes, sd: left.sd })} of the thrust${each}.`
          : `${upper(who)} adds ${share({ value: -takes, sd: left.sd })} to the thrust${each}: read it once more.`,
    );
  }
  if (left && atEqualPower)
    said.push(
      `At equal power ${share(atEqualPower)} is left: ${
        atEqualPower.value > left.value + atEqualPower.sd
          ? "it draws less there, so that a part of the loss is throttle not used."
          : "throttle does not bring it back."
      }`,
    );
  if (corners.length > 0) {
    const [low, high] = [least(corners, 1), least(corners, -1)];
    const apart = (corners[high]?.value ?? 1) - (corners[low]?.value ?? 1);
    const doubt = Math.hypot(corners[high]?.sd ?? 0, corners[low]?.sd ?? 0);
    said.push(
      apart < 2 * doubt
        ? "All push alike, as far as these readings tell."
        : `${upper(sideWord(test, low))} is the weakest, at ${share(corners[low] ?? { value: 1, sd: 0 })} ` +
            `of the mean; ${sideWord(test, high)} the strongest, at ` +
            `${share(corners[high] ?? { value: 1, sd: 0 })}.`,
    );
  }
  return said;
}
const upper = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
const least = (list: readonly Share[], sign: 1 | -1): number =>
  list.reduce((best, c, k) => (sign * c.value < sign * (list[best]?.value ?? 0) ? k : best), 0);

/** What is still in the way of the pack in these readings. */
export const EVENED: Record<PullsResult["evened"], string> = {
  volts: "Brought to one voltage, since a pack empties.",
  order: "A steady fall along the readings is taken out, as a pack empties.",
  not:
    "Nothing tells how far the pack emptied in between: read each twice, in turns, or the volts along " +
    "with it. Until then the doubt is wider.",
};
