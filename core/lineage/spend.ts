import type { CraftFile, Version } from "../design/craftFile";
import { costOfItems } from "../design/price";
import type { Item } from "../design/schema";
import { lineOf } from "../runs/ladder";
import { thingsChanged } from "./things";

export interface Spend {
  /** making what was new or changed, h */
  building: number;
  /** runs that have a length, h */
  running: number;
  /** runs without a length: they count as nothing */
  untimed: number;
  /** finding and mending faults, h */
  mending: number;
  /** parts bought new or changed, and faults, in the currency of the workshop */
  money: number;
}

/** What one version took: parts made or bought that its parent did not have, runs, faults. */
export function spendOf(file: Pick<CraftFile, "versions" | "runs" | "faults">, version: Version): Spend {
  const parent = file.versions.find((v) => v.label === version.parent);
  const fresh = parent
    ? new Set(
        thingsChanged(parent.design, version.design)
          .things.filter((t) =>
            t.changes.some(
              (c) =>
                c.change !== "removed" &&
                (c.change === "added" || c.field === "" || c.kind === "part" || c.kind === "mass"),
            ),
          )
          .map((t) => t.key),
      )
    : null;
  const made = version.design.items.filter((i) => fresh === null || fresh.has(`items/#${i.id}`));
  const runs = file.runs.filter((r) => r.version === version.label);
  const faults = file.faults.filter((f) => runs.some((r) => r.number === f.run));
  return {
    building: made.reduce((s, i) => s + (i.makeMinutes ?? 0), 0) / 60,
    running: runs.reduce((s, r) => s + (r.seconds ?? 0), 0) / 3600,
    untimed: runs.filter((r) => r.seconds === null).length,
    mending: faults.reduce((s, f) => s + f.minutes + f.suspects.reduce((m, x) => m + x.spentMinutes, 0), 0) / 60,
    money:
      made.reduce((s, i) => s + (i.source === "buy" || i.source === "make" ? costOfItems([i]).value : 0), 0) +
      faults.reduce((s, f) => s + f.cost + f.suspects.reduce((m, x) => m + x.spentCost, 0), 0),
  };
}

const add = (a: Spend, b: Spend): Spend => ({
  building: a.building + b.building,
  running: a.running + b.running,
  untimed: a.untimed + b.untimed,
  mending: a.mending + b.mending,
  money: a.money + b.money,
});

/** Where a branch left the main line: the nearest ancestor that has another child; null on a line that never forked. */
export function forkOf(versions: readonly Pick<Version, "label" | "parent">[], label: string): string | null {
  const line = lineOf(versions, label);
  return line.slice(1).find((l) => versions.filter((v) => v.parent === l).length > 1) ?? null;
}

/** What a branch took since it left its line, and what the whole line took up to here. */
export function spendOfBranch(
  file: Pick<CraftFile, "versions" | "runs" | "faults">,
  label: string,
): { branch: Spend; whole: Spend } {
  const line = lineOf(file.versions, label);
  const fork = forkOf(file.versions, label);
  const own = fork === null ? line : line.slice(0, line.indexOf(fork));
  const sum = (labels: readonly string[]) =>
    labels
      .flatMap((l) => file.versions.find((v) => v.label === l) ?? [])
      .reduce((s, v) => add(s, spendOf(file, v)), { building: 0, running: 0, untimed: 0, mending: 0, money: 0 });
  return { branch: sum(own), whole: sum(line) };
}

export interface Reusable {
  item: Item;
  /** whole, or broken in a fault of this version that names it */
  whole: boolean;
  /** what it would cost to buy or make again, and min */
  money: number;
  minutes: number;
}

/** Parts that could go back to the shelf, dearest first. A part that an unmended fault names is not whole. */
export function reusableParts(file: Pick<CraftFile, "runs" | "faults">, version: Version): Reusable[] {
  const own = new Set(file.runs.filter((r) => r.version === version.label).map((r) => r.number));
  const broken = new Set(
    file.faults
      .filter((f) => f.run !== null && own.has(f.run) && f.severity !== "harmless" && f.fix === "")
      .map((f) => f.part),
  );
  return version.design.items
    .map((item) => ({
      item,
      whole: !broken.has(item.id),
      money: costOfItems([item]).value,
      minutes: item.makeMinutes ?? 0,
    }))
    .sort((a, b) => b.money - a.money || b.minutes - a.minutes);
}
