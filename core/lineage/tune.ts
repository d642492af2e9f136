import type { CraftFile, Version } from "../design/craftFile";
import type { Setting } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import { lineOf } from "../runs/ladder";
import { difference } from "./difference";

/**
 * What a tune was made with: when one of these changes it is no longer known to hold (docs/physics.md, common
 * practice).
 */
export type TuneCause =
  | "frame"
  | "mass"
  | "CG"
  | "propeller"
  | "motor"
  | "pack"
  | "thrust line"
  | "signalling"
  | "medium";

type TunedKind = Setting["kind"];
const ALL: TuneCause[] = ["frame", "mass", "CG", "propeller", "motor", "pack", "thrust line", "signalling", "medium"];
/** What each kind of setting rests on. */
const RESTS_ON: Record<TunedKind, readonly TuneCause[]> = {
  gain: ALL,
  rate: ALL,
  limit: ALL,
  throw: ["frame", "CG", "signalling", "medium"],
  trim: ["frame", "mass", "CG", "propeller", "thrust line"],
  mode: ["signalling"],
  channel: ["signalling"],
  signal: [],
  "fail-safe": ["signalling"],
  other: [],
};
/** CG shift (share of the length) and mass change (share) from which a tune made before is doubtful: judgement. */
const CG_SHIFT = 0.01;
const MASS_SHIFT = 0.05;

export interface TuneState {
  setting: Setting;
  /** version in which it got the value that it has */
  since: string;
  /** value in the parent; null when it was not there */
  before: string | null;
  /** what changed since then that it rests on; empty: nothing */
  stale: TuneCause[];
  /** tried on this version: in calm, in rough, both, or not; a trial that went badly counts as none */
  tried: "both" | "calm only" | "rough only" | "no" | "bad";
}

/** What changed between two versions of that a tune rests on. */
function causesBetween(from: Version, to: Version): TuneCause[] {
  const out = new Set<TuneCause>();
  for (const c of difference(from.design, to.design)) {
    if (c.kind === "part" || (c.change !== "changed" && c.path[0] === "items")) out.add("frame");
    if (c.kind === "propeller") out.add("propeller");
    if (c.kind === "motor" || c.kind === "gear" || c.kind === "controller") out.add("motor");
    if (c.kind === "pack" && !c.knowing) out.add("pack");
    if (c.kind === "thrust line") out.add("thrust line");
    if (c.kind === "medium") out.add("medium");
    const setting =
      to.design.setup.find((s) => c.path.includes(`#${s.id}`)) ??
      from.design.setup.find((s) => c.path.includes(`#${s.id}`));
    if (setting && (setting.kind === "signal" || setting.kind === "channel")) out.add("signalling");
  }
  const [a, b] = [rollUp(from.design), rollUp(to.design)];
  const length =
    Math.max(...to.design.items.map((i) => i.place.x + i.size.x / 2), 0.1) -
    Math.min(...to.design.items.map((i) => i.place.x - i.size.x / 2), 0);
  if (a && b && Math.abs(a.mass - b.mass) > MASS_SHIFT * a.mass) out.add("mass");
  if (a && b && Math.hypot(a.cg.x - b.cg.x, a.cg.z - b.cg.z) > CG_SHIFT * length) out.add("CG");
  return ALL.filter((c) => out.has(c));
}

function tried(version: Version, group: string): TuneState["tried"] {
  const own = version.trials.filter((t) => t.group === group);
  if (own.length === 0) return "no";
  const last = (air: "calm" | "rough") => own.filter((t) => t.air === air).at(-1);
  const [calm, rough] = [last("calm"), last("rough")];
  if (calm?.good === false || rough?.good === false) return "bad";
  return calm && rough ? "both" : calm ? "calm only" : rough ? "rough only" : "no";
}

/**
 * The set-up of a version: each setting with the version that its value comes from, and whether what it was made with
 * has changed since. Rough water or gusts hide over-tuning, calm hides
 * weakness: a tune counts as good when it was tried in both.
 */
export function tuneStates(file: Pick<CraftFile, "versions">, version: Version): TuneState[] {
  const line = lineOf(file.versions, version.label);
  const versions = line.flatMap((l) =>
    l === version.label ? [version] : (file.versions.find((v) => v.label === l) ?? []),
  );
  // Several settings rest on the same version: what changed since is worked out once.
  const known = new Map<string, TuneCause[]>();
  const causesSince = (since: Version): TuneCause[] => {
    const causes = known.get(since.label) ?? (since.label === version.label ? [] : causesBetween(since, version));
    known.set(since.label, causes);
    return causes;
  };
  return version.design.setup.map((setting) => {
    const same = (v: Version) => v.design.setup.find((s) => s.id === setting.id)?.value === setting.value;
    let since = version;
    for (const v of versions.slice(1)) {
      if (!same(v)) break;
      since = v;
    }
    const state = tried(version, setting.group);
    const causes = causesSince(since).filter((c) => RESTS_ON[setting.kind].includes(c));
    return {
      setting,
      since: since.label,
      before: versions[1]?.design.setup.find((s) => s.id === setting.id)?.value ?? null,
      // Tried on this very version in calm and in rough: it holds for this one, whatever changed.
      stale: state === "both" ? [] : causes,
      tried: state,
    };
  });
}

/** A limit or a cut gain that hides a fault: a debt until it is repaid. */
export interface Debt {
  setting: Setting;
  /** version that took it on */
  since: string;
}
export function debts(file: Pick<CraftFile, "versions">, version: Version): Debt[] {
  const line = lineOf(file.versions, version.label);
  return version.design.setup
    .filter((s) => s.hides !== "")
    .map((setting) => {
      const held = line.filter(
        (l) =>
          (l === version.label ? version : file.versions.find((v) => v.label === l))?.design.setup.find(
            (s) => s.id === setting.id,
          )?.hides,
      );
      return { setting, since: held.at(-1) ?? version.label };
    });
}

/** Debts of the parent that this version no longer has. */
export function repaid(file: Pick<CraftFile, "versions">, version: Version): Setting[] {
  const parent = file.versions.find((v) => v.label === version.parent);
  return (
    parent?.design.setup.filter(
      (s) => s.hides !== "" && !version.design.setup.some((x) => x.id === s.id && x.hides !== ""),
    ) ?? []
  );
}
