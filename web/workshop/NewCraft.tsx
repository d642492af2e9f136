import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import { magnitudeOrZero, positiveOf } from "../../core/design/evidence";
import { AXES, type Design, HELD_UP_BY, type HeldUpBy, emptyDesign, newItem } from "../../core/design/schema";
import { firstAnswer } from "../../core/sizing/firstAnswer";
import { ON_HAND } from "../../core/subjects/mass/declares";
import { HELD_UP_WORD } from "../../core/wording/heldUp";
import { call, sayError } from "../app/client";
import { guarded } from "../fields/guarded";
import { QuantityField } from "../fields/QuantityField";
import { FirstAnswer } from "./FirstAnswer";

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
        unplaced: [...AXES],
        unsized: true,
        size: { x: 0.1, y: 0.06, z: 0.04 },
      }),
    ];
  return design;
}

/** Ways of being held up whose power goes with the speed asked. */
const MOVES: readonly HeldUpBy[] = ["wings", "hull", "gas", "ground", "submerged"];

/** A new craft and its first answer, from what holds it up and three numbers. */
export function NewCraft() {
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
              className={
                "min-h-6 cursor-pointer border-b-2 focus-within:outline-2 focus-within:outline-pencil " +
                `${h === heldUpBy ? "border-accent font-semibold text-accent" : "border-transparent text-ink"}`
              }
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
        <ThreeNumbers
          massLimit={massLimit}
          setThree={setThree}
          three={three}
          massOnHand={massOnHand}
          duration={duration}
        />
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
      {answer && <FirstAnswer answer={answer} />}
    </form>
  );
}

/** Mass, time and size. */
function ThreeNumbers({
  massLimit,
  setThree,
  three,
  massOnHand,
  duration,
}: {
  massLimit: number | null;
  setThree: (next: Three) => void;
  three: Three;
  massOnHand: number | null;
  duration: number | null;
}) {
  return (
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
  );
}
