import { guarded } from "../../fields/guarded";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { type NewPlan, contracts } from "../../../api/contracts";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { useHalfText } from "../../app/halfWritten";
import { RungSelect } from "./RungSelect";
import { useLadder } from "./useLadder";

/** What a plan begins with: the rung's own abort rules and safety plan, the brief's wind. */
function usePlanStart(stage: number): NewPlan {
  const { design, file } = useDesk();
  const { rungs } = useLadder();
  const rung = rungs[stage - 1];
  const last = file.runs.at(-1);
  return {
    stage,
    question: "",
    course: "",
    repeats: 1,
    abort: rung?.abort ?? [],
    success: "",
    people: last?.pilot ? [{ name: last.pilot, role: "drives" }] : [],
    place: last?.place ?? "",
    around: [],
    alone: false,
    limits: {
      wind: design.brief.environment.wind || null,
      waves: null,
      current: null,
      coldest: null,
      warmest: null,
      surface: "",
    },
    day: { wind: null, waves: null, current: null, temperature: null, surface: null },
    safety: rung?.safety ?? [],
    ticks: [],
    goneOn: "",
    state: "planned",
  };
}

/** Opens a plan: the question is all that is needed to begin. */
export function NewPlanForm({
  stage,
  onDone,
  onCancel,
}: {
  stage: number;
  onDone: (n: number) => void;
  onCancel: () => void;
}) {
  const { slug, version, refresh, flush } = useDesk();
  const { rungs } = useLadder();
  const [rung, setRung] = useState(stage);
  const [question, setQuestion, written] = useHalfText(slug, version.label, "plan new");
  const [missing, setMissing] = useState(false);
  const begin = usePlanStart(rung);
  const make = useMutation({
    mutationFn: async () => {
      await flush();
      return call(contracts.createPlan, {
        params: { slug, label: version.label },
        body: { ...begin, question: question.trim() },
      });
    },
    onSuccess: async ({ number }) => {
      written();
      await refresh();
      onDone(number);
    },
    onError: (e) => toast.error(sayError(e)),
  });
  return (
    <form
      aria-label="New plan"
      onSubmit={guarded((e) => {
        e.preventDefault();
        setMissing(question.trim() === "");
        if (question.trim() !== "") make.mutate();
      })}
    >
      <h2 className="border-b border-ink pb-1 text-[18px]">Plan a run of {version.label}</h2>
      <div className="mt-3 grid max-w-2xl grid-cols-[1fr_220px] gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <label>
          Purpose of this run
          <input
            className="box"
            maxLength={200}
            placeholder="such as: does the nose stay down to 17 m/s?"
            value={question}
            aria-invalid={missing}
            onChange={(e) => setQuestion(e.target.value)}
          />
          {missing && (
            <span role="alert" className="text-[11px] text-stop">
              A run answers a question: write it down.
            </span>
          )}
        </label>
        <RungSelect rungs={rungs} value={rung} onChange={setRung} />
      </div>
      <p className="mt-2 max-w-2xl">{rungs[rung - 1]?.doing}.</p>
      <p className="mt-3 flex gap-2">
        <button type="submit" className="act act-first" disabled={make.isPending}>
          Plan it
        </button>
        <button type="button" className="act" onClick={onCancel}>
          Cancel
        </button>
      </p>
    </form>
  );
}
