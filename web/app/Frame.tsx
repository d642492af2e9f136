import { type ReactNode, useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { Link } from "react-router";
import { PAGES, type Page } from "../../core/design/metrics";
import { SEVERITY_COLOUR } from "../glyphs/Flag";
import { ChildDialog } from "./ChildDialog";
import { ConflictDialog } from "./ConflictDialog";
import { KeysDialog } from "./KeysDialog";
import { Legend } from "./Legend";
import { VerdictColumn } from "./Verdicts";
import { StateStrip } from "./StateStrip";
import { VersionTrack } from "./VersionTrack";
import { useCalmDesk, useLaterDesk } from "./desk";
import { usePreferences } from "./preferences";
import { useListPaste } from "../grid/listPaste";
import { useReachable } from "./useReachable";
import { stationState } from "./stationState";

function Rail({ station }: { station: Page }) {
  const { file, version, go } = useCalmDesk("frame");
  const { evaluation } = useLaterDesk();
  const { habit } = usePreferences();
  const list = useRef<HTMLOListElement>(null);
  // On a phone the stations are a bar that scrolls: the one in view is brought into it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the change of station that matters
  useEffect(() => {
    list.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [station]);
  return (
    <nav aria-label="Stations" className="rail">
      <ol ref={list} className="rail-list">
        {PAGES.map((s, i) => {
          const here = s === station;
          const state = stationState(s, evaluation, file, version, habit);
          return (
            <li key={s}>
              <button
                type="button"
                aria-current={here ? "page" : undefined}
                onClick={() => go({ station: s })}
                title={`Key ${i + 1}`}
                className={
                  "flex h-full w-full flex-col justify-center border-l-[5px] py-1 pl-3 pr-1 text-left " +
                  `${here ? "border-accent bg-paper" : "border-transparent"}`
                }
              >
                <b className={`text-[15px] font-[600] capitalize leading-5 ${here ? "text-accent" : "text-ink"}`}>
                  {s}
                </b>
                <span
                  className={
                    "text-[11px] leading-[14px] " +
                    `${state.severity === "clear" || state.severity === "note" ? "text-pencil" : SEVERITY_COLOUR[state.severity]}`
                  }
                >
                  {state.text}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      <Legend />
    </nav>
  );
}

/** Rail, version track, main and verdicts: the frame around every station. */
export function Frame({ station, children }: { station: Page; children: ReactNode }) {
  const desk = useCalmDesk("frame");
  const { keys } = usePreferences();
  const [help, setHelp] = useState(false);
  const main = useRef<HTMLElement>(null);
  useReachable(main);
  useListPaste();
  const { file, version, design, state, go, undo, redo } = desk;
  const step = (by: number) => {
    const labels = file.versions.map((v) => v.label);
    const next = labels[labels.indexOf(version.label) + by];
    if (next) go({ label: next });
  };
  // No single key while a list, a menu or a question is in use: what is typed there is meant for it.
  const single = {
    enabled: keys,
    ignoreEventWhen: (e: KeyboardEvent) =>
      (e.target as Element | null)?.closest?.("[data-grid], [role=menu], [role=listbox], dialog") != null,
  };
  useHotkeys("1,2,3,4,5,6,7,8", (e) => go({ station: PAGES[Number(e.key) - 1] }), { ...single, useKey: true });
  useHotkeys("[,PageUp", () => step(-1), { ...single, useKey: true });
  useHotkeys("],PageDown", () => step(1), { ...single, useKey: true });
  useHotkeys("?", () => setHelp(true), { ...single, useKey: true });
  useHotkeys("ctrl+z,meta+z", (e) => {
    e.preventDefault();
    undo?.();
  });
  useHotkeys("ctrl+y,ctrl+shift+z,meta+shift+z", (e) => {
    e.preventDefault();
    redo?.();
  });
  return (
    <div className="frame">
      <Link to="/" className="brand">
        <b className="text-[15px] font-[650] text-ink [font-stretch:118%]">Ultraform</b>
        <span className="text-[11px]">to the workshop</span>
      </Link>
      {/* On a phone head and page scroll as one, so that little of the height is never the page's. */}
      <div className="frame-scroll">
        <header className="track">
          <div className="w-[150px] shrink-0 self-center overflow-hidden pl-4 pr-2">
            <h1 className={`truncate ${file.craft.name.length > 7 ? "text-[19px]!" : ""}`} title={file.craft.name}>
              {file.craft.name}
            </h1>
            <p className="line-clamp-2 text-[11px] leading-[14px]">{file.craft.summary}</p>
          </div>
          {/* On paper nothing else says which version it is of. */}
          <p className="hidden self-center print:block">
            <b className="text-ink">{version.label}</b>
            {design.states.length > 1 && `, ${state.name}`}
            {version.frozenAt === null && ", open draft"}
          </p>
          <VersionTrack />
        </header>
        <Rail station={station} />
        <main ref={main} id="main" className="frame-main" tabIndex={-1}>
          <StateStrip />
          {children}
        </main>
      </div>
      <VerdictColumn page={station} />
      <ChildDialog />
      <ConflictDialog />
      <KeysDialog open={help} onClose={() => setHelp(false)} />
    </div>
  );
}
