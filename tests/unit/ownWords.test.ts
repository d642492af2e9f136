import { describe, expect, it } from "vitest";
import { SYMPTOMS } from "../../core/faults/catalogue";
import { symptomsLike } from "../../core/faults/find";
import { SAME, WORDS } from "../../core/faults/words";

/** How somebody might say it who has not seen the catalogue; each with the entries that would be right. */
const SAID: [string, string][] = [
  ["the craft just sits there roaring and doesn't come up", "no-hover never-rotates"],
  ["front end lifts and the whole thing goes over on its back", "climbs-backflips"],
  ["motor housing burns my fingers", "motor-hot"],
  ["the lipo is blown up like a cushion", "pack-puffed"],
  ["there's a cup of water in the hull after ten minutes", "water-inside"],
  ["receiver lost contact near the far shore", "out-of-range antenna-shaded"],
  ["the esc shut down halfway through and came back", "cut-out resets controller-hot"],
  ["bolts have shaken loose", "joint-loosens"],
  ["prop nicked by the ice", "propeller-struck"],
  ["the rudder has no effect when I coast", "steering-lost no-turning"],
  ["it snakes along the pond", "sways oscillates-tail"],
  ["pinion has lost its teeth", "gears-strip"],
  ["the tail boom cracked when it came down", "tail-lost"],
  ["glue joint opened at minus ten", "bond-lets-go"],
  ["won't go faster than walking pace", "cannot-climb half-the-speed"],
  ["blade came off the hub at full speed", "hub-bursts"],
  ["camera glass is misty inside", "fog-inside"],
  ["throttle stick does nothing until the middle", "throttle-curve"],
  ["the craft crabs sideways since I remounted the motor", "yaw-after-mount"],
  ["servo hums and trembles at rest", "servo-jitters"],
  ["grass wrapped round the screw", "weed"],
  ["one thruster did nothing the whole dive", "one-dead"],
  ["it keeps veering to the right", "scrapes-one-side erratic-steering"],
  ["skids frozen onto the lake", "will-not-start-moving"],
  ["epoxy is still gummy after two days", "resin-tacky"],
  ["smoke came out as soon as I connected the battery", "smoke"],
  ["the plug got so hot the solder melted", "joint-hot wires-melt"],
  ["it jumped into the air as I armed it", "climbs-at-zero-throttle unplanned-lift-off"],
  ["flew home in the wrong direction", "return-home-fails"],
  ["rotor leans over while it runs up", "tips-to-one-side"],
  ["deck is under water when it floats", "sits-low"],
  ["printed bracket split between the layers", "print-breaks"],
  ["the elevator moves the wrong way round", "control-reversed"],
  ["gust rolled it and it took ages to level", "gusts"],
  ["motor growls and doesn't turn with the screw in the mud", "stalls-under-load"],
  ["belt hopped over a few teeth", "belt-skips"],
  ["the whole thing buzzes only around 60 percent", "shake-one-rpm"],
  ["we threw it and it fell straight down", "stalls-at-launch"],
  ["carbon arm bends when it lifts", "plate-flexes"],
  ["foam got eaten by the spray paint", "foam-dissolves"],
  ["will not reach full rpm", "blades-twist stalls-under-load cannot-climb"],
  ["full throttle and it still sinks", "no-hover"],
  ["rears up and flips", "climbs-backflips"],
  ["bevel teeth stripped", "gears-strip"],
  ["motor seized after gluing", "locked-after-repair"],
  ["Cut out at full throttle", "cut-out"],
  ["rear left rotor is always lower", "one-weak"],
  ["the blimp was flabby after the night", "gas-lost"],
  ["it settles lower and lower whenever I bank it", "sinks-in-turns"],
  ["slowly slides to the left while I hold it in hover", "drifts-in-hover"],
  ["rudder buzzing above 15 m/s", "surface-flutters"],
  ["came down with a splash from the hydrofoils", "foil-drops"],
  ["it tripped over its nose in a wave", "bow-digs"],
  ["no sideways hold on snow", "slides-off-course"],
  ["caterpillar came off its wheels", "track-off"],
  ["nasty grinding when the motor turns", "drive-noisy"],
  ["motor only twitches when I give throttle", "start-stutters"],
  ["rudder servo stopped reacting", "servo-dead"],
  ["esc beeping and it will not arm", "will-not-arm"],
  ["circles to port are twice as wide", "turns-one-way"],
  ["lost a blade guard in the air", "part-comes-off"],
  ["hairline crack in the boom socket", "structure-cracks"],
  ["bubbles behind the screw and no push", "screw-races"],
  ["two props turning the same direction", "body-turns propellers-wrong"],
  ["cells out of balance after charging", "pack-puffed"],
];

describe("symptoms in one's own words", () => {
  it("are found: first in at least three of four, among the first three in seventeen of twenty", () => {
    const missed: string[] = [];
    let [first, three] = [0, 0];
    for (const [text, right] of SAID) {
      const found = symptomsLike(text, 3).map((s) => s.id);
      const good = right.split(" ");
      if (good.includes(found[0] ?? "")) first++;
      if (found.some((id) => good.includes(id))) three++;
      else missed.push(`${text} → ${found.join(", ")}`);
    }
    expect(first, missed.join("\n")).toBeGreaterThanOrEqual(0.75 * SAID.length);
    expect(three, missed.join("\n")).toBeGreaterThanOrEqual(0.85 * SAID.length);
  });
  it("are found with a slip of the finger in a word that decides", () => {
    expect(symptomsLike("the esc shut dowm halfway and came bak", 4).map((s) => s.id)).toContain("cut-out");
    expect(symptomsLike("epoxi is still gumy", 3).map((s) => s.id)).toContain("resin-tacky");
  });
  it("have plain words for every entry, and no entry that is not there", () => {
    expect(SYMPTOMS.filter((s) => !WORDS[s.id]).map((s) => s.id)).toEqual([]);
    const ids = new Set(SYMPTOMS.map((s) => s.id));
    expect(Object.keys(WORDS).filter((id) => !ids.has(id))).toEqual([]);
    expect(new Set(SAME.map(([w]) => w)).size).toBe(SAME.length);
  });
  it("of nothing that it knows offer nothing", () => {
    expect(symptomsLike("purple elephants on holiday")).toEqual([]);
    expect(symptomsLike("")).toEqual([]);
  });
});
