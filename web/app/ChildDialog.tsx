import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import type { Claim } from "../../core/design/craftFile";
import type { Design } from "../../core/design/schema";
import { difference } from "../../core/lineage/difference";
import { changeText } from "../../core/wording/changes";
import { Dialog } from "./Dialog";
import { call, sayError } from "./client";
import { useDesk } from "./desk";
import { useHalfText } from "./halfWritten";
import { usePreferences } from "./preferences";

interface Asked {
  parent: string;
  design: Design;
  question: string;
  reason: string;
  claims: Claim[];
}

/** Opens a child version and goes there. */
export function useOpenChild() {
  const { slug, go, refresh, setPending } = useDesk();
  return useMutation({
    mutationFn: (body: Asked) => call(contracts.createVersion, { params: { slug }, body }),
    onSuccess: async ({ label }) => {
      setPending(null);
      await refresh();
      go({ label });
    },
    onError: (error) => toast.error(sayError(error)),
  });
}

export function ChildForm({ parent, design, onCancel }: { parent: string; design: Design; onCancel: () => void }) {
  const open = useOpenChild();
  const { slug } = useDesk();
  const [question, setQuestion, asked] = useHalfText(slug, parent, "child question");
  const [reason, setReason, said] = useHalfText(slug, parent, "child reason");
  const [claim, setClaim] = useState<Claim>({ metric: "", direction: "down", amount: "", change: "" });
  const [missing, setMissing] = useState(false);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (reason.trim() === "") {
      setMissing(true);
      return;
    }
    open.mutate(
      {
        parent,
        design,
        question: question.trim(),
        reason: reason.trim(),
        claims: claim.metric.trim() === "" ? [] : [claim],
      },
      {
        onSuccess: () => {
          asked();
          said();
        },
      },
    );
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <label>
        Why is it changed?
        <textarea
          className="box"
          rows={2}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          aria-invalid={missing && reason.trim() === ""}
        />
        {missing && reason.trim() === "" && (
          <span role="alert" className="text-[11px] text-stop">
            A reason is needed: one sentence will do.
          </span>
        )}
      </label>
      <label>
        What is it to find out? <span className="text-pencil">(may wait)</span>
        <input className="box" maxLength={200} value={question} onChange={(e) => setQuestion(e.target.value)} />
      </label>
      <fieldset>
        <legend>Expected effect</legend>
        <span className="grid grid-cols-[1fr_90px_1fr] gap-2">
          <input
            className="box"
            aria-label="What should change"
            placeholder="such as lift-off speed"
            value={claim.metric}
            maxLength={60}
            onChange={(e) => setClaim({ ...claim, metric: e.target.value })}
          />
          <select
            className="box"
            aria-label="Direction"
            value={claim.direction}
            onChange={(e) => setClaim({ ...claim, direction: e.target.value as Claim["direction"] })}
          >
            <option value="down">down</option>
            <option value="up">up</option>
            <option value="same">the same</option>
          </select>
          <input
            className="box"
            aria-label="By how much"
            placeholder="such as by 0.5 m/s"
            value={claim.amount}
            maxLength={120}
            onChange={(e) => setClaim({ ...claim, amount: e.target.value })}
          />
        </span>
      </fieldset>
      <p className="flex justify-end gap-2">
        <button type="button" className="act" onClick={onCancel}>
          Cancel
        </button>
        <button type="submit" className="act act-first" disabled={open.isPending}>
          Open the draft
        </button>
      </p>
    </form>
  );
}

/** A change of a frozen version waits here until its child draft is opened, or is dropped. */
export function ChildDialog() {
  const { pending, setPending, version } = useDesk();
  const { habit } = usePreferences();
  const changes = pending ? difference(version.design, pending) : [];
  return (
    <Dialog
      open={pending !== null}
      title={`${version.label} is frozen: open a child draft`}
      onClose={() => setPending(null)}
    >
      <p className="mb-2">
        {version.label} has runs, so its design stays as it was tested. The change goes into a new draft:
      </p>
      <ul className="mb-3 border-y border-hair py-1 text-ink">
        {changes.slice(0, 6).map((c) => (
          <li key={c.path.join("/")}>{changeText(c, habit)}</li>
        ))}
        {changes.length > 6 && <li>and {changes.length - 6} more</li>}
      </ul>
      {pending && <ChildForm parent={version.label} design={pending} onCancel={() => setPending(null)} />}
    </Dialog>
  );
}
