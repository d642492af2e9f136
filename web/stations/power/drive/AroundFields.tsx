import type { Unit } from "../../../../core/design/schema";
import {
  type Around,
  type AroundKind,
  aroundSchema,
  blankAround,
} from "../../../../core/subjects/propulsion/around/declares";
import { aroundFactor, aroundFactors, aroundOutside } from "../../../../core/subjects/propulsion/around/factor";
import { wetDrive } from "../../../../core/subjects/propulsion/covered";
import { aroundModel, discOf } from "../../../../core/subjects/propulsion/around/models";
import { mostOpening } from "../../../../core/subjects/propulsion/around/bounds";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { Picture } from "../../../fields/FormParts";
import { TaggedForm } from "../../../fields/TaggedForm";
import { AroundSketch } from "./AroundSketch";

const BLADE = "M20 6v28M16 9q4 11 0 22M24 9q-4 11 0 22";
/** What may be around a drive, as it is chosen: a drawing and its words. Seen from the side, flow to the right. */
const THINGS: { kind: AroundKind; word: string; drawing: string[] }[] = [
  { kind: "openings", word: "box or duct", drawing: [BLADE, "M8 2h26v10M8 2v10M8 38h26v-10M8 38v-10"] },
  {
    kind: "grille",
    word: "grille or guard",
    drawing: [BLADE, "M30 4v32M30 8h6M30 14h6M30 20h6M30 26h6M30 32h6M36 4v32"],
  },
  {
    kind: "overlap",
    word: "discs overlap",
    drawing: ["M20 20m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0", "M34 20m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0"],
  },
  {
    kind: "coaxial",
    word: "pair on one axis",
    drawing: ["M16 6v28M13 9q3 11 0 22", "M32 6v28M35 9q-3 11 0 22", "M4 20h42"],
  },
  {
    kind: "body behind",
    word: "body behind",
    drawing: ["M12 6v28M9 9q3 11 0 22M15 9q-3 11 0 22", "M26 20q0-9 10-9t12 9q-2 9-12 9t-10-9"],
  },
  {
    kind: "body before",
    word: "body before",
    drawing: ["M40 6v28M37 9q3 11 0 22M43 9q-3 11 0 22", "M4 20q2-9 12-9t12 9q-2 9-12 9t-12-9"],
  },
  {
    kind: "ground",
    word: "ground near",
    drawing: ["M8 12h34M11 9q14 3 28 0M11 15q14-3 28 0M25 12v-8", "M2 34h46M16 18v9M25 18v11M34 18v9"],
  },
  {
    kind: "hull",
    word: "at its hull",
    drawing: ["M2 10h40l-6 12h-34z", "M30 22v8", "M36 24v14M33 26q3 5 0 10M39 26q-3 5 0 10"],
  },
  {
    kind: "weighed",
    word: "weighed built in",
    drawing: ["M10 34h30M14 28h22v6M25 28v-6", "M14 12h22M16 9q9 3 18 0M16 15q9-3 18 0M25 12v10"],
  },
];

/**
 * What is around a drive: chosen by picture, several at once, each with its fields and what it leaves of the thrust.
 */
export function AroundFields({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const [whole, each, outside] = [aroundFactor(unit), aroundFactors(unit), aroundOutside(unit)];
  const weighedOnly = unit.measured?.asBuilt === true;
  return (
    <fieldset className="col-span-full" data-around={unit.around.map((a) => a.kind).join(" ")}>
      <legend className="mb-1 font-semibold text-ink">
        What is around it{unit.around.length === 0 ? ": nothing" : ""}
      </legend>
      <div className="flex flex-wrap gap-1.5">
        {THINGS.filter(
          ({ kind }) => kind !== "hull" || wetDrive({ units: [unit] }) || unit.around.some((a) => a.kind === "hull"),
        ).map(({ kind, word, drawing }) => {
          const there = unit.around.some((a) => a.kind === kind);
          return (
            <Picture
              key={kind}
              kind="checkbox"
              word={word}
              drawing={drawing}
              chosen={there}
              onChoose={() =>
                drive((u) => {
                  u.around = there ? u.around.filter((a) => a.kind !== kind) : [...u.around, blankAround(kind)];
                })
              }
            />
          );
        })}
      </div>
      {weighedOnly && unit.around.length > 0 && (
        <p className="mt-1 text-pencil">Its curve was measured as it is built in: nothing more is taken from it.</p>
      )}
      {unit.around.map((a) => (
        <Thing
          key={a.kind}
          entry={a}
          unit={unit}
          factor={weighedOnly ? undefined : each.find((e) => e.entry.kind === a.kind)?.factor}
          drive={drive}
        />
      ))}
      {!weighedOnly && outside.length > 0 && (
        <p className="mt-1 text-care" data-outside>
          Outside what the method holds for: {unit.name} {outside.join(", ")}. Weigh it as it is built in.
        </p>
      )}
      {whole && !weighedOnly && outside.length === 0 && (
        <p className="mt-1 text-pencil">
          {unit.around.length > 1 ? "All of it leaves" : "Leaves"}{" "}
          <b className={`num ${whole.evidence === "measured" ? "measured" : "predicted"}`}>
            {(100 * whole.value).toFixed(0)} ± {(100 * whole.sd).toFixed(0)} %
          </b>{" "}
          of its thrust at equal power, standing.
        </p>
      )}
    </fieldset>
  );
}

/** One thing around a drive: drawn to scale, with its numbers. */
function Thing({
  entry,
  unit,
  factor,
  drive,
}: {
  entry: Around;
  unit: Unit;
  /** null: not told yet; undefined: it does not count */
  factor: ReturnType<typeof aroundFactors>[number]["factor"] | undefined;
  drive: (mutate: (u: Unit) => void) => void;
}) {
  const { seen } = useDesk();
  const { habit } = usePreferences();
  const disc = discOf(unit);
  const most = mostOpening(seen, disc);
  const word = THINGS.find((t) => t.kind === entry.kind)?.word ?? entry.kind;
  const todo = disc && aroundModel(entry).lacks(entry, disc);
  return (
    <div className="mt-2 flex flex-wrap items-start gap-x-4 gap-y-1 border-t border-hair pt-1" data-thing={entry.kind}>
      <div className="w-[150px] shrink-0">
        <b className="text-ink">{word}</b>
        {disc && <AroundSketch entry={entry} disc={disc} />}
        <small className="block text-[11px] text-pencil">
          {factor === undefined
            ? "weighed: not counted again"
            : factor === null
              ? `To do: ${todo}`
              : `${(100 * factor.value).toFixed(0)} ± ${(100 * factor.sd).toFixed(0)} % left`}
        </small>
      </div>
      <div className="flex min-w-[240px] flex-1 flex-col gap-1">
        <TaggedForm
          kinds={aroundSchema}
          thing={entry}
          named={(label) => `${label}, ${word}`}
          empty="not said"
          also={(key, value) =>
            entry.kind === "openings" && (key === "inlet" || key === "outlet") && most !== null && value > most
              ? `Larger than the craft from any side. Accepted: up to ${plain(most, "area", habit)}.`
              : null
          }
          put={(key, value) =>
            drive((u) => {
              const own = u.around.find((a) => a.kind === entry.kind);
              if (!own) return;
              Object.assign(own, { [key]: value });
              // What was weighed is of the disc that it has now.
              if (own.kind === "weighed") own.disc = discOf(u)?.area ?? null;
            })
          }
        />
        {entry.kind === "coaxial" && (
          <p className="text-pencil">Count both rotors of each pair among the like units, half turning each way.</p>
        )}
        {entry.kind === "weighed" && (
          <p className="text-pencil">
            One scale is enough: the same unit, throttle and pack, first with nothing around it, then as it is built in.
          </p>
        )}
      </div>
    </div>
  );
}
