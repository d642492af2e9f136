import { FAIL_SAFE_GATE } from "../runs/ladders";
import { supportInAny } from "../design/support";
import { type CraftFile, type Fault, type Version, touchedBy } from "../design/craftFile";
import { debts, tuneStates } from "../lineage/tune";
import { ladderOf, ladderState, lineOf, locksFor } from "../runs/ladder";
import { lockText } from "../wording/ladder";
import { CHEMISTRY } from "../subjects/energy/battery";

/** One line of the board before a trip. */
export interface ReadyLine {
  id: string;
  text: string;
  /** shown green by the records, red by them, or by hand */
  state: "green" | "red" | "by hand";
  /** that turn it green (common practice; a builder's own times differ) */
  minutes: number;
  from: string;
}

/** Minutes that things take before a trip: common practice. */
const MINUTES = {
  lock: 30,
  debt: 20,
  tune: 20,
  loadTest: 5,
  stop: 30,
  noSuspect: 30,
  touched: 3,
  spin: 10,
  failSafe: 10,
  return: 20,
  loaded: 5,
  charge: 60,
  spare: 15,
  kit: 5,
  weigh: 10,
};

const label = (f: Fault) => `F-${String(f.number).padStart(2, "0")}`;
/** Faults of a version and of all it grew from. */
export const faultsOfLine = (file: Pick<CraftFile, "faults" | "runs" | "versions">, versionLabel: string): Fault[] => {
  const line = lineOf(file.versions, versionLabel);
  return file.faults.filter((f) => line.includes(file.runs.find((r) => r.number === f.run)?.version ?? ""));
};

/** Adds one line to what must hold. */
type Add = (id: string, text: string, state: ReadyLine["state"], minutes: number, from: string) => void;

/**
 * What must hold before a craft leaves home: what its records show, and what only hands can show.
 * @param spare the craft that a person named to run instead, and whether its records say that it can; null: none is
 *   named
 */
export function readyToTravel(
  file: CraftFile,
  version: Version,
  stops: readonly { id: string; text: string }[],
  spare: { name: string; able: boolean } | null,
): ReadyLine[] {
  const out: ReadyLine[] = [];
  const add: Add = (id, text, state, minutes, from) => void out.push({ id, text, state, minutes, from });
  for (const s of stops) add(`stop-${s.id}`, s.text, "red", MINUTES.stop, "verdicts");
  whatLocks(file, version, add);
  const faults = faultsOfLine(file, version.label);
  for (const f of faults.filter((x) => x.state === "open")) openFault(f, add);
  for (const f of faults.filter((f) => f.fix !== "" && (f.fixVersion === version.label || f.fixVersion === null)))
    mendedFault(file, version, f, add);
  wayBack(file, version, add);
  if (version.design.items.some((i) => i.mass === null))
    add("masses", "Every part aboard has a mass", "red", MINUTES.weigh, "layout");
  chargedPacks(version, add);
  for (const s of spares(file, version))
    add(`spare-${s.of}`, `Aboard the box: ${s.what}`, "by hand", s.minutes ?? MINUTES.spare, s.from);
  for (const tool of fieldKit(version)) add(`kit-${tool.id}`, tool.text, "by hand", MINUTES.kit, "field kit");
  add(
    "second",
    spare === null
      ? "A second craft that can run, when the trip is a long one: name it below"
      : spare.able
        ? `A second craft that can run: ${spare.name}`
        : `${spare.name}, named as the second craft, has an open fault or never got into the open`,
    spare === null ? "by hand" : spare.able ? "green" : "red",
    0,
    "workshop",
  );
  return out;
}

/**
 * What locks the highest rung, but for rungs that nobody tried yet: crashes, marks of danger, gates and rungs that
 * failed; and what the set-up owes.
 */
function whatLocks(file: CraftFile, version: Version, add: Add): void {
  for (const [i, lock] of locksFor(file, version, [], ladderOf(version).length).entries())
    if (lock.kind !== "untried")
      add(
        `lock-${i}`,
        `${lockText(lock).replace(/^./, (c) => c.toUpperCase())}`,
        "red",
        MINUTES.lock,
        "run" in lock ? `run ${lock.run}` : "ladder",
      );
  for (const d of debts(file, version))
    add(
      `debt-${d.setting.id}`,
      `${d.setting.name} ${d.setting.value} only hides “${d.setting.hides}”: mend it, or keep well inside it`,
      "by hand",
      MINUTES.debt,
      "set-up",
    );
  for (const t of tuneStates(file, version))
    if (t.stale.length > 0)
      add(
        `tune-${t.setting.id}`,
        `${[t.setting.group, t.setting.name].filter(Boolean).join(", ")} was set with another craft ` +
          "than this: tune it again",
        "red",
        MINUTES.tune,
        "set-up",
      );
}

function openFault(f: Fault, add: Add): void {
  const next = f.suspects
    .filter((s) => s.state === "open" && s.result.trim() === "")
    .sort((a, b) => (a.minutes ?? 60) - (b.minutes ?? 60))[0];
  add(
    `open-${f.number}`,
    next ? `${label(f)} ${f.title}: test “${next.cause}” first` : `${label(f)} ${f.title}: no suspect to test yet`,
    f.severity === "harmless" ? "by hand" : "red",
    next?.minutes ?? MINUTES.noSuspect,
    label(f),
  );
}

/** What a repair still has to show, and what it touched. */
function mendedFault(file: CraftFile, version: Version, f: Fault, add: Add): void {
  const seen = file.runs.find((r) => r.number === f.run);
  const since = file.runs.some(
    (r) =>
      r.version === version.label &&
      r.stage >= 2 &&
      r.outcome === "passed" &&
      seen &&
      Date.parse(r.date) > Date.parse(seen.date),
  );
  add(
    `spun-${f.number}`,
    `Run up, held, since ${label(f)} was mended (${f.fix.replace(/\.$/, "")})`,
    since ? "green" : "red",
    since ? 0 : MINUTES.spin,
    label(f),
  );
  for (const t of touchedBy(f))
    add(
      `touched-${f.number}-${t}`,
      `What that repair touched is as it was: ${nameOf(version, t)}`,
      "by hand",
      MINUTES.touched,
      label(f),
    );
}

/** The radio, and how the craft comes back without it. */
function wayBack(file: CraftFile, version: Version, add: Add): void {
  // Green only by what is on record: rung 1 passed, and its fail-safe gate with it where it has one.
  const first = ladderState(file, version)[0];
  const gate = first?.run?.gates.find((g) => g.gate.id === FAIL_SAFE_GATE);
  const failSafe = first?.state === "passed" && (gate === undefined || gate.result === "passed");
  add(
    "failsafe",
    "Range and fail-safe checked on this version",
    failSafe ? "green" : "red",
    failSafe ? 0 : MINUTES.failSafe,
    "rung 1",
  );
  const support = supportInAny(version.design);
  if (!support.afloat && !support.leavesGround) return;
  // No gate tells that a lost link was tried: a run on rung 3 makes it possible, hands must show it.
  const near = file.runs.some((r) => r.version === version.label && r.stage >= 3 && r.outcome === "passed");
  add(
    "return",
    support.afloat
      ? "A way back is tested before water: on a line, or by a second craft"
      : "What it does when the link is lost is tried low and near",
    near ? "by hand" : "red",
    MINUTES.return,
    "rung 3",
  );
}

function chargedPacks(version: Version, add: Add): void {
  for (const b of version.design.batteries) {
    add(`charge-${b.id}`, `${b.name} charged and not puffed`, "by hand", MINUTES.charge, b.name);
    add(
      `loaded-${b.id}`,
      `${b.name} under load: above ${(CHEMISTRY[b.chemistry].floor * b.series).toFixed(1)} V at full throttle`,
      "by hand",
      MINUTES.loaded,
      b.name,
    );
  }
  for (const b of version.design.batteries)
    if (b.cellResistance.evidence !== "measured" && b.cellResistance.evidence !== "proven")
      add(
        `test-${b.id}`,
        `${b.name} was never read under load: note volts at rest and loaded`,
        "by hand",
        MINUTES.loadTest,
        b.name,
      );
}

const nameOf = (version: Version, part: string): string =>
  version.design.items.find((i) => i.id === part)?.name ?? part;

/** Spares from what broke on this line, newest first, each part once. */
export function spares(
  file: Pick<CraftFile, "faults" | "runs" | "versions">,
  version: Version,
): { of: string; what: string; from: string; minutes: number | null }[] {
  const out = new Map<string, { of: string; what: string; from: string; minutes: number | null }>();
  for (const f of faultsOfLine(file, version.label).toReversed()) {
    if (f.damage.trim() === "") continue;
    const key = f.part || f.damage.trim().toLowerCase();
    if (!out.has(key))
      out.set(key, {
        of: String(f.number),
        what: f.part
          ? `${nameOf(version, f.part)} (${f.damage.trim().replace(/\.$/, "")})`
          : f.damage.trim().replace(/\.$/, ""),
        from: label(f),
        // As long as it takes to make one, where its entry says so.
        minutes: version.design.items.find((i) => i.id === f.part)?.makeMinutes ?? null,
      });
  }
  return [...out.values()];
}

/** Tools from what is aboard (common practice). */
export function fieldKit(version: Version): { id: string; text: string }[] {
  const { design } = version;
  const out = [{ id: "hand", text: "Scale, meter, tape, ties, the tools for every screw that was touched" }];
  if (design.units.length > 0) out.push({ id: "propellers", text: "Spare propellers and the spanner for their nuts" });
  if (design.ballastSpots.length > 0 || design.walkBack) out.push({ id: "ballast", text: "Ballast in known grams" });
  if (supportInAny(version.design).afloat)
    out.push({ id: "dry", text: "Towel, grease, sealing tape, a line to fetch it back" });
  if (supportInAny(design).gas) out.push({ id: "gas", text: "Gas, patches, trim weights" });
  return out;
}

/** Minutes until everything that is not green would be. */
export const minutesToGo = (lines: readonly ReadyLine[], ticked: ReadonlySet<string>): number =>
  lines.filter((l) => l.state !== "green" && !ticked.has(l.id)).reduce((s, l) => s + l.minutes, 0);
