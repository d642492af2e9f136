import { useMutation } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { toast } from "sonner";
import { contracts } from "../../../api/contracts";
import { EVIDENCE_STEPS, type Run } from "../../../core/design/craftFile";
import { understood } from "../../../core/runs/ladder";
import { EVIDENCE_TEXT } from "../../../core/wording/evidence";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { useHalfText } from "../../app/halfWritten";
import { Pictures } from "../../fields/Pictures";
import { asNewRun } from "./heldRun";
import { faultName } from "./words";

/**
 * After a crash: what is secured, in its order, before anything else. A later step opens when the one before it is
 * done.
 */
export function EvidenceOrder({ run, onDone }: { run: Run; onDone: () => void }) {
  const { slug, file, revisions, refresh, go } = useDesk();
  const [notes, setNotes, said] = useHalfText(slug, run.version, `evidence ${run.number}`, run.crash?.notes ?? "");
  const [, setSearch] = useSearchParams();
  const save = useMutation({
    mutationFn: (change: Partial<Run>) => {
      // It stays in view when its last line is done.
      setSearch({ evidence: String(run.number) }, { replace: true });
      return call(contracts.saveRun, {
        params: { slug, number: run.number },
        body: { revision: revisions.runs[run.number] ?? 0, run: { ...asNewRun(run), ...change } },
      });
    },
    onSuccess: async (_, change) => {
      if (change.crash) said();
      await refresh();
    },
    onError: (e) => toast.error(sayError(e)),
  });
  const { crash } = run;
  if (!crash) return null;
  const first = EVIDENCE_STEPS.find((s) => !crash.steps[s]);
  const faults = file.faults.filter((f) => f.run === run.number);
  const tested = understood(faults);
  return (
    <section aria-label="Evidence of the crash" className="max-w-2xl">
      <h2 className="border-b border-ink pb-1 text-[18px]">
        Run {run.number} <span className="text-stop">crashed</span>: evidence first
      </h2>
      <p className="mt-2">In this order. What is moved, straightened or plugged in again tells nothing any more.</p>
      <ol className="mt-2">
        {EVIDENCE_STEPS.map((step, i) => {
          const done = crash.steps[step];
          const shut = !done && step !== first;
          return (
            <li
              key={step}
              data-step={step}
              className={`border-b border-hair py-1 ${shut ? "text-pencil" : "text-ink"}`}
            >
              <label className="flex min-h-11 items-center gap-3">
                <input
                  type="checkbox"
                  className="h-6 w-6 shrink-0"
                  checked={done}
                  disabled={shut || save.isPending}
                  onChange={() => save.mutate({ crash: { ...crash, notes, steps: { ...crash.steps, [step]: !done } } })}
                />
                <span>
                  <b className="num mr-1">{i + 1}</b> <b>{EVIDENCE_TEXT[step].title}</b>
                  <span className="block text-[12px]">{EVIDENCE_TEXT[step].how}</span>
                </span>
              </label>
              {step === "photographs" && !shut && (
                <div className="pl-9">
                  <Pictures files={run.files} onChange={(files) => save.mutate({ files })} />
                </div>
              )}
              {step === "suspects" && !shut && (
                <p className="pl-9">
                  {faults.map((f) => (
                    <button
                      key={f.number}
                      type="button"
                      className="link block"
                      onClick={() => go({ station: "faults", search: { fault: String(f.number) } })}
                    >
                      {faultName(f.number)} {f.title}, {f.suspects.length}{" "}
                      {f.suspects.length === 1 ? "suspect" : "suspects"}
                    </button>
                  ))}
                  <button
                    type="button"
                    className="act"
                    onClick={() => go({ station: "faults", search: { new: String(run.number) } })}
                  >
                    Record what was seen, and its suspects
                  </button>
                </p>
              )}
            </li>
          );
        })}
      </ol>
      <label className="mt-3 block">
        What was seen, heard and smelt; who stood where
        <textarea
          className="box"
          rows={3}
          maxLength={8000}
          value={notes}
          onChange={(e) => setNotes(e.target.value)}
          onBlur={() => notes !== crash.notes && save.mutate({ crash: { ...crash, notes } })}
        />
      </label>
      <p
        className={`mt-2 ${tested && !first ? "text-clear" : "text-stop"}`}
        data-rearm={tested && !first ? "yes" : "no"}
      >
        {first
          ? "Not to be armed again before this is done."
          : tested
            ? "A suspect has been tested or the fault has come to an end: it may be armed again, held and " +
              "clear of people."
            : "Not to be armed again before one suspect has been tested, and not near people while it is unexplained."}
      </p>
      <p className="mt-3">
        <button type="button" className="act" onClick={onDone}>
          To the run
        </button>
      </p>
    </section>
  );
}
