import { memo, useMemo, useState } from "react";
import { METRICS } from "../../core/design/metrics";
import { show } from "../../core/wording/format";
import { findingText, measureNext } from "../../core/evaluate";
import { SEVERITY_WORD } from "../../core/wording/severity";
import { type Finding, type Remedy, tallyOf } from "../../core/subject";
import { Cairn } from "../glyphs/Cairn";
import { Flag, SEVERITY_COLOUR } from "../glyphs/Flag";
import { Tally } from "../glyphs/Tally";
import { RecordLines } from "./RecordLines";
import { useCalmDesk, useLaterDesk } from "./desk";
import type { Design } from "../../core/design/schema";
import type { SaveState } from "./saveQueue";
import { useRemedies } from "./useRemedies";
import { usePreferences } from "./preferences";

function FigureLine({ finding }: { finding: Finding }) {
  const { habit } = usePreferences();
  const { figure } = finding;
  if (!figure) return null;
  const f = show(figure.value, figure.sd, figure.dimension, habit);
  const limit = figure.limit === undefined ? null : show(figure.limit, null, figure.dimension, habit);
  return (
    <p className="mt-1 text-[11px]">
      {figure.label}{" "}
      <span className="whitespace-nowrap">
        <span className="num">
          <b className={SEVERITY_COLOUR[finding.severity]}>{f.value}</b>
          {f.sd && <span className="predicted"> ± {f.sd}</span>} {f.unit}
        </span>{" "}
        <Cairn level={figure.evidence} />
      </span>{" "}
      {limit && (
        <span className="whitespace-nowrap">
          limit{" "}
          <b className="num">
            {limit.value} {limit.unit}
          </b>
        </span>
      )}
    </p>
  );
}

function RemedyLine({ remedy, first }: { remedy: Remedy; first: boolean }) {
  const { apply, setPreview } = useCalmDesk("frame");
  const { patch, text } = remedy;
  return (
    <li className="mt-1 flex items-center justify-between gap-2 text-[12px] text-ink">
      <span>
        {!first && <span className="text-pencil">or </span>}
        {text}
      </span>
      {patch && (
        <button
          type="button"
          className={`act ${first ? "act-first" : ""}`}
          aria-label={`Apply: ${text}`}
          onPointerEnter={() => setPreview(patch)}
          onPointerLeave={() => setPreview(null)}
          onFocus={() => setPreview(patch)}
          onBlur={() => setPreview(null)}
          onClick={() => apply(patch)}
        >
          Apply
        </button>
      )}
    </li>
  );
}

function Verdict({ finding, remedies, current }: { finding: Finding; remedies: Remedy[]; current: boolean }) {
  const { habit } = usePreferences();
  return (
    <li className="border-b border-hair py-2" data-code={finding.code} data-severity={finding.severity}>
      <p className="flex items-center gap-2 text-[11px]">
        <Flag severity={finding.severity} />
        <b className={SEVERITY_COLOUR[finding.severity]}>{SEVERITY_WORD[finding.severity]}</b>
        <span className="ml-auto capitalize text-pencil">{finding.page}</span>
      </p>
      <p className="mt-1 text-[13px] font-semibold leading-[17px] text-ink">{findingText(finding, habit)}</p>
      <FigureLine finding={finding} />
      {remedies.length > 0 && (
        <ul
          className={current ? "" : "opacity-60"}
          title={current ? undefined : "of the design before the last change: being worked out again"}
        >
          {remedies.map((r, i) => (
            <RemedyLine key={`${r.code}${i}`} remedy={r} first={i === 0} />
          ))}
        </ul>
      )}
    </li>
  );
}

const MeasureNext = memo(function MeasureNext() {
  const { design, evaluation } = useLaterDesk();
  const { habit } = usePreferences();
  const next = useMemo(() => measureNext(design, evaluation), [design, evaluation]);
  if (next.length === 0) return null;
  return (
    <section className="mt-3">
      <h2 className="text-[13px]">Worth measuring next</h2>
      <ul className="mt-1 border-t border-rule">
        {next.map((n) => {
          const metric = METRICS[n.metric];
          const now = show(n.sdNow, null, metric.dimension, habit);
          const after = show(n.sdAfter, null, metric.dimension, habit);
          const name =
            n.of.kind === "input"
              ? `${n.of.drive ? `${n.of.drive}, ` : ""}${n.of.input}`
              : n.of.kind === "mass"
                ? n.of.item
                : `${n.of.item}, place`;
          return (
            <li
              key={`${n.metric}${name}`}
              className="flex justify-between gap-2 border-b border-hair py-[3px] text-[12px]"
            >
              <span className="text-ink">
                {name}{" "}
                <span className="text-[11px] text-pencil">{n.metric === "cgX" ? "CG ±" : "thrust/weight ±"}</span>
              </span>
              <span className="num whitespace-nowrap">
                <span className="predicted">{now.value} →</span> <b className="text-ink">{after.value}</b> {now.unit}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
});

function VerdictList({ findings }: { findings: Finding[] }) {
  const remedies = useRemedies(findings);
  return (
    <ul>
      {findings.map((f) => (
        <Verdict key={`${f.code}-${f.about}`} finding={f} remedies={remedies.of(f)} current={remedies.current} />
      ))}
    </ul>
  );
}

const SAVE_NAME = { clean: "saved", waiting: "unsaved", sending: "saving", failed: "unsaved", stale: "stale" } as const;
function saveWords(save: SaveState<Design>): string {
  switch (save.at) {
    case "clean":
      return "All changes saved.";
    case "waiting":
      return "Not saved yet.";
    case "sending":
      return "Saving …";
    case "failed":
      return save.why === "" ? "Not saved: no answer. Tried again by itself." : `Not saved: ${save.why}`;
    case "stale":
      return "Saved elsewhere: choose.";
  }
}

/**
 * Verdicts of the version in view, worst first, then what is worth measuring. The clear ones fold away when there are
 * many.
 */
export function VerdictColumn() {
  const { version, frozen, file, save, undo, redo } = useCalmDesk("frame");
  const { evaluation } = useLaterDesk();
  const [open, setOpen] = useState(false);
  const { findings } = evaluation;
  const runs = file.runs.filter((r) => r.version === version.label).length;
  const state = frozen
    ? `${runs} ${runs === 1 ? "run" : "runs"}, read only. Changes go into a child draft.`
    : saveWords(save);
  return (
    <aside
      aria-label="Verdicts"
      aria-busy={evaluation.waiting.length > 0}
      className={`verdict-drawer ${open ? "is-open" : ""}`}
    >
      <header className="flex h-20 flex-col justify-center border-b border-rule px-4 max-[1180px]:h-auto max-[1180px]:flex-row max-[1180px]:items-center max-[1180px]:justify-between max-[1180px]:gap-3 max-[1180px]:py-1">
        <p className="flex items-baseline justify-between gap-2 whitespace-nowrap">
          <b className="text-[17px] font-[650] text-ink">{version.label}</b>
          <span className="text-[12px] text-pencil">
            {frozen ? `frozen ${version.frozenAt?.slice(0, 10)}` : "open draft"}
          </span>
        </p>
        <p className="mt-1 flex items-center justify-between gap-2 text-[12px]">
          <span role="status" data-save={SAVE_NAME[save.at]}>
            {state}
          </span>
          {!frozen && (
            <span className="flex gap-2">
              <button
                type="button"
                className="link disabled:text-pencil disabled:no-underline"
                disabled={!undo}
                onClick={() => undo?.()}
              >
                Undo
              </button>
              <button
                type="button"
                className="link disabled:text-pencil disabled:no-underline"
                disabled={!redo}
                onClick={() => redo?.()}
              >
                Redo
              </button>
            </span>
          )}
        </p>
      </header>
      <div className="px-4 py-2">
        <button
          type="button"
          className="flex w-full items-center justify-between border-b border-ink pb-2 min-[1180px]:pointer-events-none"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <h2>Verdicts</h2>
          {evaluation.waiting.length > 0 && <span className="late text-[11px] text-pencil">being worked out …</span>}
          <Tally counts={tallyOf(findings)} />
        </button>
        <div className="verdict-body" data-late={evaluation.waiting.length > 0 || undefined}>
          {findings.length === 0 && <p className="mt-2">Nothing to say yet. Enter parts and targets.</p>}
          <VerdictList findings={findings.filter((f) => f.severity === "stop" || f.severity === "care")} />
          <RecordLines />
          <VerdictList findings={findings.filter((f) => f.severity === "note" || f.severity === "clear")} />
          <MeasureNext />
        </div>
      </div>
    </aside>
  );
}
