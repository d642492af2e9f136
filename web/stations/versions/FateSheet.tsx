import { useMemo, useState } from "react";
import type { Fate } from "../../../core/design/craftFile";
import { baselineOf } from "../../../core/lineage/baseline";
import type { Reusable } from "../../../core/lineage/spend";
import { type Spend, forkOf, reusableParts, spendOfBranch } from "../../../core/lineage/spend";
import type { Status } from "../../../core/lineage/status";
import { statusOf } from "../../../core/lineage/status";
import { plain } from "../../../core/wording/format";
import { statusText } from "../../../core/wording/report";
import { localIso } from "../../app/dates";
import { useDesk } from "../../app/desk";
import { useHalfText } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { useVersionWords } from "../../app/useVersionWords";
import { ClipboardSheet, printSheet } from "../bench/ClipboardSheet";

const CHOICES: { state: Fate["state"]; name: string; means: string }[] = [
  { state: "going", name: "Go on", means: "The next run is planned, and what would end it is written down." },
  { state: "paused", name: "Pause", means: "Nothing is taken apart; what has to happen first is written down." },
  { state: "salvaged", name: "Salvage", means: "Its parts go back to the shelf or into another branch." },
  { state: "stopped", name: "Stop", means: "It ends here; what it taught is kept." },
];
const hours = (h: number) => `${h.toFixed(1)} h`;

/**
 * Project status: what this branch has taken, what still stands against it, and what can be used
 * again.
 */
export function FateSheet() {
  const { slug, file, version, seen: design, evaluation } = useDesk();
  const words = useVersionWords();
  const { fate } = version;
  const [why, setWhy, whySaid] = useHalfText(slug, version.label, "fate why", fate.why);
  const [exit, setExit, exitSaid] = useHalfText(slug, version.label, "fate exit", fate.exit);
  const [missing, setMissing] = useState(false);
  const own = useMemo(() => ({ ...version, design }), [version, design]);
  const { branch, whole } = useMemo(() => spendOfBranch(file, version.label), [file, version.label]);
  const parts = useMemo(() => reusableParts(file, own), [file, own]);
  const status = useMemo(() => statusOf(file, own, evaluation.findings), [file, own, evaluation.findings]);
  const save = (next: Partial<Fate>) =>
    words.mutate(
      { fate: { ...fate, why: why.trim(), exit: exit.trim(), ...next } },
      {
        onSuccess: () => {
          whySaid();
          exitSaid();
        },
      },
    );
  const choose = (state: Fate["state"]) => {
    setMissing(state !== "going" && why.trim() === "");
    if (state === "going" || why.trim() !== "") save({ state, at: localIso(new Date()) });
  };
  const good = parts.filter((p) => p.whole);
  return (
    <section aria-label="Project status" className="px-4 py-3">
      <h2 className="border-b border-ink pb-1 text-[18px]">
        {version.label}: stop, salvage, pause or go on?{" "}
        <button type="button" className="link no-print text-[12px] font-normal" onClick={printSheet}>
          print
        </button>
      </h2>
      <TakenAndLeft branch={branch} whole={whole} status={status} good={good} parts={parts} fate={fate} save={save} />
      <h3 className="mt-4">Set before the tests: when is this branch given up?</h3>
      <textarea
        className="box max-w-2xl"
        rows={2}
        maxLength={300}
        aria-label="When it is given up"
        placeholder="such as: not level at 17 m/s after three more CG steps, or 10 more hours"
        value={exit}
        onChange={(e) => setExit(e.target.value)}
        onBlur={() => exit.trim() !== fate.exit && save({})}
      />
      <label className="mt-3 block max-w-2xl">
        Why
        <textarea
          className="box"
          rows={2}
          maxLength={500}
          aria-label="Why this decision"
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          aria-invalid={missing}
        />
      </label>
      {missing && (
        <p role="alert" className="text-stop">
          Say why first: in a year it is all that is left of it.
        </p>
      )}
      <div
        className="no-print mt-2 grid max-w-3xl grid-cols-4 gap-2 max-[640px]:grid-cols-2"
        role="group"
        aria-label="Decision"
      >
        {CHOICES.map((c) => (
          <button
            key={c.state}
            type="button"
            aria-pressed={fate.state === c.state}
            className={
              "border px-2 py-2 text-left " +
              `${fate.state === c.state ? "border-2 border-accent bg-tint-accent" : "border-pencil"}`
            }
            onClick={() => choose(c.state)}
          >
            <b className="text-ink">{c.name}</b>
            <span className="block text-[11px] leading-[14px]">{c.means}</span>
          </button>
        ))}
      </div>
      {fate.at && (
        <p className="mt-2 text-pencil" data-fate={fate.state}>
          Decided {fate.at.slice(0, 10)}: {CHOICES.find((c) => c.state === fate.state)?.name.toLowerCase()}.
        </p>
      )}
      <ClipboardSheet
        title="stop, salvage, pause or go on"
        columns={["for", "against"]}
        rows={CHOICES.map((c) => c.name)}
        checks={good.map((p) => p.item.name)}
      />
    </section>
  );
}

/** What it has taken, and what can be used again. */
function TakenAndLeft({
  branch,
  whole,
  status,
  good,
  parts,
  fate,
  save,
}: {
  branch: Spend;
  whole: Spend;
  status: Status;
  good: Reusable[];
  parts: Reusable[];
  fate: Fate;
  save: (next: Partial<Fate>) => void;
}) {
  const { file, version, evaluation } = useDesk();
  const { habit } = usePreferences();
  const fork = forkOf(file.versions, version.label);
  const baseline = baselineOf(file, version.label);
  const line = (name: string, of: (s: Spend) => string) => (
    <tr>
      <td>{name}</td>
      <td className="num text-right">{of(branch)}</td>
      <td className="num text-right">{of(whole)}</td>
    </tr>
  );
  return (
    <div className="mt-3 grid grid-cols-2 gap-6 max-[900px]:grid-cols-[minmax(0,1fr)]">
      <div>
        <h3>What it has taken</h3>
        <table className="rows w-full" aria-label="What it has taken">
          <thead>
            <tr>
              <th />
              <th className="text-right!">{fork ? `since it left ${fork}` : "this line"}</th>
              <th className="text-right!">in all</th>
            </tr>
          </thead>
          <tbody>
            {line("Building, new and changed parts", (s) => hours(s.building))}
            {line("Finding and mending faults", (s) => hours(s.mending))}
            {line(
              "Running",
              (s) =>
                `${hours(s.running)}${s.untimed ? `, ${s.untimed} ${s.untimed === 1 ? "run" : "runs"} not timed` : ""}`,
            )}
            {line("Money", (s) => plain(s.money, "money", habit))}
          </tbody>
        </table>
        <p className="mt-1 text-[12px] text-pencil">What was spent is spent: it says nothing for going on.</p>
        <h3 className="mt-3">What stands against it</h3>
        {status.reasons.length === 0 ? (
          <p>Nothing on record.</p>
        ) : (
          <ul className="list-[square] pl-4">
            {status.reasons.slice(0, 9).map((r) => (
              <li key={JSON.stringify(r)}>{statusText(r, file, evaluation, habit)}</li>
            ))}
          </ul>
        )}
        {baseline && baseline.label !== version.label && (
          <p className="mt-2">The last that worked is {baseline.label}: branching from it is the cheapest way back.</p>
        )}
      </div>
      <div>
        <h3>What can be used again</h3>
        <p>
          {good.length} of {parts.length} parts are whole:{" "}
          {plain(
            good.reduce((s, p) => s + p.money, 0),
            "money",
            habit,
          )}{" "}
          and {hours(good.reduce((s, p) => s + p.minutes, 0) / 60)} of making.
        </p>
        <ul className="mt-1 max-h-64 overflow-y-auto" aria-label="Reusable parts">
          {parts.map((p) => (
            <li key={p.item.id} className="border-b border-hair">
              <label className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  disabled={!p.whole}
                  checked={fate.reused.includes(p.item.id)}
                  onChange={(e) =>
                    save({
                      reused: e.target.checked
                        ? [...fate.reused, p.item.id]
                        : fate.reused.filter((x) => x !== p.item.id),
                    })
                  }
                />
                <span className={`flex-1 ${p.whole ? "text-ink" : "text-pencil line-through"}`}>{p.item.name}</span>
                <span className="num">{p.money > 0 ? plain(p.money, "money", habit) : ""}</span>
              </label>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
