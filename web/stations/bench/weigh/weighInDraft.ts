import { type WeighIn, type WeighInKind, weighInSchema } from "../../../../core/design/bench";
import type { Extent } from "../../../../core/subjects/mass/rollup";

type Loads = (number | null)[];

/** A weigh-in while it is filled in: readings may still be missing. */
export interface Draft {
  kind: WeighInKind;
  resolution: number;
  error: number;
  ruler: number;
  at: { x: number; y: number }[];
  height: number;
  angle: number;
  angleSd: number;
  /** Readings per support; for the tilted weighing level first, then tilted. Places for a knife edge. */
  loads: Loads[];
  parts: Record<string, Loads>;
}

const SETS: Record<WeighInKind, number> = {
  total: 1,
  parts: 0,
  "two-scales": 2,
  "three-scales": 3,
  "knife-edge": 1,
  "level-and-tilted": 4,
};
const REPEATS = 3;
const blank = (): Loads => Array.from({ length: REPEATS }, () => null);

export function newDraft(kind: WeighInKind, box: Extent | null): Draft {
  const [front, rear] = box
    ? [box.min.x + 0.15 * (box.max.x - box.min.x), box.min.x + 0.8 * (box.max.x - box.min.x)]
    : [0.1, 0.5];
  const side = box ? 0.3 * (box.max.y - box.min.y) : 0.1;
  const round = (v: number) => Math.round(v * 1000) / 1000;
  const at =
    kind === "three-scales"
      ? [
          { x: round(front), y: 0 },
          { x: round(rear), y: -round(side) },
          { x: round(rear), y: round(side) },
        ]
      : [
          { x: round(front), y: 0 },
          { x: round(rear), y: 0 },
        ];
  return {
    kind,
    resolution: 0.001,
    error: 0.001,
    ruler: 0.001,
    at,
    height: 0,
    angle: 0.26,
    angleSd: 0.0087,
    loads: Array.from({ length: SETS[kind] }, blank),
    parts: {},
  };
}

const given = (list: Loads | undefined) => (list ?? []).filter((v): v is number => v !== null);

/** The finished weigh-in, or what is still missing or wrong, in words. */
export function finish(draft: Draft): { ok: true; weighIn: WeighIn } | { ok: false; why: string } {
  const scale = { resolution: draft.resolution, error: draft.error };
  const sets = draft.loads.map(given);
  const [a, b, c] = draft.at;
  const raw = (() => {
    switch (draft.kind) {
      case "total":
        return { kind: draft.kind, scale, loads: sets[0] };
      case "parts":
        return {
          kind: draft.kind,
          scale,
          parts: Object.entries(draft.parts)
            .map(([itemId, loads]) => ({ itemId, loads: given(loads) }))
            .filter((p) => p.loads.length > 0),
        };
      case "two-scales":
        return { kind: draft.kind, scale, ruler: draft.ruler, at: [a?.x, b?.x], loads: sets };
      case "three-scales":
        return { kind: draft.kind, scale, ruler: draft.ruler, at: [a, b, c], loads: sets };
      case "knife-edge":
        return { kind: draft.kind, ruler: draft.ruler, places: sets[0] };
      case "level-and-tilted":
        return {
          kind: draft.kind,
          scale,
          ruler: draft.ruler,
          at: [a?.x, b?.x],
          height: draft.height,
          level: sets.slice(0, 2),
          tilted: sets.slice(2, 4),
          angle: draft.angle,
          angleSd: draft.angleSd,
        };
    }
  })();
  const parsed = weighInSchema.safeParse(raw);
  if (!parsed.success) return { ok: false, why: parsed.error.issues[0]?.message ?? "not complete" };
  if (parsed.data.kind === "two-scales" && parsed.data.at[0] === parsed.data.at[1])
    return { ok: false, why: "the two supports stand at one place" };
  if (parsed.data.kind === "three-scales") {
    const [p, q, r] = parsed.data.at;
    const area = (q.x - p.x) * (r.y - p.y) - (r.x - p.x) * (q.y - p.y);
    if (Math.abs(area) < 1e-4) return { ok: false, why: "the three supports stand in one line" };
  }
  return { ok: true, weighIn: parsed.data };
}

/** A finished weigh-in opened again. */
export function draftOf(w: WeighIn, box: Extent | null): Draft {
  const draft = newDraft(w.kind, box);
  const pad = (list: readonly number[]): Loads => [
    ...list,
    ...Array.from({ length: Math.max(0, REPEATS - list.length) }, () => null),
  ];
  if (w.kind !== "knife-edge") {
    draft.resolution = w.scale.resolution;
    draft.error = w.scale.error;
  }
  if (w.kind !== "total" && w.kind !== "parts") draft.ruler = w.ruler;
  switch (w.kind) {
    case "total":
      draft.loads = [pad(w.loads)];
      break;
    case "parts":
      draft.parts = Object.fromEntries(w.parts.map((p) => [p.itemId, pad(p.loads)]));
      break;
    case "two-scales":
      draft.at = w.at.map((x) => ({ x, y: 0 }));
      draft.loads = w.loads.map(pad);
      break;
    case "three-scales":
      draft.at = w.at.map((p) => ({ ...p }));
      draft.loads = w.loads.map(pad);
      break;
    case "knife-edge":
      draft.loads = [pad(w.places)];
      break;
    case "level-and-tilted":
      draft.at = w.at.map((x) => ({ x, y: 0 }));
      draft.height = w.height;
      draft.angle = w.angle;
      draft.angleSd = w.angleSd;
      draft.loads = [...w.level, ...w.tilted].map(pad);
      break;
  }
  return draft;
}
