import { useDeferredValue, useMemo } from "react";
import { resultIn } from "../../../core/evaluate";
import { propulsion } from "../../../core/subjects/propulsion/node";
import { Sheets } from "../../app/Tabs";
import { useDesk } from "../../app/desk";
import { Curves } from "./Curves";
import { DrivesSheet } from "./DrivesSheet";
import { GenericSheet } from "./GenericSheet";
import { LoopSheet } from "./LoopSheet";
import { NoDrive } from "./NoDrive";
import { SearchSheet } from "./SearchSheet";
import { ShelfSheet } from "./shelf/ShelfSheet";
import { WhatIfSheet } from "./WhatIfSheet";
import { PathOfPower } from "./worked/PathOfPower";
import { WorkedAt } from "./worked/WorkedAt";
import { useWorkingPoint } from "./worked/useWorkingPoint";

const SHEETS = {
  drives: "Drives and packs",
  search: "Search",
  loop: "The loop",
  whatif: "What if",
  shelf: "Your parts",
  generic: "Generic parts",
} as const;
type SheetName = keyof typeof SHEETS;

/** The station: working conditions, the flow of power, curves, and what the drives are made of. */
export function PowerStation() {
  const { design } = useDesk();
  return design.units.length === 0 || design.batteries.length === 0 ? <NoDrive /> : <Driven />;
}

function Driven() {
  const { seen: design, evaluation } = useDesk();
  const result = resultIn(evaluation, propulsion);
  const outcome = evaluation.outcomes[propulsion.name];
  const uncovered = outcome?.status === "not covered" ? outcome.because : null;
  const at = useWorkingPoint();
  const { throttle, speed, still, search, put } = at;
  const asIs = useMemo(() => ({ design, throttle, speed, still }), [design, throttle, speed, still]);
  // Typing and sliding come first: the path of the power follows in a turn of its own.
  const shown = useDeferredValue(asIs);
  const sheet = (Object.keys(SHEETS) as SheetName[]).find((n) => n === search.get("sheet")) ?? "drives";
  return (
    <>
      {/* The search is a page of its own: its plot has the place of the flow and the curves. */}
      {sheet !== "search" && (
        <>
          <WorkedAt result={result} at={at} />
          <div className="wide px-4 pt-3" data-late={shown !== asIs || undefined}>
            <PathOfPower {...shown} solved={result !== null} uncovered={uncovered} />
          </div>
          {result && (
            <Curves key={speed > 0 ? "moving" : "standing"} result={result} throttle={throttle} speed={speed} />
          )}
        </>
      )}
      <Sheets
        label="Power sheets"
        names={Object.entries(SHEETS) as [SheetName, string][]}
        value={sheet}
        onChange={(name) => put({ sheet: name === "drives" ? null : name })}
        className="border-y border-hair px-4"
      >
        {uncovered !== null && (sheet === "search" || sheet === "loop" || sheet === "whatif") && (
          <p className="px-4 py-4" data-uncovered>
            Not covered: {uncovered}. Nothing is sized by a model that does not hold for it.
          </p>
        )}
        {uncovered === null && sheet === "search" && <SearchSheet />}
        {uncovered === null && sheet === "loop" && <LoopSheet />}
        {uncovered === null && sheet === "whatif" && <WhatIfSheet />}
        {sheet === "shelf" && <ShelfSheet />}
        {sheet === "generic" && <GenericSheet />}
        {sheet === "drives" && <DrivesSheet result={result} of={search.get("of")} put={put} />}
      </Sheets>
    </>
  );
}
