import type { DriveReading } from "../design/craftFile";
import type { Unit } from "../design/schema";
import { median } from "../numeric/median";
import { sameData } from "../numeric/sameData";

/** What one of several like drives does otherwise than the others. */
export type Odd =
  | "stands still"
  | "gives nothing"
  | "drags"
  | "runs light"
  | "turns slower"
  | "draws less"
  | "draws more"
  | "hotter";

export interface OddDrive {
  unit: string;
  copy: number;
  name: string;
  odd: Odd;
  /** what was read of it, and the middle of its like; of what `odd` is about */
  read: number;
  usual: number;
  of: "current" | "rpm" | "temperature";
}

/**
 * From which a drive differs from its like ones (judgement): build tolerance of small motors and propellers gives
 * some 5 % in current, 2 % in speed; common clamp meters read to 3 %.
 */
const CURRENT = 0.15;
const RPM = 0.06;
/** K above the middle of the others. */
const HOTTER = 15;
/** Share of the others below which it gives nothing. */
const NOTHING = 0.1;
/** A below which the others do not run either. */
const RUNS = 0.2;

type Judged = OddDrive & { by: number };
/** What one drive does otherwise than the middle of the others, and by how much; null: nothing. */
function judge(r: DriveReading, others: readonly DriveReading[]): Judged | null {
  const against = (of: "current" | "rpm" | "temperature") => {
    const list = others.flatMap((o) => o[of] ?? []);
    const read = r[of];
    return read === null || list.length === 0 ? null : { of, read, usual: median(list) };
  };
  const [current, rpm, hot] = [against("current"), against("rpm"), against("temperature")];
  const off = (x: typeof current) => (x && x.usual > 0 && x.read > 0 ? x.read / x.usual - 1 : 0);
  const [i, n] = [off(current), off(rpm)];
  const by = Math.max(Math.abs(Math.log1p(i)), Math.abs(Math.log1p(n)));
  const say = (odd: Odd, what: NonNullable<typeof current>, much = by): Judged => ({
    unit: r.unit,
    copy: r.copy,
    name: r.name,
    odd,
    by: much,
    ...what,
  });
  if (rpm && rpm.usual > 0 && rpm.read < NOTHING * rpm.usual) return say("stands still", rpm, Infinity);
  const runs = current !== null && current.usual > RUNS;
  if (runs && current.read < NOTHING * current.usual) return say("gives nothing", current, Infinity);
  if (current && i > CURRENT && n < -RPM) return say("drags", current);
  if (current && i < -CURRENT && n > RPM) return say("runs light", current);
  if (rpm && n < -RPM) return say("turns slower", rpm);
  if (runs && i > CURRENT) return say("draws more", current);
  if (runs && i < -CURRENT) return say("draws less", current);
  if (hot && hot.read - hot.usual > HOTTER) return say("hotter", hot, (hot.read - hot.usual) / (4 * HOTTER));
  return null;
}

/**
 * Which of several like drives read otherwise than the others at the same command. The one that is furthest off is
 * named and counts no more in what the rest are held against, until the rest agree. Two that differ tell that they
 * differ, not which is at fault: both are named, except where one gives nothing.
 *
 * @param alike whether two drives, by their ids, have the same parts
 * @returns in the order of the readings; empty when nothing was read of two like ones, or nothing differs
 */
export function oddDrives(readings: readonly DriveReading[], alike: (a: string, b: string) => boolean): OddDrive[] {
  const odd = new Map<DriveReading, OddDrive>();
  const kins: DriveReading[][] = [];
  for (const r of readings) {
    const kin = kins.find(([first]) => first && alike(first.unit, r.unit));
    if (kin) kin.push(r);
    else kins.push([r]);
  }
  for (const kin of kins) {
    let rest = kin;
    for (;;) {
      const found = rest.flatMap((r) => {
        const j = judge(
          r,
          rest.filter((o) => o !== r),
        );
        return j ? [{ r, j }] : [];
      });
      const [worst] = found.toSorted((a, b) => b.j.by - a.j.by);
      if (!worst) break;
      const named = rest.length === 2 && worst.j.by < Infinity ? found : [worst];
      for (const { r, j } of named) {
        const { by: _, ...told } = j;
        odd.set(r, told);
      }
      rest = rest.filter((r) => !named.some((f) => f.r === r));
    }
  }
  return readings.flatMap((r) => odd.get(r) ?? []);
}

type Parts = Pick<
  Unit,
  "id" | "name" | "count" | "motor" | "controller" | "gear" | "propeller" | "propulsor" | "measured"
>;
/** What a drive is by its parts; of one known by what it pushed alone the parts say nothing, its curve does. */
const partsOf = ({ motor, controller, gear, propeller, propulsor, measured }: Parts) => [
  motor,
  controller,
  gear,
  propulsor ?? propeller,
  measured,
];

/** A drive, or one of several like ones, as a row to be read. */
export interface DriveRow extends Pick<DriveReading, "unit" | "copy" | "name"> {
  /** the first drive of the design with the same parts: those of one kin are held against one another */
  kin: string;
}

/** Drives of a design as rows to be read: each of several like ones by itself. */
export const rowsFor = (units: readonly Parts[]): DriveRow[] =>
  units.flatMap((u) => {
    const kin = units.find((o) => sameData(partsOf(o), partsOf(u)))?.id ?? u.id;
    return Array.from({ length: Math.min(64, u.count) }, (_, k) => ({
      unit: u.id,
      copy: k + 1,
      name: (u.count > 1 ? `${u.name} ${k + 1}` : u.name).slice(0, 80),
      kin,
    }));
  });

/** Whether two drives have the same parts, by the rows of their design; a drive that is gone is like itself only. */
export const likeBy =
  (rows: readonly DriveRow[]) =>
  (a: string, b: string): boolean => {
    const kin = (unit: string) => rows.find((r) => r.unit === unit)?.kin ?? unit;
    return kin(a) === kin(b);
  };
