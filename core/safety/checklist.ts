import { asItFlew } from "../runs/angles";
import { ANGLE_SIGN, angleName, angleText } from "../wording/angles";
import { supportInAny } from "../design/support";
import { type CraftFile, type Fault, type Version, touchedBy } from "../design/craftFile";
import type { Design, Target } from "../design/schema";
import type { UnitHabit } from "../design/units";
import { plain } from "../wording/format";
import { difference } from "../lineage/difference";
import { reversals } from "../lineage/settle";
import { debts, tuneStates } from "../lineage/tune";
import { CHEMISTRY, openCircuit } from "../subjects/energy/battery";

export const LISTS = ["leaving home", "at the site", "between runs", "after a crash", "before storage"] as const;
export type ListName = (typeof LISTS)[number];

/** One line of a checklist: what to do, what it comes from, and whether it holds the run up. */
export interface CheckLine {
  id: string;
  text: string;
  /** the part, fault, change or target that wrote it */
  from: string;
  must: boolean;
}

const volts = (v: number) => `${v.toFixed(2)} V`;
const length = (m: number, h: UnitHabit) => plain(m, "length", h, h === "metric" ? 0 : 2);
const lithium = (chemistry: string) => chemistry !== "nimh" && chemistry !== "lead";

/** Parts that something moves, or that move something. */
export const moved = (design: Pick<Design, "items">) =>
  design.items.filter((i) => i.role === "servo" || i.role === "moving surface");

/** What the lists are written from, and where a line goes. */
interface Aboard {
  file: CraftFile;
  version: Version;
  design: Design;
  /** Sentences of the verdicts that say stop. */
  stops: readonly { id: string; text: string }[];
  /** Rung of the test ladder that is planned, 1 to 7. */
  stage: number;
  /** What was changed since the parent. */
  changed: ReturnType<typeof reversals>;
  /** Mended, and no run has shown yet that it holds. */
  unproven: Fault[];
  environment: Design["brief"]["environment"];
  cold: boolean;
  water: boolean;
  gas: boolean;
  add: (id: string, text: string, from: string, must?: boolean) => void;
  habit: UnitHabit;
}

function leavingHome({ add, file, version, design, changed, environment, cold, water, gas, habit }: Aboard): void {
  for (const b of design.batteries) {
    const full = openCircuit(b.chemistry, 1) * b.series;
    add(`charge-${b.id}`, `${b.name} charged: about ${volts(full)} at rest; write it down`, b.name, true);
  }
  if (design.batteries.some((b) => lithium(b.chemistry)))
    add("bag", "Lithium packs in a fire-safe bag, none swollen or dented", "chemistry");
  add("radio", "Radio charged, the model of this craft loaded", "radio");
  if (changed.length > 0 || file.faults.some((f) => f.fixVersion === version.label))
    add(
      "run-up",
      "What was changed or repaired tried at home, craft held, propeller clear",
      "changes since the last version",
      true,
    );
  for (const f of file.faults.filter((x) => x.damage.trim() !== ""))
    add(
      `spare-${f.number}`,
      `Spare or means to mend: ${f.damage.trim().replace(/\.$/, "")}`,
      `fault F-${String(f.number).padStart(2, "0")}`,
    );
  add("tools", "Tools for every screw that was touched, tape, ties, a scale, the meter", "field kit");
  if (water) add("rescue", "Rope, towel, a way to fetch it back", "afloat");
  if (cold) add("warm", "Packs kept warm on the way", plain(environment.airTemperature, "temperature", habit, 0));
  if (gas) add("gas", "Gas, patches, weights for the trim", "gas");
  add("weather", `Wind below ${plain(environment.wind, "speed", habit, 0)} forecast`, "brief");
}

function atTheSite(aboard: Aboard): void {
  beforePower(aboard);
  asItIsBuilt(aboard);
  fromTheRecords(aboard);
  bySchool(aboard);
  const { add, design, stage } = aboard;
  for (const u of design.units.filter((x) => x.learned === null))
    if (stage >= 5) add(`unmeasured-${u.id}`, `${u.name} has never been on the thrust stand: leave a margin`, u.name);
}

/** Names the state that a target is asked of, where it is asked of one. */
const inWhich = ({ states }: Design, { stateId }: Target): string => {
  const state = states.find((s) => s.id === stateId);
  return state ? `in the state “${state.name}” ` : "";
};

/** The place, the people, and what was agreed. */
function beforePower({ add, design, stops, stage, habit }: Aboard): void {
  for (const s of stops)
    add(`stop-${s.id}`, `${s.text}: settle it, or write down why it is run all the same`, "verdicts", true);
  add("rules", "This place and time are allowed; people and animals are clear", "local rules", true);
  add(
    "abort",
    stage >= 3
      ? "Agreed: who ends the run, on which word, and what happens if it goes better than planned"
      : "Agreed: who ends the run, on which word",
    "plan",
    stage >= 3,
  );
  for (const t of design.brief.targets)
    if (t.metric === "cgX" && t.comparison === "between")
      add(
        "cg",
        `CG ${inWhich(design, t)}between ${length(t.value, habit)} and ` +
          `${length(t.upper ?? t.value, habit)} aft of datum: balance it`,
        "brief",
        true,
      );
}

/** Drives, surfaces, radio, packs, hull and gas as they must be. */
function asItIsBuilt({ add, file, version, design, stage, environment, cold, water, gas, habit }: Aboard): void {
  for (const u of design.units)
    add(
      `turns-${u.id}`,
      `${u.name}: propeller tight and whole, turns ` +
        `${u.spin === "half each" ? "each its own way" : u.spin}, the air goes the right way at idle`,
      u.name,
      true,
    );
  if (moved(design).length > 0 || design.surfaces.some((s) => s.controls.length > 0))
    add("surfaces", "Every surface moves the right way, seen from behind, with the stick", "surfaces", true);
  for (const s of design.setup.filter((x) => x.kind === "fail-safe"))
    add(`setup-${s.id}`, `Fail-safe tried: ${s.value}`, "set-up", true);
  add(
    "range",
    stage >= 4 ? "Range checked at reduced power, someone watching the craft" : "Radio holds at the distance planned",
    "radio",
    stage >= 4,
  );
  const flew = asItFlew(file, version);
  for (const a of flew?.angles ?? [])
    if (a.of === "neutral" || a.of === "set angle")
      add(
        `angle-${a.what}-${a.side}-${a.of}`,
        `${angleName(a)} ${angleText(a)}, as in run ${flew?.number} (${ANGLE_SIGN})`,
        `run ${flew?.number}`,
      );
  for (const b of design.batteries)
    add(
      `pack-${b.id}`,
      `${b.name} strapped, plug latched; resting volts at least ` +
        `${volts(0.93 * openCircuit(b.chemistry, 1) * b.series)}`,
      b.name,
      true,
    );
  if (cold || environment.packTemperature < 10)
    add("pack-warm", `Packs above ${plain(10, "temperature", habit, 0)} before full throttle`, "cold");
  if (water) add("hatch", "Hatch sealed, dry inside", "afloat", true);
  if (gas) add("trim", "Weighed off: rises or sinks as meant when everything dies", "gas", true);
}

/** What changes and faults ask for. */
function fromTheRecords({ add, file, version, design, stage, changed, unproven }: Aboard): void {
  for (const c of changed.slice(0, 12))
    add(`changed-${c.subject}`, `Changed since ${version.parent}: ${c.subject}. Look at it, and try it`, "changes");
  for (const f of file.faults) {
    const name = `F-${String(f.number).padStart(2, "0")}`;
    if (f.state === "open") add(`open-${f.number}`, `Still open: ${f.title}`, `fault ${name}`, f.severity === "danger");
    else if (f.state === "closed")
      add(`unproven-${f.number}`, `Not proven yet: ${f.title}. The fix: ${f.fix || "see the fault"}`, `fault ${name}`);
    else if (f.fix !== "")
      add(
        `once-${f.number}`,
        `Happened once: ${f.title}. Still as mended: ${f.fix.replace(/\.$/, "")}?`,
        `fault ${name}`,
      );
  }
  for (const f of unproven) {
    const name = `F-${String(f.number).padStart(2, "0")}`;
    for (const t of touchedBy(f))
      add(
        `touched-${f.number}-${t}`,
        `Touched by the repair: ${design.items.find((i) => i.id === t)?.name ?? t}, as it was?`,
        `fault ${name}`,
        true,
      );
    if (f.nextWeakest !== "")
      add(`next-${f.number}`, `Next weakest since that repair: ${f.nextWeakest.replace(/\.$/, "")}`, `fault ${name}`);
  }
  for (const group of new Set(tuneStates(file, version).flatMap((t) => (t.stale.length > 0 ? [t.setting.group] : []))))
    add(
      `stale-${group}`,
      `The set-up of ${group || "the craft"} was made for another state of it: low and short first, ready to let go`,
      "set-up",
      stage >= 4,
    );
  for (const d of debts(file, version))
    add(
      `debt-${d.setting.id}`,
      `${d.setting.name} ${d.setting.value} hides “${d.setting.hides}”: do not lean on it`,
      "set-up",
    );
}

/** What the builder's own way of working asks for. */
function bySchool({ add, design, stage, changed, habit }: Aboard): void {
  if (design.schools.balance === "unstable on purpose") {
    add(
      "walk",
      design.walkBack
        ? `CG not behind its stop line, ${length(design.walkBack.stop, habit)}`
        : "A stop line for the CG is written down",
      "schools",
      true,
    );
    add(
      "retune",
      "Retuned and trimmed at this step of the CG, controller on before it is let go",
      "schools",
      stage >= 4,
    );
  }
  if (design.schools.testing === "test rig first" && stage >= 3)
    add("rig", "What is new was on the rig first", "schools", true);
  if (design.schools.changes === "one at a time" && changed.length > 1)
    add(
      "one",
      `${changed.length} things changed at once, against your own way: note that none will get the credit`,
      "schools",
    );
}

function betweenRuns({ add, design, water }: Aboard): void {
  add("off", "Unplugged before any hand goes near", "power", true);
  for (const u of design.units)
    add(`warm-${u.id}`, `${u.name}: motor and controller by touch; propeller for nicks`, u.name);
  for (const b of design.batteries)
    add(
      `volts-${b.id}`,
      `${b.name}: resting volts written down; stop below ${volts((CHEMISTRY[b.chemistry].floor + 0.3) * b.series)}`,
      b.name,
      true,
    );
  add("shake", "Shaken and listened to; screws and hinges tried", "craft");
  if (water) add("water", "Opened: dry inside?", "afloat");
  add("note", "What was seen written down before the next run", "log");
}

function afterACrash({ add, design }: Aboard): void {
  add("safe", "Throttle off, pack unplugged with nobody in the propeller's plane", "safety", true);
  if (design.batteries.some((b) => lithium(b.chemistry)))
    add("pack", "A struck lithium pack lies in the open, away from people, for half an hour", "chemistry", true);
  add("log", "Save the log before power goes off for good, or before anything is plugged in again", "evidence", true);
  add("photo", "Photograph it as it lies, from all sides, and where it came from", "evidence", true);
  add("still", "Do not move or straighten anything yet", "evidence", true);
  add(
    "suspects",
    "Write down what was seen, heard and smelt, and who stood where; list the suspects before anybody agrees on one",
    "evidence",
    true,
  );
  add("parts", "Pick up every part; weigh what is missing", "evidence");
  add("path", "Follow the load from where it struck: what bent, what broke, what is the next weakest", "structure");
  for (const i of moved(design).slice(0, 6))
    add(`servo-${i.id}`, `${i.name}: moves freely, gears whole, neutral where it was`, i.name);
}

function beforeStorage({ add, design, water }: Aboard): void {
  for (const b of design.batteries)
    add(
      `store-${b.id}`,
      lithium(b.chemistry)
        ? `${b.name} at about ${volts(openCircuit(b.chemistry, 0.45) * b.series)}, out of the craft`
        : `${b.name} charged, out of the craft`,
      b.name,
      true,
    );
  if (water) add("rinse", "Rinsed with fresh water, opened, dried, greased", "afloat");
  add("hinges", "Surfaces unloaded, belts slack", "craft");
  add("damage", "Damage found today stands in the faults", "log");
  add("next", "What the next run is to find out is written down", "log");
}

const WRITTEN: Record<ListName, (aboard: Aboard) => void> = {
  "leaving home": leavingHome,
  "at the site": atTheSite,
  "between runs": betweenRuns,
  "after a crash": afterACrash,
  "before storage": beforeStorage,
};

/**
 * The checklists of a version, written from what is aboard: packs, drives, surfaces, what holds it up, where it
 * works; from what was changed since its parent; and a line from every
 * fault that was closed or is still unproven. Common practice of the field, in the order in which it is done.
 *
 * @param stops sentences of the verdicts that say stop, each with an id of its own
 * @param stage rung of the test ladder that is planned, 1 to 7
 */
export function checklist(
  file: CraftFile,
  version: Version,
  stops: readonly { id: string; text: string }[],
  list: ListName,
  stage: number,
  habit: UnitHabit,
): CheckLine[] {
  const { design } = version;
  const out: CheckLine[] = [];
  const parent = file.versions.find((v) => v.label === version.parent);
  const { environment } = design.brief;
  const { afloat, gas } = supportInAny(design);
  WRITTEN[list]({
    file,
    version,
    design,
    stops,
    stage,
    changed: parent ? reversals(difference(parent.design, design), design) : [],
    unproven: file.faults.filter((f) => f.fix !== "" && f.state !== "proven"),
    environment,
    cold: environment.airTemperature < 5,
    water: afloat,
    gas,
    habit,
    add: (id, text, from, must = false) => void out.push({ id: `${list}/${id}`, text, from, must }),
  });
  return out;
}
