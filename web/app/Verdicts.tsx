import { memo, useMemo, useState } from "react";
import { METRICS, type Page } from "../../core/design/metrics";
import { show } from "../../core/wording/format";
import { findingText, measureNext } from "../../core/evaluate";
import { SEVERITY_WORD } from "../../core/wording/severity";
import { type Finding, type Remedy, findingKey, tallyOf } from "../../core/subject";
import { Cairn } from "../glyphs/Cairn";
import { Flag, SEVERITY_COLOUR } from "../glyphs/Flag";
import { Tally } from "../glyphs/Tally";
import { RecordLines } from "./RecordLines";
import { SaveLine } from "./SaveLine";
import { useCalmDesk, useLaterDesk } from "./desk";
import { useRemedies } from "./useRemedies";
import { usePreferences } from "./preferences";
import { useUnsentWords } from "./useVersionWords";

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

interface VerdictProps {
  finding: Finding;
  remedies: Remedy[];
  current: boolean;
  /** It was opened out of the counted ones, and may be folded again. */
  onFold?: () => void;
}
function Verdict({ finding, remedies, current, onFold }: VerdictProps) {
  const { habit } = usePreferences();
  return (
    <li className="border-b border-hair py-2" data-code={finding.code} data-severity={finding.severity}>
      <p className="flex items-center gap-2 text-[11px]">
        <Flag severity={finding.severity} />
        <b className={SEVERITY_COLOUR[finding.severity]}>{SEVERITY_WORD[finding.severity]}</b>
        <span className="ml-auto capitalize text-pencil">{finding.page}</span>
        {onFold && (
          <button type="button" className="link" aria-expanded onClick={onFold}>
            fold
          </button>
        )}
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
  const { seen: design, evaluation } = useLaterDesk();
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

/** One of those that are counted: what it says, and the rest of it when it is opened. */
function Folded({ finding, onOpen }: { finding: Finding; onOpen: () => void }) {
  const { habit } = usePreferences();
  return (
    <li className="border-b border-hair" data-code={finding.code} data-severity={finding.severity} data-folded>
      <button
        type="button"
        className={
          "flex min-h-6 w-full items-start gap-2 py-1 text-left text-[12px] leading-4 text-ink " +
          "hover:text-accent max-[640px]:min-h-11"
        }
        aria-expanded={false}
        onClick={onOpen}
      >
        <span className="mt-[3px] shrink-0" title={SEVERITY_WORD[finding.severity]}>
          <Flag severity={finding.severity} />
          <span className="sr-only">{SEVERITY_WORD[finding.severity]}: </span>
        </span>
        {findingText(finding, habit)}
      </button>
    </li>
  );
}

/** How many verdicts stand with their figures and remedies; the others are a line each. */
const OPEN = 3;
const WORST = ["stop", "care", "note", "clear"] as const;
/** Those that matter most here: the worst, and of alike ones those of this station first. */
function foremost(findings: readonly Finding[], page: Page): Finding[] {
  const rank = (f: Finding) => 2 * WORST.indexOf(f.severity) + (f.page === page ? 0 : 1);
  return findings
    .filter((f) => f.severity !== "clear")
    .toSorted((a, b) => rank(a) - rank(b))
    .slice(0, OPEN);
}

/** The three that matter here in full, then what the records hold against it, then the rest, a line each. */
function VerdictList({ findings, page }: { findings: Finding[]; page: Page }) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const first = foremost(findings, page);
  const rest = findings.filter((f) => !first.includes(f));
  // What nobody looks at is not answered: looking for remedies takes longer than all else.
  const remedies = useRemedies([...first, ...rest.filter((f) => opened.has(findingKey(f)))]);
  const flip = (f: Finding) => {
    const next = new Set(opened);
    if (!next.delete(findingKey(f))) next.add(findingKey(f));
    setOpened(next);
  };
  const whole = (f: Finding, onFold?: () => void) => (
    <Verdict
      key={`${f.code}-${f.about}`}
      finding={f}
      remedies={remedies.of(f)}
      current={remedies.current}
      {...(onFold ? { onFold } : {})}
    />
  );
  return (
    <>
      <ul>{first.map((f) => whole(f))}</ul>
      <RecordLines />
      {rest.length > 0 && (
        <section aria-label="More verdicts" className="mt-3">
          <h3 className="flex items-center justify-between border-b border-ink pb-1 text-[12px] text-ink">
            {rest.length} more <Tally counts={tallyOf(rest)} />
          </h3>
          <ul>
            {rest.map((f) =>
              opened.has(findingKey(f)) ? (
                whole(f, () => flip(f))
              ) : (
                <Folded key={`${f.code}-${f.about}`} finding={f} onOpen={() => flip(f)} />
              ),
            )}
          </ul>
        </section>
      )}
    </>
  );
}

/** Says that words about the version wait in this browser for a server that answers. */
function UnsentWords() {
  const { waiting, clash, sendAnyhow, drop } = useUnsentWords();
  if (!waiting) return null;
  return (
    <p role="status" className="text-[11px] text-care" data-unsent={clash ? "clash" : "waiting"}>
      {clash ? (
        <>
          Somebody wrote in the same place meanwhile.{" "}
          <button type="button" className="link" onClick={sendAnyhow}>
            Send mine
          </button>{" "}
          <button type="button" className="link" onClick={drop}>
            Keep theirs
          </button>
        </>
      ) : (
        "Words not sent yet: kept here"
      )}
    </p>
  );
}

/** Verdicts of the version in view, those that matter at this station first, then what is worth measuring. */
export function VerdictColumn({ page }: { page: Page }) {
  const { version, frozen, undo, redo, design, state: looked } = useCalmDesk("frame");
  const { evaluation } = useLaterDesk();
  const several = design.states.length > 1;
  const [open, setOpen] = useState(false);
  const { findings } = evaluation;
  return (
    <aside
      aria-label="Verdicts"
      aria-busy={evaluation.waiting.length > 0}
      className={`verdict-drawer ${open ? "is-open" : ""}`}
    >
      <header
        className={
          "flex h-20 flex-col justify-center border-b border-rule px-4 max-[1180px]:h-auto " +
          "max-[1180px]:flex-row max-[1180px]:items-center max-[1180px]:justify-between " +
          "max-[1180px]:gap-3 max-[1180px]:py-1 max-[640px]:min-w-0 max-[640px]:flex-1 " +
          `max-[640px]:border-b-0 max-[640px]:pl-3 ${open ? "max-[640px]:pr-3" : "max-[640px]:pr-0"}`
        }
      >
        <p className="flex items-baseline justify-between gap-2 whitespace-nowrap">
          <b className="text-[17px] font-[650] text-ink">{version.label}</b>
          <span className="text-[12px] text-pencil max-[640px]:sr-only">
            {frozen ? `frozen ${version.frozenAt?.slice(0, 10)}` : "open draft"}
          </span>
        </p>
        <p className="mt-1 flex items-center justify-between gap-2 text-[12px] max-[640px]:mt-0 max-[640px]:min-w-0">
          <SaveLine open={open} />
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
        <UnsentWords />
      </header>
      <div className="px-4 py-2 max-[640px]:px-3 max-[640px]:py-0">
        <button
          type="button"
          className={
            "flex w-full items-center justify-between gap-2 border-b border-ink pb-2 max-[640px]:min-h-11 " +
            "max-[640px]:border-b-0 max-[640px]:pb-0 min-[1180px]:pointer-events-none"
          }
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <h2 className="min-w-0 truncate text-left">
            Verdicts{several && <span className="font-normal text-pencil max-[640px]:sr-only">, {looked.name}</span>}
          </h2>
          {evaluation.waiting.length > 0 && <span className="late text-[11px] text-pencil">being worked out …</span>}
          <Tally counts={tallyOf(findings)} />
        </button>
        <div className="verdict-body" data-late={evaluation.waiting.length > 0 || undefined}>
          {findings.length === 0 && <p className="mt-2">Nothing to say yet. Enter parts and targets.</p>}
          <VerdictList findings={findings} page={page} />
          <MeasureNext />
        </div>
      </div>
    </aside>
  );
}
