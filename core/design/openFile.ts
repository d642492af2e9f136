import { z } from "zod";
import { roleByWords, saysFailSafe, saysPilot, blamesByWords, twinByWords } from "./byWords";
import { type CraftFile, FORMAT, FORMAT_VERSION, craftFileSchema } from "./craftFile";

export interface FileProblem {
  path: (string | number)[];
  message: string;
}
export type OpenedFile = { ok: true; file: CraftFile } | { ok: false; problems: FileProblem[] };

type Raw = Record<string, unknown>;

/**
 * What brings a file from one version of the format to the next, by the version that it comes from. Each is a named
 * function with a file of that version in tests/fixtures.
 * A later version only ever adds: what is missing is "not said".
 */
const MIGRATIONS: Record<number, (file: Raw) => Raw> = {
  1: drivesSayWhere,
  2: loadsAndStepsAreKept,
  3: statesSayWhatHoldsItUp,
  4: shaftsTurnAnything,
  5: drivesAreReadAndPartsHeld,
  6: wingsAreDescribed,
  7: partsSayWhatTheyAre,
  8: amountsSayTheirCurrency,
  9: runsSayTheirState,
  10: drivesHaveSeveralThingsAround,
  11: leanAndSwingMayBeAskedFor,
  12: pullsMayBeHeldAgainstOneAnother,
  13: watersMayMove,
  14: whatSwimsMayTellItsDrag,
};

/**
 * 1 → 2: a drive says where it works, and a limit how well it is known. Of what was there before nothing is said: the
 * application asks once.
 */
function drivesSayWhere(file: Raw): Raw {
  return { ...file, formatVersion: 2 };
}

/**
 * 2 → 3: phases may be held by what a pack was found to give, and the steps of a walk-back are kept. "In water" meant
 * anything that works there, and nothing of it was computed; now it is an
 * open screw: of a drive that said so nothing is said any more, and the application asks once.
 */
function loadsAndStepsAreKept(file: Raw): Raw {
  const next = structuredClone(file);
  for (const v of Array.isArray(next.versions) ? next.versions : [])
    for (const u of (((v as Raw)?.design as Raw | undefined)?.units as Raw[] | undefined) ?? [])
      if (u.surroundings === "in water") u.surroundings = null;
  return { ...next, formatVersion: 3 };
}

/** A design of before states with the one that it has; any other as it is. */
function inStates({ heldUpBy, ...rest }: Raw): Raw {
  return "states" in rest ? rest : { ...rest, states: [{ id: "usual", name: "as it is used", heldUpBy: [heldUpBy] }] };
}

/**
 * 3 → 4: what holds it up belongs to a state of a version, and may be several things at once; of the craft as a whole
 * it is said no more.
 */
function statesSayWhatHoldsItUp(file: Raw): Raw {
  const next = structuredClone(file);
  const craft = next.craft as Raw | undefined;
  const said = craft?.heldUpBy;
  if (craft) delete craft.heldUpBy;
  for (const v of Array.isArray(next.versions) ? next.versions : []) {
    const design = (v as Raw)?.design as Raw | undefined;
    if (typeof design === "object" && design !== null) (v as Raw).design = inStates({ heldUpBy: said, ...design });
  }
  return { ...next, formatVersion: 4 };
}

/** 4 → 5: a drive may turn something else than an open propeller; until it is said, that is what it turns. */
function shaftsTurnAnything(file: Raw): Raw {
  return { ...file, formatVersion: 5 };
}

/**
 * 5 → 6: a run may hold what was read of each drive, a part what holds it in its place, and a design how its drives
 * are started and stopped; of older ones none of these is said.
 */
function drivesAreReadAndPartsHeld(file: Raw): Raw {
  return { ...file, formatVersion: 6 };
}

/** 6 → 7: wings, fins and bodies may be described, and how it flies; of older ones none of these is said. */
function wingsAreDescribed(file: Raw): Raw {
  return { ...file, formatVersion: 7 };
}

/**
 * A design of before a part said what it is: its names propose it, once. What they said of a setting and of a pair is
 * kept in the same way.
 */
export function withRoles(design: Raw): Raw {
  const items = Array.isArray(design.items) ? (design.items as Raw[]) : [];
  const named = items.map((i) => ({ id: String(i.id), name: String(i.name) }));
  return {
    ...design,
    items: items.map((i, k) => ({
      role: roleByWords(String(i.name), String(i.group ?? "")),
      twinId: twinByWords(named, named[k] as { id: string; name: string }),
      ...i,
    })),
    ...(Array.isArray(design.setup)
      ? { setup: (design.setup as Raw[]).map((s) => (saysFailSafe(String(s.name)) ? { ...s, kind: "fail-safe" } : s)) }
      : {}),
  };
}

/**
 * 8 → 9: a file says what its amounts are in, a price may be a range, and a place or a size not said; until then all
 * were euros, one number, and said.
 */
function amountsSayTheirCurrency(file: Raw): Raw {
  return { ...file, currency: file.currency ?? "EUR", formatVersion: 9 };
}

/**
 * 9 → 10: a craft may have several states, and a run says which it was about: until then there was one, whatever it
 * was called.
 */
function runsSayTheirState(file: Raw): Raw {
  const versions = Array.isArray(file.versions) ? (file.versions as Raw[]) : [];
  const firstOf = (label: unknown): string => {
    const design = versions.find((v) => v?.label === label)?.design as { states?: { id?: unknown }[] } | undefined;
    return String(design?.states?.[0]?.id ?? "usual");
  };
  const runs = Array.isArray(file.runs) ? (file.runs as Raw[]) : null;
  return {
    ...file,
    ...(runs ? { runs: runs.map((r) => ({ state: firstOf(r?.version), ...r })) } : {}),
    formatVersion: 10,
  };
}

/**
 * 7 → 8: a part says what it is (ballast, servo, moving surface …) and what it is the pair of, a setting that it is the
 * fail-safe, a fault that the one at the sticks is its cause: until now their names said so.
 */
function partsSayWhatTheyAre(file: Raw): Raw {
  const next = structuredClone(file);
  for (const v of Array.isArray(next.versions) ? (next.versions as Raw[]) : [])
    if (typeof v?.design === "object" && v.design !== null) v.design = withRoles(v.design as Raw);
  for (const f of Array.isArray(next.faults) ? (next.faults as Raw[]) : []) {
    if (blamesByWords(String(f?.cause ?? ""))) f.pilotBlamed = true;
    const suspects = Array.isArray(f?.suspects) ? (f.suspects as Raw[]) : [];
    if (suspects.every((s) => s?.id !== "pilot")) {
      const own = suspects.find((s) => saysPilot(String(s?.cause ?? "")));
      if (own) own.id = "pilot";
    }
  }
  return { ...next, formatVersion: 8 };
}

const listOf = (x: unknown): Raw[] => (Array.isArray(x) ? (x as Raw[]) : []);
/** Where a drive was said to work, and what had then to be around it; until it was entered nothing was told of it. */
const BOXED = "boxed or ducted";
const BESIDE = "overlapped or coaxial";
const IN_AIR = ["free air", BOXED, BESIDE];

/**
 * A design of before several things could be around a drive: what it works in is air or water, and the box, the
 * neighbours or the partner that it had stand in a list. A state that alone said that it is boxed there makes it asked
 * of the drive, so that nothing counts as free that was not.
 */
export function withAroundList(design: Raw): Raw {
  const states = listOf(design.states);
  const said = states.flatMap((s) => listOf(s?.units).map((u) => String(u?.works)));
  const now = Array.isArray(design.units) && listOf(design.units).every((u) => Array.isArray(u?.around));
  if (!Array.isArray(design.units) || (now && !said.some((w) => IN_AIR.includes(w)))) return design;
  const inStates = (id: unknown) =>
    states.flatMap((s) => listOf(s?.units).flatMap((u) => (u?.id === id ? [u.works as unknown] : [])));
  const units = listOf(design.units).map((u) => {
    if (Array.isArray(u?.around)) return u;
    const was = u.around as Raw | null | undefined;
    const works = [u.surroundings, ...inStates(u.id)];
    const around = works.includes(BOXED)
      ? [was?.kind === "openings" ? was : { kind: "openings", inlet: null, outlet: null, edges: "not said" }]
      : works.includes(BESIDE)
        ? [
            was?.kind === "overlap"
              ? was
              : was?.kind === "coaxial"
                ? { spacing: null, ...was }
                : { kind: "overlap", spacing: null, neighbours: 1 },
          ]
        : [];
    return {
      ...u,
      surroundings: IN_AIR.includes(String(u.surroundings)) ? "in air" : (u.surroundings ?? null),
      around,
    };
  });
  const inAir = (u: Raw) => (IN_AIR.includes(String(u?.works)) ? { ...u, works: "in air" } : u);
  return {
    ...design,
    units,
    ...(Array.isArray(design.states)
      ? { states: states.map((s) => (Array.isArray(s?.units) ? { ...s, units: listOf(s.units).map(inAir) } : s)) }
      : {}),
  };
}

/** A design that was kept by an older release elsewhere than in a file, as this one has it. */
export const designNow = (design: Raw): Raw => withAroundList(inStates(design));

/** 10 → 11: a drive may have several things around it, each told by itself; until then one at the most. */
function drivesHaveSeveralThingsAround(file: Raw): Raw {
  const versions = listOf(file.versions).map((v) =>
    typeof v?.design === "object" && v.design !== null ? { ...v, design: withAroundList(v.design as Raw) } : v,
  );
  return { ...file, ...(Array.isArray(file.versions) ? { versions } : {}), formatVersion: 11 };
}

/** 11 → 12: a target may ask how a lean grows and how the swing dies down; nothing of an older file does. */
function leanAndSwingMayBeAskedFor(file: Raw): Raw {
  return { ...file, formatVersion: 12 };
}

/** 13 → 14: the water that a craft works in may have a current and waves; until then nothing was said of them. */
function watersMayMove(file: Raw): Raw {
  return { ...file, formatVersion: 14 };
}

/** 14 → 15: what swims may tell its drag area in water, and at which speed it was taken; before it could not. */
function whatSwimsMayTellItsDrag(file: Raw): Raw {
  return { ...file, formatVersion: 15 };
}

/** 12 → 13: a bench session may be of pulls in turns; sessions of before hold none. */
function pullsMayBeHeldAgainstOneAnother(file: Raw): Raw {
  return { ...file, formatVersion: 13 };
}

/** A file of an older version as this one has it; unchanged when it is of this version, or of none that is known. */
export function migrated(file: Raw): Raw {
  let now = file;
  for (let n = 0; n < FORMAT_VERSION; n++) {
    const step = typeof now.formatVersion === "number" ? MIGRATIONS[now.formatVersion] : undefined;
    if (!step) return now;
    now = step(now);
  }
  return now;
}

interface Def {
  type?: string;
  innerType?: z.ZodType;
  element?: z.ZodType;
  shape?: Record<string, z.ZodType>;
  options?: readonly z.ZodType[];
}
const defOf = (schema: z.ZodType | undefined): Def => (schema?._zod.def ?? {}) as Def;

const MOST = 5;

/** Keys that the definitions do not know, with where they stand: they are said, never dropped. */
export function unknownKeys(
  schema: z.ZodType,
  value: unknown,
  path: (string | number)[] = [],
  out: FileProblem[] = [],
): FileProblem[] {
  if (out.length >= MOST || typeof value !== "object" || value === null) return out;
  const def = defOf(schema);
  if (def.innerType) return unknownKeys(def.innerType, value, path, out);
  if (def.type === "array" && Array.isArray(value) && def.element)
    for (const [k, e] of value.entries()) unknownKeys(def.element, e, [...path, k], out);
  else if (def.type === "union" && def.options) {
    // The alternative that leaves least over is the one that is meant.
    const left = def.options.map((o) => unknownKeys(o, value, path, [])).sort((a, b) => a.length - b.length)[0] ?? [];
    out.push(...left.slice(0, MOST - out.length));
  } else if (def.shape && !Array.isArray(value))
    for (const [key, inner] of Object.entries(value)) {
      const known = Object.hasOwn(def.shape, key) ? def.shape[key] : undefined;
      if (known) unknownKeys(known, inner, [...path, key], out);
      else if (out.length < MOST)
        out.push({
          path: [...path, key],
          message:
            `“${key.slice(0, 60)}” is not known to this version of the application: nothing was read, so ` +
            "that nothing is lost",
        });
    }
  return out;
}

/**
 * Reads a craft file of this or an older version. A newer one, and what it has that is not known here, is refused in
 * words.
 */
export function openCraftFile(raw: unknown): OpenedFile {
  if (typeof raw === "object" && raw !== null && !Array.isArray(raw)) {
    const { format, formatVersion } = raw as Raw;
    if (format === FORMAT && typeof formatVersion === "number" && formatVersion > FORMAT_VERSION)
      return {
        ok: false,
        problems: [
          {
            path: ["formatVersion"],
            message:
              `the file is of format version ${formatVersion}, and this application reads up to ` +
              `${FORMAT_VERSION}: open it with the newer application that wrote it, or install that one ` +
              "here",
          },
        ],
      };
    const now = migrated(raw as Raw);
    const read = craftFileSchema.safeParse(now);
    if (!read.success)
      return {
        ok: false,
        problems: read.error.issues.map((i) => ({ path: i.path as (string | number)[], message: i.message })),
      };
    const unknown = unknownKeys(craftFileSchema, now);
    return unknown.length > 0 ? { ok: false, problems: unknown } : { ok: true, file: read.data };
  }
  const read = craftFileSchema.safeParse(raw);
  return read.success
    ? { ok: true, file: read.data }
    : {
        ok: false,
        problems: read.error.issues.map((i) => ({ path: i.path as (string | number)[], message: i.message })),
      };
}

/** The same as a schema: what is sent or read as a craft file passes through it. */
export const craftFileReading = z.unknown().transform((raw, ctx): CraftFile => {
  const opened = openCraftFile(raw);
  if (opened.ok) return opened.file;
  for (const { path, message } of opened.problems) ctx.addIssue({ code: "custom", path, message });
  return z.NEVER;
});
