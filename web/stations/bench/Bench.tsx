import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { toast } from "sonner";
import { type Contract, contracts } from "../../../api/contracts";
import { type Bench, WEIGH_IN_KINDS, type WeighInKind } from "../../../core/design/bench";
import { type MassEvidence, changedSince } from "../../../core/mass/evidence";
import { KIND_TELLS, KIND_WORD } from "../../../core/wording/bench";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { Result } from "./Result";
import { WeighInForm } from "./WeighInForm";
import { draftOf, finish, newDraft } from "./weighInDraft";

const code = (n: number) => `B-${String(n).padStart(2, "0")}`;

/** One session, new or kept: form, result, and what may be taken over. */
function Session({ session, kind, onOpen }: { session: Bench | null; kind: WeighInKind; onOpen: (number: number | null) => void }) {
  const { slug, version, revisions, evaluation, refresh, flush } = useDesk();
  const [draft, setDraft] = useState(() => (session ? draftOf(session.weighIn, evaluation.box) : newDraft(kind, evaluation.box)));
  const [notes, setNotes] = useState(session?.notes ?? "");
  const [touched, setTouched] = useState(false);
  const [asked, setAsked] = useState(false);
  const done = finish(draft);
  const after = async (said: string) => {
    await refresh();
    toast.success(said);
  };
  const onError = (error: unknown) => toast.error(sayError(error));
  const keep = useMutation({
    mutationFn: async () => {
      if (!done.ok) throw new Error(`Not kept: ${done.why}.`);
      await flush();
      const body = { date: session?.date ?? new Date().toISOString(), weighIn: done.weighIn, notes };
      if (session) {
        await call(contracts.saveBench, { params: { slug, number: session.number }, body: { revision: revisions.bench[session.number] ?? 0, session: body } });
        return session.number;
      }
      return (await call(contracts.createBench, { params: { slug, label: version.label }, body })).number;
    },
    onSuccess: async (number) => {
      setTouched(false);
      await after(`${code(number)} kept.`);
      onOpen(number);
    },
    onError,
  });
  const adopt = useMutation({
    mutationFn: async ({ evidence, said }: { evidence: MassEvidence; said: string }) => {
      if (!session) throw new Error("Keep the session first.");
      await flush();
      // The revision may have moved with the flush: ask for it as it is now.
      const { revisions: now } = await call(contracts.getCraft satisfies Contract, { params: { slug } });
      await call(contracts.adopt, { params: { slug, number: session.number }, body: { revision: now.versions[version.label] ?? 0, evidence, said } });
      return said;
    },
    onSuccess: (said) => after(`Taken into the ledger: ${said}.`),
    onError,
  });
  const remove = useMutation({
    mutationFn: () => call(contracts.deleteBench, { params: { slug, number: session?.number ?? 0 } }),
    onSuccess: async () => {
      await after("Session deleted.");
      onOpen(null);
    },
    onError,
  });
  const form = (
    <>
      <WeighInForm
        draft={draft}
        onChange={(change) => {
          setTouched(true);
          setDraft((d) => {
            const next = structuredClone(d);
            change(next);
            return next;
          });
        }}
      />
      <label className="mt-3 block">
        Notes
        <textarea
          className="box"
          rows={2}
          value={notes}
          onChange={(e) => {
            setNotes(e.target.value);
            setTouched(true);
          }}
        />
      </label>
      <p className="no-print mt-2 flex flex-wrap items-center gap-3">
        {(!session || touched) && (
          <button type="button" className="act act-first" disabled={keep.isPending} onClick={() => (done.ok ? keep.mutate() : setAsked(true))}>
            {session ? `Save ${code(session.number)}` : "Keep this session"}
          </button>
        )}
        {session && (
          <button
            type="button"
            className="link text-[12px]"
            onClick={() => window.confirm(`Delete ${code(session.number)}? What was taken over stays in the ledger.`) && remove.mutate()}
          >
            delete it
          </button>
        )}
        {!done.ok && asked && (
          <span role="alert" className="text-stop">
            Not complete: {done.why}.
          </span>
        )}
      </p>
    </>
  );
  const result = done.ok && (
    <Result weighed={done.weighIn} session={touched ? null : session} busy={adopt.isPending} onAdopt={(evidence, said) => adopt.mutate({ evidence, said })} />
  );
  // A kept session opens on what it says; a new one on what to do.
  return session ? (
    <>
      {result}
      <section aria-label="Readings" className="mt-5 border-t border-hair pt-3">
        <h2 className="mb-2">Set-up and readings</h2>
        {form}
      </section>
    </>
  ) : (
    <>
      {form}
      {result && <div className="mt-4 border-t border-ink pt-3">{result}</div>}
    </>
  );
}

/** Bench: guided weigh-ins of this version, reconciled with its ledger. */
export function BenchStation() {
  const { file, version, design } = useDesk();
  const [search, setSearch] = useSearchParams();
  const sessions = file.bench.filter((b) => b.version === version.label);
  const open = sessions.find((b) => b.number === Number(search.get("session"))) ?? null;
  const kind = WEIGH_IN_KINDS.find((k) => k === search.get("new")) ?? (open ? null : sessions.length === 0 ? "total" : null);
  const shown = open ?? (kind === null ? (sessions.at(-1) ?? null) : null);
  const heading = shown ? `${code(shown.number)} ${KIND_WORD[shown.weighIn.kind]}` : kind ? KIND_WORD[kind] : "";
  if (design.items.length === 0)
    return (
      <section className="p-6">
        <h2 className="text-[18px]">Nothing to weigh yet</h2>
        <p className="mt-2">Enter the parts in Layout first: a weigh-in is held against the ledger.</p>
      </section>
    );
  return (
    <div className="flex min-h-full max-[640px]:flex-col">
      <aside className="no-print w-[184px] shrink-0 border-r border-hair px-4 py-4 max-[640px]:w-full max-[640px]:border-b max-[640px]:border-r-0">
        <h2>Weigh in</h2>
        <ul className="mt-1 max-[640px]:flex max-[640px]:overflow-x-auto max-[640px]:whitespace-nowrap max-[640px]:[&>li]:pr-4">
          {WEIGH_IN_KINDS.map((k) => (
            <li key={k}>
              <button
                type="button"
                aria-current={!shown && kind === k ? "true" : undefined}
                className={`block min-h-8 w-full py-1 text-left ${!shown && kind === k ? "font-semibold text-accent" : "text-ink"}`}
                onClick={() => setSearch({ new: k })}
              >
                {KIND_WORD[k]}
                <span className="block text-[11px] font-normal text-pencil">tells {KIND_TELLS[k]}</span>
              </button>
            </li>
          ))}
        </ul>
        <h2 className="mt-4">Sessions of {version.label}</h2>
        {sessions.length === 0 && <p className="text-[12px] text-pencil">none yet</p>}
        <ul className="max-[640px]:max-h-32 max-[640px]:overflow-y-auto">
          {sessions.toReversed().map((b) => (
            <li key={b.number} className="border-b border-hair">
              <button
                type="button"
                aria-current={b === shown ? "true" : undefined}
                className={`block min-h-8 w-full py-1 text-left text-[12px] ${b === shown ? "text-accent" : "text-ink"}`}
                onClick={() => setSearch({ session: String(b.number) })}
              >
                <b className="num">{code(b.number)}</b> {KIND_WORD[b.weighIn.kind]}
                <span className="block text-[11px] text-pencil">
                  {b.date.slice(0, 10)}
                  {changedSince(b.tested, design).length > 0 ? ", stale" : b.adopted ? ", taken over" : ""}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <p className="mt-4 text-[11px] text-pencil">Planned here: thrust stand with sweeps, instruments and their calibration.</p>
      </aside>
      <div className="min-w-0 flex-1 px-4 py-4">
        <h2 className="mb-3 border-b border-ink pb-2 text-[18px]">
          {heading}
          {shown && <span className="ml-3 text-[13px] font-normal text-pencil">{shown.date.slice(0, 16).replace("T", ", ")}</span>}
        </h2>
        {shown ? (
          <Session key={`s${shown.number}`} session={shown} kind={shown.weighIn.kind} onOpen={(n) => setSearch(n === null ? {} : { session: String(n) })} />
        ) : (
          kind && <Session key={`n${kind}`} session={null} kind={kind} onOpen={(n) => setSearch(n === null ? {} : { session: String(n) })} />
        )}
      </div>
    </div>
  );
}
