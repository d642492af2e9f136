import { useMemo } from "react";
import Markdown from "react-markdown";
import remarkGfm from "remark-gfm";
import { statusOf } from "../../../core/lineage/status";
import { STATUS_WORD, buildReport } from "../../../core/wording/report";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

const COLOUR = { works: "text-clear", "works with cautions": "text-care", "do not build": "text-stop" };

/** The build report: on screen, on paper, and as Markdown. */
export function ReportSheet() {
  const { file, version, design, seen, state, evaluation, slug } = useDesk();
  const { habit } = usePreferences();
  const own = useMemo(() => ({ ...version, design }), [version, design]);
  const text = useMemo(
    () => buildReport(file, own, evaluation, habit, state.id),
    [file, own, evaluation, habit, state.id],
  );
  const { status } = statusOf(file, { ...own, design: seen }, evaluation.findings);
  return (
    <section aria-label="Build report" className="px-4 py-3">
      <p className="no-print flex flex-wrap items-baseline gap-4 border-b border-ink pb-2">
        <b className={`text-[17px] ${COLOUR[status]}`} data-status={status}>
          {STATUS_WORD[status]}
        </b>
        <a
          className="link"
          download={`${slug}-${version.label}.md`}
          href={`data:text/markdown;charset=utf-8,${encodeURIComponent(text)}`}
        >
          save as Markdown
        </a>
        <button type="button" className="link" onClick={() => window.print()}>
          print
        </button>
      </p>
      <div className="report">
        <Markdown remarkPlugins={[remarkGfm]} disallowedElements={["a", "img"]} unwrapDisallowed>
          {text}
        </Markdown>
      </div>
    </section>
  );
}
