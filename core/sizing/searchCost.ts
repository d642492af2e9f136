import { LAWS, usualPrices } from "../catalogue/catalogue";
import { usualPrice } from "../design/money";
import type { Price } from "../design/price";
import type { Unit } from "../design/schema";
import { type Asked, type Parts, countOf, drivesOf } from "./searchLedger";
import type { Choice } from "./searchParts";

/**
 * What parts cost together: those with a price of their own exactly, the others by the usual one with its band. Ends
 * are summed as they are: usual prices are wrong together.
 */
function together(parts: readonly { price: number | null; law: number; pieces: number }[]): Price | null {
  let [least, most] = [0, 0];
  for (const { price, law, pieces } of parts) {
    const usual = price ?? usualPrice(law);
    if (usual === null) return null;
    const band = price === null ? LAWS.price.band : 0;
    least += pieces * usual * (1 - band);
    most += pieces * usual * (1 + band);
  }
  return { least, most };
}

/** What a choice costs: its drives and its packs; null where a usual price is needed and none can be told. */
export const costOf = (
  choice: Choice,
  { searched, packs }: Asked,
  parts: Parts,
  units: readonly Unit[],
): Price | null =>
  together([
    ...searched.flatMap((s, k) => {
      const { motor, controller, propeller } = parts.drives[k] as Parts["drives"][number];
      const drive = drivesOf(choice, s);
      const law = usualPrices(drive.motorMass, (units[k] as Unit).controller.maxCurrent, 0, drive.diameter);
      const pieces = countOf(s, drive);
      return [
        { price: motor.price, law: law.motor, pieces },
        { price: controller.price, law: law.controller, pieces },
        { price: propeller.price, law: law.propeller, pieces },
      ];
    }),
    ...packs.map((group, k) => {
      const { price, energy } = parts.packs[k] as Parts["packs"][number];
      return { price, law: usualPrices(0, 0, energy, 0).pack, pieces: group.length };
    }),
  ]);
