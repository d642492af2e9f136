import { guarded } from "../fields/guarded";
import { ON_HAND } from "../../core/subjects/mass/declares";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import { magnitudeOrZero, positiveOf } from "../../core/design/evidence";
import { type Design, HELD_UP_BY, type HeldUpBy, emptyDesign, newItem } from "../../core/design/schema";
import { type Banded, firstAnswer } from "../../core/sizing/firstAnswer";
import type { Dimension } from "../../core/design/units";
import { plain } from "../../core/wording/format";
import { FIRST_ANSWER, HELD_UP_WORD } from "../../core/wording/heldUp";
import { call, sayError } from "../app/client";
import { usePreferences } from "../app/preferences";
import { QuantityField } from "../fields/QuantityField";
import { Cairn } from "../glyphs/Cairn";
import { Flag } from "../glyphs/Flag";

interface Three {
  massLimit: number | null;
  massOnHand: number | null;
  duration: number | null;
}

/** A design that holds what the three numbers say: the limits as targets, what is on hand as one guessed part. */
function firstDesign(heldUpBy: HeldUpBy, massLimit: number, massOnHand: number, duration: number): Design {
  const design = emptyDesign(heldUpBy);
  design.brief.targets = [
    { id: "t1", metric: "auw", comparison: "atMost", value: massLimit, weight: "must" },
    { id: "t2", metric: "endurance", comparison: "atLeast", value: duration, weight: "must" },
  ];
  if (massOnHand > 0)
    design.items = [
      newItem({
        id: ON_HAND,
        name: "Parts on hand",
        group: "On hand",
        mass: { value: massOnHand, evidence: "guess", sd: 0.1 * massOnHand },
        place: { x: 0.2, y: 0, z: 0.05 },
        size: { x: 0.1, y: 0.06, z: 0.04 },
      }),
    ];
  return design;
}

function Band({ banded, dimension }: { banded: Banded; dimension: Dimension }) {
  const { habit } = usePreferences();
  return (
    <span className="num">
      <b className="text-ink">{plain(banded.value, dimension, habit)}</b>{" "}
      <span className="predicted">
        ({plain(banded.value / banded.factor, dimension, habit)} to{" "}
        {plain(banded.value * banded.factor, dimension, habit)})
      </span>
    </span>
  );
}

/** Ways of being held up whose power goes with the speed asked. */
const MOVES: readonly HeldUpBy[] = ["wings", "hull", "gas", "ground", "submerged"];

/** A new craft and its first answer, from what holds it up and three numbers. */
export function NewCraft() {
  const { habit } = usePreferences();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [heldUpBy, setHeldUpBy] = useState<HeldUpBy>("wings");
  const [three, setThree] = useState<Three>({ massLimit: 1, massOnHand: 0.3, duration: 600 });
  const [name, setName] = useState("");
  const [missing, setMissing] = useState(false);
  const [speed, setSpeed] = useState<number | null>(null);
  const [steadyLoad, setSteadyLoad] = useState<number | null>(null);
  const { massLimit, massOnHand, duration } = three;
  const answer =
    massLimit !== null && massOnHand !== null && duration !== null
      ? firstAnswer({ heldUpBy, massLimit, massOnHand, duration, speed, steadyLoad })
      : null;
  const create = useMutation({
    mutationFn: (design: Design) =>
      call(contracts.createCraft, {
        body: {
          craft: { name: name.trim(), summary: `held up by ${HELD_UP_WORD[heldUpBy]}` },
          design,
          question: "",
        },
      }),
    onSuccess: ({ slug }) => {
      void queries.invalidateQueries({ queryKey: ["crafts"] });
      void navigate(`/craft/${slug}/v1/brief`);
    },
    onError: (e) => toast.error(sayError(e)),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() === "") {
      setMissing(true);
      return;
    }
    if (massLimit !== null && massOnHand !== null && duration !== null)
      create.mutate(firstDesign(heldUpBy, massLimit, massOnHand, duration));
  };
  const negative = answer !== null && answer.remainder < 0;
  return (
    <form
      onSubmit={guarded(submit)}
      aria-label="New craft"
      className="grid grid-cols-2 gap-8 border-t border-rule px-4 py-4 max-[900px]:grid-cols-1"
    >
      <div>
        <h2>New, from three numbers</h2>
        <fieldset className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <legend className="sr-only">What holds it up</legend>
          <span aria-hidden="true">What holds it up</span>
          {HELD_UP_BY.map((h) => (
            <label
              key={h}
              className={`min-h-6 cursor-pointer border-b-2 focus-within:outline-2 focus-within:outline-pencil ${h === heldUpBy ? "border-accent font-semibold text-accent" : "border-transparent text-ink"}`}
            >
              <input
                type="radio"
                name="heldUpBy"
                className="sr-only"
                value={h}
                checked={h === heldUpBy}
                onChange={() => setHeldUpBy(h)}
              />
              {HELD_UP_WORD[h]}
            </label>
          ))}
        </fieldset>
        <div className="mt-3 grid grid-cols-3 gap-3">
          <label>
            Mass limit
            <QuantityField
              boxed
              label="Mass limit"
              value={massLimit}
              dimension="mass"
              schema={positiveOf("mass")}
              onCommit={(v) => setThree({ ...three, massLimit: v })}
            />
          </label>
          <label>
            Parts you already have
            <QuantityField
              boxed
              label="Parts you already have"
              value={massOnHand}
              dimension="mass"
              schema={magnitudeOrZero("any").shape.value}
              onCommit={(v) => setThree({ ...three, massOnHand: v })}
            />
          </label>
          <label>
            Run time wanted
            <QuantityField
              boxed
              label="Run time wanted"
              value={duration}
              dimension="time"
              schema={positiveOf("time")}
              onCommit={(v) => setThree({ ...three, duration: v })}
            />
          </label>
        </div>
        <div className="mt-3 grid grid-cols-3 gap-3">
          {MOVES.includes(heldUpBy) && (
            <label>
              At a speed of
              <QuantityField
                boxed
                label="Speed wanted"
                value={speed}
                dimension="speed"
                empty="as usual"
                onCommit={(v) => setSpeed(v)}
              />
            </label>
          )}
          <label>
            Steady load
            <QuantityField
              boxed
              label="Steady load"
              value={steadyLoad}
              dimension="power"
              empty="about 2 W"
              onCommit={(v) => setSteadyLoad(v)}
            />
          </label>
        </div>
        <label className="mt-3 block">
          Name
          <input
            className="box"
            maxLength={80}
            value={name}
            aria-invalid={missing && name.trim() === ""}
            onChange={(e) => setName(e.target.value)}
          />
          {missing && name.trim() === "" && (
            <span role="alert" className="text-[11px] text-stop">
              A name is needed.
            </span>
          )}
        </label>
        <p className="mt-3 flex items-center gap-3">
          <button type="submit" className="act act-first" disabled={create.isPending}>
            Create craft
          </button>
          <span className="text-pencil">then weigh one thing</span>
        </p>
      </div>
      {answer && (
        <section aria-label="First answer">
          <h2 className="flex items-center gap-2">
            First answer <Cairn level="guess" />
          </h2>
          {negative && (
            <p className="mt-1 flex items-start gap-2 font-semibold text-stop" data-first="stop">
              <Flag severity="stop" /> Stop: these numbers do not add up. {plain(-answer.remainder, "mass", habit)} is
              missing before any structure.
            </p>
          )}
          <table className="rows mt-1 w-full">
            <tbody>
              <tr>
                <td>Mass left for everything else</td>
                <td className="text-right">
                  <span className="num">
                    <b className={negative ? "text-stop" : "text-ink"}>{plain(answer.remainder, "mass", habit)}</b>{" "}
                    <span className="predicted">± {plain(answer.remainderSd, "mass", habit)}</span>
                  </span>
                </td>
              </tr>
              <tr>
                <td>Power needed to stay up and move</td>
                <td className="text-right">
                  <Band banded={answer.power} dimension="power" />
                </td>
              </tr>
              <tr>
                <td>Pack energy</td>
                <td className="text-right">
                  <Band banded={answer.packEnergy} dimension="energy" />
                </td>
              </tr>
              <tr>
                <td>Pack mass</td>
                <td className="text-right">
                  <Band banded={answer.packMass} dimension="mass" />
                </td>
              </tr>
            </tbody>
          </table>
          <details className="mt-2 text-[12px]">
            <summary className="cursor-pointer text-accent">Show working</summary>
            <p className="num mt-1 bg-sheet p-2 text-ink">
              {FIRST_ANSWER[answer.method]}; energy = (P + steady load)·t / 0.8
            </p>
            <ul className="mt-1">
              {answer.assumptions.map((a) => (
                <li key={a.name}>
                  {a.name}:{" "}
                  <span className="num">
                    {a.value} {a.unit} ×÷ {a.factor}
                  </span>
                </li>
              ))}
            </ul>
            <p className="mt-1 text-pencil">
              Generic figures of small craft (common practice), each with its spread; valid until your own are entered.
            </p>
          </details>
        </section>
      )}
    </form>
  );
}
