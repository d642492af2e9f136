import { sdOf } from "../../numeric/doubt";
import { figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { box } from "./node";
import { ventFor } from "./warm";

/** °C of air in which packs and electronics are no longer kept lastingly (common practice). */
const HOT = 60;
/** °C to which vents are made wide enough. */
const COOL = 50;

/** Air in a closed space that its drives heat beyond what pack and electronics stand. */
const hotBox = verdict<{ name: string; air: number; packs: boolean }>({
  find(see) {
    const result = see.result(box);
    const quantity = see.metrics.boxAir;
    if (!result || !quantity) return [];
    return result.boxes.flatMap(({ box: b, rise }) => {
      if (!rise || result.outside + rise.value + sdOf(rise) <= HOT) return [];
      const air = result.outside + rise.value;
      return [
        {
          page: "power" as const,
          severity: "care" as const,
          about: b.id,
          params: { name: b.name, air, packs: b.packs.length > 0 },
          figure: figureOf("air inside", { ...quantity, value: air, sd: sdOf(rise) }, HOT),
        },
      ];
    });
  },
  remedies(see, { about }, h) {
    const result = see.result(box);
    const warm = result?.boxes.find((b) => b.box.id === about);
    if (!result || !warm) return [];
    const rise = warm.ways.rise > 0 ? warm.ways.rise : 0.05;
    const area = ventFor(
      warm.heat.value,
      Math.max(5, COOL - result.outside),
      { ...warm.ways, rise },
      result.outside,
      result.density,
    );
    return [
      advice("Feel it after two minutes at the throttle that it flies with: a thermometer in it tells more than this"),
      ...(area > 0
        ? [
            advice(
              `Vents of ${plain(area, "area", h)} low and as much high, ` +
                `${plain(rise, "length", h, h === "metric" ? 0 : 1)} apart; or the motor in the open air`,
            ),
          ]
        : []),
    ];
  },
  says: (p, h) =>
    `${p.name}: the air in it goes to about ${plain(p.air, "temperature", h, 0)} at lasting full ` +
    `throttle${p.packs ? ", with a pack inside" : ""}`,
});

export const verdicts = { "hot-box": hotBox };
