import { RETURNED, launchSpeedOf } from "../../../core/subjects/flight/cord";
import type { z } from "zod";
import { type FlightSaid, cordSchema } from "../../../core/subjects/surfaces/declares";
import { show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Line } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";

type Stretched = NonNullable<FlightSaid["cord"]>;
const UNSAID: Stretched = { pull: null, stretch: null, rise: 0 };

/** The speed at which a stretched cord lets it go, from its pull and its stretch, for the craft as heavy as it is. */
export function Cord() {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { flight } = design;
  const cord = flight.cord ?? UNSAID;
  const { auw } = evaluation.metrics;
  const mass = auw && !auw.incomplete?.length ? auw.value : null;
  const found = launchSpeedOf({ ...flight, launchSpeed: null }, mass);
  const field = (key: keyof Stretched, label: string, dimension: "force" | "distance", empty: string) => (
    <label className="w-28">
      {label}
      <QuantityField
        boxed
        label={label}
        value={key === "rise" && cord.rise === 0 ? null : cord[key]}
        dimension={dimension}
        empty={empty}
        schema={cordSchema.shape[key] as z.ZodType<number>}
        onCommit={(v) =>
          edit((d) => {
            const next = { ...cord, [key]: v ?? UNSAID[key] };
            d.flight.cord = next.pull === null && next.stretch === null && next.rise === 0 ? null : next;
          })
        }
      />
    </label>
  );
  const said = found && show(found.value, found.sd ?? 0, "speed", habit);
  const whole = cord.pull !== null && cord.stretch !== null;
  return (
    <Line
      label="From a stretched cord"
      hint={
        `pull read off a luggage scale, tied down; ${Math.round(100 * RETURNED.value)} ± ` +
        `${Math.round(100 * RETURNED.sd)} % of what it holds reaches the craft (judgement)`
      }
    >
      <span className="flex flex-wrap items-end gap-2">
        {field("pull", "Pull, fully stretched", "force", "N")}
        {field("stretch", "Stretched by", "distance", "m")}
        {field("rise", "Rises meanwhile", "distance", "level")}
      </span>
      {said && (
        <p className="mt-1" data-cord>
          lets it go at <b className="num predicted">{said.value}</b> ± {said.sd} {said.unit}
          {flight.launchSpeed && ": the speed below stands before it"}
        </p>
      )}
      {whole && !found && (
        <p className="mt-1 text-care" data-cord-open>
          {mass === null
            ? "Open: how fast, until every part has a mass."
            : "It does not lift the craft so high: a harder pull, or a longer one."}
        </p>
      )}
    </Line>
  );
}
