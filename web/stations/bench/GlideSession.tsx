import { useState } from "react";
import { dragAreaOfGlide, glideOf } from "../../../core/bench/glide";
import { type Bench, GLIDE_SAW, type Glide } from "../../../core/design/bench";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { DISPLAY } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { GRAVITY } from "../../../core/subjects/air/air";
import { inducedOf, lattice } from "../../../core/subjects/flight/latticeNode";
import { plain, show } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useHalfState } from "../../app/halfWritten";
import { HalfLine } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { BesideMeasured } from "./BesideMeasured";
import { ClipboardSheet } from "./ClipboardSheet";
import { SessionFoot } from "./SessionFoot";
import { useEntry } from "./useSession";

type Pass = Glide["passes"][number];
type Fresh = { height: number | null; distance: number | null; seconds: number | null };
const EMPTY: Fresh = { height: null, distance: null, seconds: null };
const COLUMNS = [
  ["height", "distance", "height lost"],
  ["distance", "distance", "distance"],
  ["seconds", "stopwatch", "time"],
] as const;

/** What a builder would do about what most passes showed. */
const TRIM: Record<Exclude<Pass["saw"], "straight">, string> = {
  dived: "Most passes dived: trim up a little, and look whether the CG is ahead of its window.",
  "rose and stalled": "Most passes rose and stalled: trim down, and look whether the CG is behind its window.",
  "turned to port": "Most passes turned to port: look for a warp, weight on one side, a fin out of line.",
  "turned to starboard": "Most passes turned to starboard: look for a warp, weight on one side, a fin out of line.",
};

/** Passes without power: how far for the height, how fast, and what they show of the trim. */
export function GlideSession({ session, onOpen }: { session: Bench | null; onOpen: (number: number | null) => void }) {
  const { slug, version } = useDesk();
  const { value: fresh, set: setFresh } = useHalfState<Fresh>(
    slug,
    version.label,
    `bench glide pass ${session?.number ?? "new"}`,
    EMPTY,
  );
  const [asked, setAsked] = useState(false);
  const { keep, entry, test, change, head, foot } = useEntry<Glide>(
    session,
    onOpen,
    "glide",
    () => session?.glide ?? { trim: "", cg: null, passes: [] },
  );
  const missing = test.passes.length === 0 ? "enter a pass: height lost, distance and time" : null;
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <p className="max-w-[70ch]">
        Without power, in still air, over soft ground and nobody ahead: counted from where its speed has settled to
        where it touches. Filmed from the side against two marks, or from a height that is known. Three passes tell more
        than one.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-64">
          How it was trimmed
          <TextField
            boxed
            label="How it was trimmed"
            value={test.trim}
            placeholder="elevator 1 mm up"
            onCommit={(v) => change((t) => void (t.trim = v))}
          />
        </div>
        <label className="w-32">
          CG, balanced at
          <QuantityField
            boxed
            label="CG, balanced at"
            value={test.cg}
            dimension="length"
            empty="as the list says"
            onCommit={(v) => change((t) => void (t.cg = v))}
          />
        </label>
      </div>
      <div className="overflow-x-auto">
        <Passes setFresh={setFresh} change={change} test={test} fresh={fresh} />
      </div>
      <GlideReport test={test} />
      <SessionFoot
        {...foot}
        missing={asked ? missing : null}
        onKeep={() => (missing === null ? keep.mutate({ ...entry, glide: test }) : setAsked(true))}
      />
      <ClipboardSheet
        title="Glide"
        columns={["height lost", "distance", "time", "what it did"]}
        rows={Array.from({ length: 8 }, (_, k) => String(k + 1))}
      />
    </div>
  );
}

/** The passes of the glide, and a row for the next. */
function Passes({
  setFresh,
  change,
  test,
  fresh,
}: {
  setFresh: (next: Fresh) => void;
  change: (mutate: (t: Glide) => void) => void;
  test: Glide;
  fresh: Fresh;
}) {
  const { habit } = usePreferences();
  const add = (next: Fresh) => {
    const { height, distance, seconds } = next;
    if (height === null || distance === null || seconds === null) return setFresh(next);
    change((t) => void t.passes.push({ height, distance, seconds, saw: "straight" }));
    setFresh(EMPTY);
  };
  const positive = (v: number | null): string | null => (v !== null && v <= 0 ? "more than zero" : null);
  return (
    <table className="rows mt-2 w-full max-w-[560px]">
      <thead>
        <tr>
          {COLUMNS.map(([key, dimension, word]) => (
            <th key={key} className="text-right!">
              {word}, {DISPLAY[habit][dimension]}
            </th>
          ))}
          <th>it</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {test.passes.map((p, k) => (
          <tr key={k} data-pass={k + 1}>
            {COLUMNS.map(([key, dimension, word]) => (
              <td key={key}>
                <QuantityField
                  label={`Pass ${k + 1}, ${word}`}
                  value={p[key]}
                  dimension={dimension}
                  empty={key === "seconds" ? "not timed" : undefined}
                  onCommit={(v) => {
                    if (v === null && key !== "seconds") return null;
                    const refused = positive(v);
                    if (refused === null) change((t) => void (t.passes[k] && Object.assign(t.passes[k], { [key]: v })));
                    return refused;
                  }}
                />
              </td>
            ))}
            <td>
              <select
                className="cell"
                aria-label={`Pass ${k + 1}, it`}
                value={p.saw}
                onChange={(e) => change((t) => void (t.passes[k] && (t.passes[k].saw = e.target.value as Pass["saw"])))}
              >
                {GLIDE_SAW.map((s) => (
                  <option key={s} value={s}>
                    {s === "straight" ? "flew straight" : s}
                  </option>
                ))}
              </select>
            </td>
            <td className="text-right">
              <button
                type="button"
                className="link"
                aria-label={`Remove pass ${k + 1}`}
                onClick={() => change((t) => void t.passes.splice(k, 1))}
              >
                ×
              </button>
            </td>
          </tr>
        ))}
        <tr>
          {COLUMNS.map(([key, dimension, word]) => (
            <td key={key}>
              <QuantityField
                label={`New pass, ${word}`}
                value={fresh[key]}
                dimension={dimension}
                empty={word}
                onCommit={(v) => {
                  const refused = positive(v);
                  if (refused === null) add({ ...fresh, [key]: v });
                  return refused;
                }}
              />
            </td>
          ))}
          <td colSpan={2} className="text-pencil">
            all three, and the pass is kept
          </td>
        </tr>
      </tbody>
    </table>
  );
}

/** What the passes say beside what was predicted, and the drag area to take over. */
function GlideReport({ test }: { test: Glide }) {
  const { design, evaluation, edit, frozen } = useDesk();
  const { habit } = usePreferences();
  const result = glideOf(test);
  const weight = (evaluation.metrics.auw?.value ?? 0) * GRAVITY;
  const wings = resultIn(evaluation, lattice);
  const area = dragAreaOfGlide(
    result,
    weight,
    evaluation.metrics.airDensity?.value ?? 1.225,
    wings ? inducedOf(wings) : 0,
  );
  if (test.passes.length === 0) return null;
  const row = (key: MetricKey, m: typeof result.ratio) => {
    const s = m && show(m.value, m.sd, METRICS[key].dimension, habit);
    return (
      <tr key={key}>
        <td className="text-ink">{METRICS[key].label}</td>
        <td>
          <Computed metric={key} quantity={evaluation.metrics[key]} />
        </td>
        <td className="num measured" data-glide={key}>
          {s ? `${s.value} ± ${s.sd} ${s.unit}` : "–"}
        </td>
      </tr>
    );
  };
  return (
    <section aria-label="What the passes say" className="mt-3 border-t border-hair pt-2">
      <BesideMeasured>
        {row("glideRatio", result.ratio)}
        {row("glideSpeed", result.speed)}
      </BesideMeasured>
      <p className="mt-1 text-pencil">
        Predicted at its best; a glide at another speed falls short of it. {result.ratio?.n ?? 0} of{" "}
        {test.passes.length} went straight and count.
      </p>
      {result.trim !== null && result.trim !== "straight" && <p className="mt-1 text-care">{TRIM[result.trim]}</p>}
      {area ? (
        <p className="mt-1">
          Drag area{wings ? " without what lift costs" : ", what lift costs included: no wing is described"}:{" "}
          <b className="num text-ink">{plain(area.value, "area", habit)}</b> ± {plain(area.sd ?? 0, "area", habit)}{" "}
          {!frozen && design.dragArea?.note !== area.note && (
            <button type="button" className="act" onClick={() => edit((d) => void (d.dragArea = area))}>
              Take it over
            </button>
          )}
          {design.dragArea?.note === area.note && <span className="text-clear">taken over</span>}
        </p>
      ) : (
        <p className="mt-1 text-pencil">
          {weight > 0 && result.ratio && result.speed
            ? "So flat at that speed it would have no drag at all: check height, distance and time."
            : "For the drag area: straight passes with their time, and the craft's mass."}
        </p>
      )}
    </section>
  );
}
