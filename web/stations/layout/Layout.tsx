import { useCallback, useRef } from "react";
import { useSearchParams } from "react-router";
import { Sheets } from "../../app/Tabs";
import { useCalmDesk } from "../../app/desk";
import { useWidth } from "../../app/useWidth";
import { CraftDrawing } from "../../drawing/CraftDrawing";
import { BalanceSheet } from "./BalanceSheet";
import { CgPanel } from "./CgPanel";
import { DrawingSheet } from "./DrawingSheet";
import { blankPart } from "../../../core/subjects/mass/ledger";
import { Ledger } from "./ledger/Ledger";
import { LeverageSheet } from "./LeverageSheet";
import { PaperSheet } from "./PaperSheet";
import { Selected } from "./Selected";
import { WalkBackSheet } from "./WalkBackSheet";
import { WindowStrip } from "./WindowStrip";

const SHEETS = {
  parts: "Parts",
  balance: "Balance",
  leverage: "Cost of weight by position",
  walk: "Move the CG back",
  drawing: "Envelope and outline",
  paper: "On paper",
} as const;
type SheetName = keyof typeof SHEETS;
const NAMES = Object.entries(SHEETS) as [SheetName, string][];

export function LayoutStation() {
  const { design, edit } = useCalmDesk("sheet");
  const [search, setSearch] = useSearchParams();
  const [sheetRef, width] = useWidth<HTMLDivElement>(628);
  const selected = search.get("part");
  const sheet = (search.get("sheet") ?? "parts") as SheetName;
  const put = (change: Record<string, string>) => {
    if (Object.entries(change).every(([k, v]) => search.get(k) === v)) return;
    setSearch(
      (s) => {
        for (const [k, v] of Object.entries(change)) s.set(k, v);
        return s;
      },
      // Another sheet is a step that Back takes back; a part that is selected is none.
      { replace: !("sheet" in change) },
    );
  };
  const latest = useRef(put);
  latest.current = put;
  const select = useCallback((id: string) => latest.current({ part: id }), []);
  const index = design.items.findIndex((i) => i.id === selected);
  const item = design.items[index];
  const empty = design.items.length === 0;
  const shown = empty || !(sheet in SHEETS) ? "parts" : sheet;
  return (
    <>
      {empty ? (
        <NoParts onAdd={() => edit((d) => d.items.push({ ...blankPart(d), name: "Battery" }))} />
      ) : (
        <div className="craft-view flex min-h-[470px] flex-wrap border-b border-hair">
          <div ref={sheetRef} className="min-w-[300px] flex-1 bg-sheet">
            <CraftDrawing selected={selected} onSelect={select} width={width} height={width < 500 ? 420 : 378} />
            <WindowStrip width={width} />
          </div>
          {/* As high as the drawing, whatever is selected: the list beneath does not move under the hand. */}
          <div
            className={
              "w-[276px] shrink-0 border-l border-hair px-4 py-3 max-[640px]:w-full max-[640px]:border-l-0 " +
              "min-[641px]:max-h-[470px] min-[641px]:overflow-y-auto"
            }
          >
            <CgPanel />
            {item ? (
              <Selected item={item} number={index + 1} />
            ) : (
              <p className="mt-3 text-[11px] text-pencil">
                Dashed outline: mass not yet weighed. Dotted, with ?: nobody has said where. ± = 68 %, ellipse = 90 %.
              </p>
            )}
          </div>
        </div>
      )}
      <Sheets
        label="Layout sheets"
        names={NAMES}
        value={shown}
        onChange={(name) => put({ sheet: name })}
        className={empty ? "hidden" : "border-b border-hair px-4"}
      >
        {shown === "balance" ? (
          <BalanceSheet />
        ) : shown === "leverage" ? (
          <LeverageSheet onSelect={select} />
        ) : shown === "walk" ? (
          <WalkBackSheet />
        ) : shown === "drawing" ? (
          <DrawingSheet />
        ) : shown === "paper" ? (
          <PaperSheet />
        ) : (
          <Ledger selected={selected} onSelect={select} />
        )}
      </Sheets>
    </>
  );
}

/** What to do first where there is nothing. */
function NoParts({ onAdd }: { onAdd: () => void }) {
  return (
    <section className="px-6 pt-6">
      <h2 className="text-[18px]">No parts yet</h2>
      <p className="mt-2">
        Begin with the heaviest: the battery, then the motor. A name, a mass and how far it sits behind the nose are
        enough. Or paste a list below.
      </p>
      <button type="button" className="act act-first mb-4 mt-4" onClick={onAdd}>
        Add the first part
      </button>
    </section>
  );
}
