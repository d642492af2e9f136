import { moneySign } from "../../../core/design/money";
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { type SymptomRecord, contracts } from "../../../api/contracts";
import { RISKS } from "../../../core/design/risk";
import { type OwnSymptom, symptomSchema } from "../../../core/design/symptom";
import { GROUPS } from "../../../core/faults/catalogue";
import { symptomsLike } from "../../../core/faults/find";
import type { Cause } from "../../../core/faults/symptoms/kinds";
import { call, sayError } from "../../app/client";
import { HalfLine } from "../../app/HalfLine";
import { useHalfState } from "../../app/halfWritten";
import { saveAgainst } from "../../app/saveAgainst";
import { useDelete } from "../../app/useDelete";
import { testCost } from "./SuspectCards";
import { useCatalogue, useOwnSymptoms } from "./useCatalogue";

/** What the choice shows until somebody says what the test puts at risk: nothing is taken for granted. */
const NOT_STATED = "" as OwnSymptom["causes"][number]["risk"];
const blankCause = (n: number): OwnSymptom["causes"][number] => ({
  id: `c${n}`,
  text: "",
  test: "",
  minutes: 10,
  cost: 0,
  risk: NOT_STATED,
  fix: "",
});
const blank = (): OwnSymptom => ({
  id: `own-${Date.now().toString(36)}`,
  text: "",
  group: "air",
  causes: [blankCause(1)],
});

/** What the form of an entry is called among what is half-written. */
const entryFormName = (id: string | undefined) => `catalogue ${id ?? "new"}`;

/** One entry of one's own: the same record as those that ship. */
function EntryForm({ held, onDone }: { held: SymptomRecord | null; onDone: () => void }) {
  const queries = useQueryClient();
  const remove = useDelete();
  // As it was opened: what is saved elsewhere meanwhile must not pass for it.
  const [opened, setOpened] = useState(held);
  const {
    value: entry,
    set: setEntry,
    half,
    anew,
  } = useHalfState<OwnSymptom>("", "", entryFormName(held?.symptom.id), held?.symptom ?? blank());
  const done = () => {
    half.done();
    onDone();
  };
  const [wrong, setWrong] = useState<{ path: string; text: string } | null>(null);
  const at = (path: string) =>
    wrong?.path === path && (
      <span role="alert" className="block text-[11px] text-stop">
        {wrong.text}
      </span>
    );
  return (
    <section aria-label="Catalogue entry" className="border border-ink bg-sheet p-3">
      <HalfLine left={half.left} onThrow={anew} />
      <div className="grid grid-cols-[1fr_180px] gap-2 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <label>
          What is seen, heard or felt
          <input
            className="box"
            aria-label="Symptom in words"
            maxLength={160}
            value={entry.text}
            onChange={(e) => setEntry({ ...entry, text: e.target.value })}
          />
          {at("text")}
        </label>
        <label>
          Where it belongs
          <select
            className="box"
            value={entry.group}
            onChange={(e) => setEntry({ ...entry, group: e.target.value as OwnSymptom["group"] })}
          >
            {GROUPS.map((g) => (
              <option key={g}>{g}</option>
            ))}
          </select>
        </label>
      </div>
      <p className="mt-2 text-pencil">Likely causes, likeliest first</p>
      <ol>
        {entry.causes.map((c, i) => (
          <CauseFields key={c.id} setEntry={setEntry} entry={entry} c={c} i={i} at={at} />
        ))}
      </ol>
      <EntryButtons
        entry={entry}
        setWrong={setWrong}
        opened={opened}
        setOpened={setOpened}
        setEntry={setEntry}
        queries={queries}
        onDone={done}
        held={held}
        remove={remove}
      />
    </section>
  );
}

/** Keep the entry, take it away, leave it. */
function EntryButtons({
  entry,
  setWrong,
  opened,
  setOpened,
  setEntry,
  queries,
  onDone,
  held,
  remove,
}: {
  entry: OwnSymptom;
  setWrong: (next: { path: string; text: string } | null) => void;
  opened: SymptomRecord | null;
  setOpened: (next: { revision: number; symptom: OwnSymptom } | null) => void;
  setEntry: (next: OwnSymptom) => void;
  queries: QueryClient;
  onDone: () => void;
  held: SymptomRecord | null;
  remove: (question: string, done: string, remove: () => Promise<{ trash: number }>) => Promise<boolean>;
}) {
  const save = async () => {
    const checked = symptomSchema.safeParse(entry);
    if (!checked.success) {
      const issue = checked.error.issues[0];
      setWrong({ path: issue?.path.join(".") ?? "", text: issue?.message ?? "not valid" });
      return;
    }
    try {
      const { id } = entry;
      if (!opened)
        await call(contracts.saveSymptom, { params: { id }, body: { revision: null, symptom: checked.data } });
      else {
        const saved = await saveAgainst<OwnSymptom>({
          what: `“${opened.symptom.text}”`,
          revision: opened.revision,
          mine: checked.data,
          read: (current) => {
            const there = current as { revision: number; symptom: unknown };
            return { revision: there.revision, value: symptomSchema.parse(there.symptom) };
          },
          send: (revision) =>
            call(contracts.saveSymptom, { params: { id }, body: { revision, symptom: checked.data } }),
        });
        setOpened({ revision: saved.revision, symptom: saved.kept === "theirs" ? saved.value : checked.data });
        if (saved.kept === "theirs") {
          setEntry(saved.value);
          await queries.invalidateQueries({ queryKey: ["symptoms"] });
          return;
        }
      }
      await queries.invalidateQueries({ queryKey: ["symptoms"] });
      onDone();
    } catch (error) {
      toast.error(sayError(error));
    }
  };
  return (
    <p className="mt-2 flex flex-wrap gap-3">
      <button type="button" className="act act-first" onClick={() => void save()}>
        Keep the entry
      </button>
      <button
        type="button"
        className="act"
        onClick={() =>
          setEntry({
            ...entry,
            causes: [...entry.causes, blankCause(Math.max(...entry.causes.map((c) => Number(c.id.slice(1)) || 0)) + 1)],
          })
        }
      >
        Add a cause
      </button>
      <button type="button" className="link" onClick={onDone}>
        leave it
      </button>
      {held && (
        <button
          type="button"
          className="link ml-auto"
          onClick={async () => {
            if (
              await remove("Delete this entry of your own?", "The entry is deleted.", () =>
                call(contracts.deleteSymptom, { params: { id: entry.id } }),
              )
            )
              onDone();
          }}
        >
          delete it
        </button>
      )}
    </p>
  );
}

/** One cause of an entry of one's own. */
function CauseFields({
  setEntry,
  entry,
  c,
  i,
  at,
}: {
  setEntry: (next: OwnSymptom) => void;
  entry: OwnSymptom;
  c: Cause;
  i: number;
  at: (path: string) => false | ReactNode;
}) {
  const cause = (i: number, change: Partial<OwnSymptom["causes"][number]>) =>
    setEntry({ ...entry, causes: entry.causes.map((c, k) => (k === i ? { ...c, ...change } : c)) });
  return (
    <li className="grid grid-cols-[1fr_1fr_1fr] gap-2 border-b border-hair py-1 max-[640px]:grid-cols-[minmax(0,1fr)]">
      <label>
        Cause
        <input
          className="box"
          aria-label={`Cause ${i + 1}`}
          maxLength={200}
          value={c.text}
          onChange={(e) => cause(i, { text: e.target.value })}
        />
        {at(`causes.${i}.text`)}
      </label>
      <label>
        Test to confirm or rule out
        <input
          className="box"
          aria-label={`Cause ${i + 1}, test`}
          maxLength={300}
          value={c.test}
          onChange={(e) => cause(i, { test: e.target.value })}
        />
        {at(`causes.${i}.test`)}
      </label>
      <label>
        Fix
        <input
          className="box"
          aria-label={`Cause ${i + 1}, fix`}
          maxLength={300}
          value={c.fix}
          onChange={(e) => cause(i, { fix: e.target.value })}
        />
      </label>
      <span className="col-span-3 flex flex-wrap items-center gap-2 text-[12px] max-[640px]:col-span-1">
        the test takes
        <input
          className="box num w-16!"
          type="number"
          min={0}
          aria-label={`Cause ${i + 1}, minutes`}
          value={c.minutes}
          onChange={(e) => cause(i, { minutes: Number(e.target.value) })}
        />{" "}
        min,
        <input
          className="box num w-16!"
          type="number"
          min={0}
          aria-label={`Cause ${i + 1}, ${moneySign()}`}
          value={c.cost}
          onChange={(e) => cause(i, { cost: Number(e.target.value) })}
        />{" "}
        {moneySign()}, risks
        <select
          className="box w-auto!"
          aria-label={`Cause ${i + 1}, risks`}
          value={c.risk}
          onChange={(e) => cause(i, { risk: e.target.value as (typeof RISKS)[number] })}
        >
          <option value="">choose</option>
          {RISKS.map((r) => (
            <option key={r} value={r}>
              {r === "none" ? "nothing" : r}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1">
          <input
            type="checkbox"
            aria-label={`Cause ${i + 1}, pack in`}
            checked={c.powered ?? false}
            onChange={(e) => cause(i, { powered: e.target.checked })}
          />
          with the pack in
        </label>
        {at(`causes.${i}.risk`)}
        {entry.causes.length > 1 && (
          <button
            type="button"
            className="link"
            onClick={() => setEntry({ ...entry, causes: entry.causes.filter((_, k) => k !== i) })}
          >
            remove
          </button>
        )}
      </span>
    </li>
  );
}

/** The whole fault catalogue, searched by one's own words and extended by one's own entries. */
export function CatalogueSheet() {
  const catalogue = useCatalogue();
  const { data: own = [] } = useOwnSymptoms();
  const [words, setWords] = useState("");
  const [editing, setEditing] = useState<string | null>(null);
  const found = useMemo(
    () => (words.trim() === "" ? catalogue : symptomsLike(words, 12, catalogue)),
    [words, catalogue],
  );
  return (
    <section aria-label="Fault catalogue">
      <h2 className="border-b border-ink pb-1 text-[18px]">Fault catalogue</h2>
      <p className="mt-2 flex flex-wrap gap-3">
        <input
          className="box max-w-sm"
          aria-label="Search the catalogue"
          placeholder="in your own words: shakes at one speed"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <button type="button" className="act" onClick={() => setEditing("new")}>
          Add an entry of your own
        </button>
        <span className="self-center text-pencil" data-entries={catalogue.length}>
          {catalogue.length} symptoms, {own.length} of your own
        </span>
      </p>
      {editing === "new" && <EntryForm held={null} onDone={() => setEditing(null)} />}
      <ul className="mt-2">
        {found.map((s) => {
          const held = own.find((o) => o.symptom.id === s.id);
          if (held && editing === s.id)
            return (
              <li key={s.id}>
                <EntryForm held={held} onDone={() => setEditing(null)} />
              </li>
            );
          return (
            <li key={s.id} data-symptom={s.id} className="border-b border-hair py-1">
              <details>
                <summary className="min-h-6 cursor-pointer">
                  <b className="text-ink">{s.text}</b> <span className="text-[11px] text-pencil">{s.group}</span>{" "}
                  {held && (
                    <button type="button" className="link text-[11px]" onClick={() => setEditing(s.id)}>
                      your own, change it
                    </button>
                  )}
                </summary>
                <ol className="pl-4">
                  {s.causes.map((c) => (
                    <li
                      key={c.id}
                      className="grid grid-cols-3 gap-3 py-[2px] text-[12px] max-[640px]:grid-cols-[minmax(0,1fr)]"
                    >
                      <b className="text-ink">{c.text}</b>
                      <span>
                        {c.test} <span className="num text-pencil">{testCost(c)}</span>
                      </span>
                      <span>{c.fix}</span>
                    </li>
                  ))}
                </ol>
              </details>
            </li>
          );
        })}
      </ul>
      {found.length === 0 && <p>Nothing in the catalogue sounds like that. Add it: the next time it is found.</p>}
    </section>
  );
}
