import { useSearchParams } from "react-router";
import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import { lattice } from "../../../core/subjects/flight/latticeNode";
import { flight } from "../../../core/subjects/flight/node";
import { Sheets } from "../../app/Tabs";
import { useDesk } from "../../app/desk";
import { authority } from "../../../core/subjects/authority/node";
import { Afloat } from "./Afloat";
import { Answers } from "./Answers";
import { AxisBoard } from "./AxisBoard";
import { Between } from "./Between";
import { BodiesSheet } from "./BodiesSheet";
import { FlightDrawing } from "./FlightDrawing";
import { FlightSheet } from "./FlightSheet";
import { InWaves } from "./InWaves";
import { InWind } from "./InWind";
import { NoWing } from "./NoWing";
import { OnTheGround } from "./OnTheGround";
import { ShapeDrop } from "./ShapeDrop";
import { Sideways } from "./Sideways";
import { SpanLoad } from "./SpanLoad";
import { Speeds } from "./Speeds";
import { Stored } from "./Stored";
import { SurfacesSheet } from "./SurfacesSheet";
import { UnderPower } from "./UnderPower";
import { UnderThrust } from "./UnderThrust";
import { CgShift } from "./CgShift";
import { TrimCurve } from "./TrimCurve";

const SHEETS = { surfaces: "Wings and fins", bodies: "Bodies", flight: "How it flies" } as const;
type SheetName = keyof typeof SHEETS;

/** In flight: the craft with its wings, where the CG must be, how slow it flies, and what the wings are. */
export function StabilityStation() {
  const { design, evaluation } = useDesk();
  const [search, setSearch] = useSearchParams();
  const put = (change: Record<string, string | null>) =>
    setSearch(
      (s) => {
        for (const [k, v] of Object.entries(change)) {
          if (v === null) s.delete(k);
          else s.set(k, v);
        }
        return s;
      },
      { replace: !("sheet" in change) },
    );
  const sheet = (Object.keys(SHEETS) as SheetName[]).find((n) => n === search.get("sheet")) ?? "surfaces";
  const flown = resultIn(evaluation, flight);
  const wings = resultIn(evaluation, lattice);
  const outcome = evaluation.outcomes[lattice.name];
  const why = outcome ? whyNone(outcome) : null;
  const hung = resultIn(evaluation, authority);
  const under = hung && <UnderThrust result={hung} />;
  const chosen = design.surfaces.find((s) => s.id === search.get("of")) ?? design.surfaces[0];
  if (design.surfaces.length === 0 && design.bodies.length === 0)
    return (
      <>
        {under}
        <Between />
        <AxisBoard />
        <InWind />
        <InWaves />
        <Stored />
        <OnTheGround />
        <ShapeDrop onAdded={(id) => put({ of: id, sheet: id === null ? "bodies" : null })}>
          <NoWing why={outcome?.status === "not covered" ? why : null} onAdded={(id) => put({ of: id })} />
        </ShapeDrop>
      </>
    );
  return (
    <>
      {under}
      {why === null ? (
        <Answers />
      ) : (
        <p className="border-b border-hair px-4 py-3" data-uncovered>
          {outcome?.status === "not covered" ? `Not covered: ${why}. ` : `Open: ${why}. `}
          What is described is drawn, and counts in length and width where its shape is known.
        </p>
      )}
      <ShapeDrop onAdded={(id) => put({ of: id, sheet: id === null ? "bodies" : null })}>
        <FlightDrawing chosen={chosen?.id ?? null} onChoose={(id) => put({ of: id, sheet: null })} />
      </ShapeDrop>
      <Between />
      <Afloat />
      <AxisBoard />
      <InWind />
      <InWaves />
      <Stored />
      <OnTheGround />
      {flown && wings && (
        <div className="grid grid-cols-2 gap-x-6 gap-y-4 border-t border-hair px-4 py-3 max-[760px]:grid-cols-1">
          <Speeds flown={flown} />
          <UnderPower />
          <SpanLoad wings={wings} flown={flown} />
          <TrimCurve wings={wings} flown={flown} />
          <CgShift wings={wings} flown={flown} />
          <Sideways />
        </div>
      )}
      <Sheets
        label="Stability sheets"
        names={Object.entries(SHEETS) as [SheetName, string][]}
        value={sheet}
        onChange={(name) => put({ sheet: name === "surfaces" ? null : name })}
        className="border-y border-hair px-4"
      >
        {sheet === "surfaces" && <SurfacesSheet chosen={chosen} onChoose={(id) => put({ of: id })} />}
        {sheet === "bodies" && <BodiesSheet />}
        {sheet === "flight" && <FlightSheet />}
      </Sheets>
    </>
  );
}
