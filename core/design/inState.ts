import { towardOf } from "../subjects/propulsion/placed";
import { sharing } from "./edit";
import { freeId } from "./ids";
import type { Patch } from "./patch";
import type { Battery, Design, FootShape, Item, Phase, Point, State, Surface, Unit, UnitInState } from "./schema";

/**
 * A design as it is in one of its states: parts that are gone or moved with what they are the entry of, drives that
 * turn or rest, surfaces that fold, its own targets and duty, and what holds it up. Everything computed is computed of
 * such a design, so that no subject knows of states. What a state does not touch is the very same object as before:
 * what rests on it is not worked out anew.
 */
export function inState(design: Design, id?: string | null): Design {
  const state = stateOf(design, id);
  if (!state) return design;
  if (design.states.length === 1 && isPlain(state)) return design;
  return remember(projected, design, state, () => {
    const across = spansStates(design);
    const known = design.states.map((s) => s.id).join();
    const by = named(`${state.id} ${known} ${across}`);
    const aboard = aboardIn(design.items, state);
    const surfaces = surfacesIn(design.surfaces, state, aboard);
    const units = unitsIn(design.units, state, aboard);
    const otherwise = surfaces !== design.surfaces || state.units.some((u) => u.turned !== 0);
    return {
      ...design,
      states: remember(alone, state, state, () => [state]),
      brief: remember(briefs, design.brief, by, () => ({
        ...design.brief,
        targets: remember(targets, design.brief.targets, by, () =>
          kept(design.brief.targets, (t) => {
            const own = targetState(design, t);
            return own === null ? !(across && t.metric === "endurance") : own === state.id;
          }),
        ),
      })),
      duty: remember(duties, design.duty, by, () => kept(design.duty, (p) => phaseState(design, p) === state.id)),
      items: itemsIn(design.items, state, aboard),
      units,
      surfaces,
      feet: feetIn(design.feet, state, aboard),
      batteries: shared(batteryLists, design.batteries, state.without, () =>
        kept(design.batteries, (b) => b.itemId === null || !aboard.gone.has(b.itemId)),
      ),
      dragArea: state.dragArea ?? (otherwise ? null : design.dragArea),
      waterDragArea: otherwise ? null : design.waterDragArea,
    };
  });
}

/** The state that a phase of the duty is of: the first where none is said, or the one that was said is gone. */
export const phaseState = (
  { states }: Pick<Design, "states">,
  { stateId }: Pick<Phase, "stateId">,
): string | undefined => (states.find((s) => s.id === stateId) ?? states[0])?.id;

/** The state that a target is asked of; null: of every one, also where the one that was said is gone. */
export const targetState = (
  { states }: Pick<Design, "states">,
  { stateId }: Pick<Design["brief"]["targets"][number], "stateId">,
): string | null => states.find((s) => s.id === stateId)?.id ?? null;

/** A state by its id; the first one when it has none of that id, or none is named. */
export const stateOf = (design: Pick<Design, "states">, id?: string | null): State | undefined =>
  design.states.find((s) => s.id === id) ?? design.states[0];

/** A version with its design as it is in one of its states: ladder, runs and checklists are of that state. */
export const versionIn = <V extends { design: Design }>(version: V, id?: string | null): V => {
  const design = inState(version.design, id);
  return design === version.design ? version : { ...version, design };
};

/**
 * Other phases in the place of those of one state; the phases of other states stay. The duty of a design with one state
 * is replaced whole.
 */
export function withDuty(design: Pick<Design, "duty" | "states">, id: string, phases: readonly Phase[]): Phase[] {
  const first = design.states[0]?.id;
  const others = design.duty.filter((p) => phaseState(design, p) !== id);
  const own = phases.map((p) => ({
    ...p,
    id: others.some((o) => o.id === p.id) ? freeId([...others, ...phases], p.id) : p.id,
    stateId: id === first ? null : id,
  }));
  return [...others, ...own];
}

/** Each state of a design with the design as it is in it. */
export const everyState = (design: Design): { state: State; design: Design }[] =>
  design.states.map((state) => ({ state, design: inState(design, state.id) }));

/** Whether nothing in a state differs from how the craft is entered, but for what holds it up. */
export const isPlain = (s: State): boolean =>
  s.without.length === 0 &&
  s.moved.length === 0 &&
  s.units.length === 0 &&
  s.surfaces.length === 0 &&
  s.dragArea === null;

/** Whether the duty goes through more states than one. */
export const spansStates = (design: Pick<Design, "duty" | "states">): boolean =>
  new Set(design.duty.map((p) => phaseState(design, p))).size > 1;

/** What is asked of the whole duty, and not of a craft that stays in one state: how long it lasts. */
export const wholeTargets = (design: Design): Design["brief"]["targets"] =>
  spansStates(design)
    ? design.brief.targets.filter((t) => t.metric === "endurance" && targetState(design, t) === null)
    : [];

// ---- what was made of the same objects before is the same object again

type Kept<V> = WeakMap<object, WeakMap<object, V>>;
function remember<V>(held: Kept<V>, of: object, by: object, make: () => V): V {
  const own = held.get(of) ?? new WeakMap<object, V>();
  held.set(of, own);
  const known = own.get(by);
  if (known !== undefined) return known;
  const made = make();
  own.set(by, made);
  return made;
}
const projected: Kept<Design> = new WeakMap();
const alone: Kept<State[]> = new WeakMap();
const briefs: Kept<Design["brief"]> = new WeakMap();
const targets: Kept<Design["brief"]["targets"]> = new WeakMap();
const duties: Kept<Design["duty"]> = new WeakMap();
const movedItems: Kept<Item> = new WeakMap();
const itemLists: Kept<Item[]> = new WeakMap();
const unitLists: Kept<Unit[]> = new WeakMap();
const surfaceLists: Kept<Surface[]> = new WeakMap();
const footLists: Kept<FootShape[]> = new WeakMap();
const batteryLists: Kept<Battery[]> = new WeakMap();

/** What was made of a list last is made anew, and what holds the same in it stays the same object. */
function shared<T>(held: Kept<T[]>, of: T[], by: object, make: () => T[]): T[] {
  const own = held.get(of) ?? new WeakMap<object, T[]>();
  held.set(of, own);
  const next = sharing(own.get(by) ?? of, make());
  own.set(by, next);
  return next;
}

/** One object for a text: what hangs on ids alone is remembered by it. */
const texts = new Map<string, object>();
function named(text: string): object {
  const known = texts.get(text) ?? {};
  texts.set(text, known);
  return known;
}

/** Those of a list that a test lets through; the list itself where it lets all through. */
const kept = <T>(list: T[], test: (entry: T) => boolean): T[] => (list.every(test) ? list : list.filter(test));

const added = (a: Point, b: Point): Point => ({ x: a.x + b.x, y: a.y + b.y, z: a.z + b.z });

/** Which parts are not there, and how far each other one is moved (m): what hangs on a part goes with it. */
interface Aboard {
  gone: ReadonlySet<string>;
  stepOf: (itemId: string | null) => Point | undefined;
}
function aboardIn(items: readonly Item[], { without, moved }: State): Aboard {
  if (without.length === 0 && moved.length === 0) return { gone: new Set(), stepOf: () => undefined };
  const away = new Set(without);
  const by = new Map(moved.map((m) => [m.id, m.by]));
  const gone = new Set<string>();
  const steps = new Map<string, Point>();
  const parents = new Map(items.map((i) => [i.id, i.parentId]));
  for (const { id } of items) {
    const line = lineUp(parents, id);
    if (line.some((up) => away.has(up))) gone.add(id);
    const step = line.map((up) => by.get(up)).find((s) => s !== undefined);
    if (step) steps.set(id, step);
  }
  return { gone, stepOf: (id) => (id === null ? undefined : steps.get(id)) };
}

/** A part and what it hangs on, upward. */
function lineUp(parents: ReadonlyMap<string, string | null>, id: string): string[] {
  const line: string[] = [];
  for (let at: string | null | undefined = id; at && !line.includes(at); at = parents.get(at)) line.push(at);
  return line;
}

/** By the list of what is moved: what else changes in a state moves no part. */
function itemsIn(items: Item[], { without, moved }: State, { gone, stepOf }: Aboard): Item[] {
  if (without.length === 0 && moved.length === 0) return items;
  return shared(itemLists, items, moved, () =>
    items.flatMap((item) => {
      const step = stepOf(item.id);
      if (gone.has(item.id)) return [];
      return step ? [remember(movedItems, item, step, () => ({ ...item, place: added(item.place, step) }))] : [item];
    }),
  );
}

/** A drive goes where its entry in the mass list goes, and is not there without it. */
function unitsIn(units: Unit[], { units: changes }: State, { gone, stepOf }: Aboard): Unit[] {
  return shared(unitLists, units, changes, () =>
    units.flatMap((unit) => {
      const change = changes.find((c) => c.id === unit.id);
      const entries = [unit.propellerItemId, unit.motorItemId, unit.controllerItemId];
      if (change?.resting || entries.some((e) => e !== null && gone.has(e))) return [];
      const step = stepOf(unit.propellerItemId);
      const there = step && unit.places.length > 0 ? unit.places.map((p) => ({ ...p, at: added(p.at, step) })) : null;
      const placed = there ? { ...unit, places: there } : unit;
      return [change ? changedUnit(placed, change) : placed];
    }),
  );
}

/** A direction turned about the axis across: positive raises what points ahead. */
const raised = (v: Point, angle: number): Point => {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: v.x * c + v.z * s, y: v.y, z: -v.x * s + v.z * c };
};

/** The word nearest to a direction in the plane of symmetry, with the tilt that is left. */
function wayOf(v: Point): Pick<Unit, "direction" | "tilt"> {
  const tilt = (sine: number) => Math.asin(Math.max(-1, Math.min(1, sine)));
  return Math.abs(v.z) > Math.abs(v.x) + 1e-9
    ? { direction: v.z > 0 ? "up" : "down", tilt: tilt(v.x) }
    : { direction: v.x > 0 ? "astern" : "ahead", tilt: tilt(v.z) };
}

function changedUnit(unit: Unit, { turned, works, on }: UnitInState): Unit {
  const across = unit.direction === "port" || unit.direction === "starboard";
  const drum = on !== null && unit.propulsor?.kind === "screw drum" ? { propulsor: { ...unit.propulsor, on } } : {};
  return {
    ...unit,
    ...(turned === 0 || across ? {} : wayOf(raised(towardOf(unit), turned))),
    ...drum,
    ...(works === null ? {} : { surroundings: works }),
    ...(turned === 0 || unit.places.length === 0
      ? {}
      : { places: unit.places.map((p) => ({ ...p, toward: raised(p.toward, turned) })) }),
  };
}

/** Steepest that a root may stand, rad. */
const STEEPEST = Math.PI / 4;
/** A surface goes where its entry in the mass list goes, and is not there without it. */
function surfacesIn(surfaces: Surface[], { surfaces: changes }: State, { gone, stepOf }: Aboard): Surface[] {
  return shared(surfaceLists, surfaces, changes, () =>
    surfaces.flatMap((s) => {
      const change = changes.find((c) => c.id === s.id);
      const step = stepOf(s.itemId);
      if (!change && !step && (s.itemId === null || !gone.has(s.itemId))) return [s];
      const incidence = s.incidence + (change?.turned ?? 0);
      if (change?.away || (s.itemId !== null && gone.has(s.itemId))) return [];
      // Beyond what a surface can be set at it carries nothing that the method could tell.
      if (Math.abs(incidence) > STEEPEST) return [];
      return [{ ...s, incidence, medium: change?.works ?? s.medium, at: step ? added(s.at, step) : s.at }];
    }),
  );
}

/** A foot goes where its part goes, and is not there without it. */
function feetIn(feet: FootShape[], { without, moved }: State, { gone, stepOf }: Aboard): FootShape[] {
  if (feet.length === 0 || (without.length === 0 && moved.length === 0)) return feet;
  return shared(footLists, feet, moved, () =>
    feet.flatMap((f) => {
      const step = stepOf(f.itemId);
      if (f.itemId !== null && gone.has(f.itemId)) return [];
      return step ? [{ ...f, at: added(f.at, step) }] : [f];
    }),
  );
}

// ---- back

/** How far a part stands in a state from its place in the mass list, m; null: it stands there. */
export function movedBy(design: Pick<Design, "items" | "states">, stateId: string, itemId: string): Point | null {
  const state = design.states.find((s) => s.id === stateId);
  return state && state.moved.length > 0 ? (aboardIn(design.items, state).stepOf(itemId) ?? null) : null;
}

/**
 * Puts a part where it shall stand in a state that itself says where it stands; false where the state says nothing of
 * it, and its place in the mass list is meant.
 */
export function placeInState(draft: Design, stateId: string, itemId: string, at: Partial<Point>): boolean {
  const item = draft.items.find((i) => i.id === itemId);
  const own = draft.states.find((s) => s.id === stateId)?.moved.find((m) => m.id === itemId);
  if (!item || !own) return false;
  for (const axis of ["x", "y", "z"] as const) {
    const to = at[axis];
    if (to !== undefined) own.by[axis] = Number((to - item.place[axis]).toFixed(6));
  }
  return true;
}

/**
 * A patch that was worked out for a craft in one of its states, as it changes the design itself: a part that the state
 * puts elsewhere is put elsewhere there; what goes along with it, and incidences, lose what the state adds. Null where
 * it would set what the state itself says: that is changed there.
 */
export function patchFor(design: Design, id: string | null, patch: Patch): Patch | null {
  const state = stateOf(design, id);
  if (!state || isPlain(state)) return patch;
  const set: Patch["set"] = [];
  for (const entry of patch.set) {
    const [list, of = "", key = "", axis = ""] = entry.path;
    const own = of.slice(1);
    if (list === "units" && state.units.some((u) => u.id === own) && OF_STATE.includes(key)) return null;
    const moves = list === "items" && key === "place" ? state.moved.find((m) => m.id === own) : undefined;
    const item = moves && design.items.find((i) => i.id === own);
    if (moves && item && typeof entry.value === "number") {
      // Where the state itself puts it: that is what changes, and nothing in any other state.
      const value = entry.value - item.place[axis as keyof Point];
      set.push({ path: ["states", `#${state.id}`, "moved", of, "by", axis], value });
      continue;
    }
    const shift =
      list === "items" && key === "place"
        ? (movedBy(design, state.id, own)?.[axis as keyof Point] ?? 0)
        : list === "surfaces" && key === "incidence"
          ? (state.surfaces.find((s) => s.id === own)?.turned ?? 0)
          : 0;
    set.push(shift !== 0 && typeof entry.value === "number" ? { ...entry, value: entry.value - shift } : entry);
  }
  return { ...patch, set };
}
const OF_STATE = ["direction", "tilt", "surroundings", "places", "propulsor"];
