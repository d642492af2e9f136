import { useMemo, useState } from "react";
import { CONTROL, SETTING_KINDS, type Setting, controlSchema } from "../../../core/design/schema";
import { type TuneState, repaid, tuneStates } from "../../../core/lineage/tune";
import { useDesk } from "../../app/desk";
import { useVersionWords } from "../../app/useVersionWords";
import { TextField } from "../../fields/TextField";

const TRIED: Record<TuneState["tried"], { word: string; colour: string }> = {
  both: { word: "tried calm and rough", colour: "text-clear" },
  "calm only": { word: "calm only: gusts hide nothing yet", colour: "text-care" },
  "rough only": { word: "rough only: rough hides over-tuning", colour: "text-care" },
  no: { word: "not tried on this version", colour: "text-pencil" },
  bad: { word: "a trial went badly", colour: "text-stop" },
};

const freshId = (taken: readonly { id: string }[]): string => {
  for (let n = taken.length + 1; ; n++) if (!taken.some((s) => s.id === `set${n}`)) return `set${n}`;
};

/**
 * What is set rather than built: gains, throws, rates, modes, trims, channels and signals, compared with the parent;
 * stale tunes, and limits that hide a fault.
 */
const CONTROL_WORD: Record<keyof typeof CONTROL, string> = {
  disarm: "The drives are disarmed",
  landing: "That it has landed is known",
  linkLost: "When the link is lost",
};

export function SetupSheet() {
  const { file, version, design, edit } = useDesk();
  const words = useVersionWords();
  const own = useMemo(() => ({ ...version, design }), [version, design]);
  const states = useMemo(() => tuneStates(file, own), [file, own]);
  const paid = useMemo(() => repaid(file, own), [file, own]);
  const [group, setGroup] = useState("");
  const groups = [...new Set(states.map((s) => s.setting.group))];
  const runs = file.runs.filter((r) => r.version === version.label && r.stage >= 3);
  const add = (of: string) =>
    edit((d) => {
      d.setup.push({ id: freshId(d.setup), group: of, name: "New setting", value: "", kind: "gain", hides: "" });
    });
  return (
    <section aria-label="Set-up" className="px-4 py-3">
      <h2 className="border-b border-ink pb-1 text-[18px]">Set-up of {version.label}</h2>
      {version.frozenAt !== null && (
        <p className="mt-1">{version.label} is frozen with this set-up: another value opens a child draft.</p>
      )}
      <div className="mt-2 flex flex-wrap gap-3" role="group" aria-label="Starting and stopping">
        {(Object.keys(CONTROL) as (keyof typeof CONTROL)[]).map((key) => (
          <label key={key} className="w-52">
            {CONTROL_WORD[key]}
            <select
              className="box"
              value={design.control[key]}
              onChange={(e) => {
                const read = controlSchema.shape[key].safeParse(e.target.value);
                if (read.success) edit((d) => void Object.assign(d.control, { [key]: read.data }));
              }}
            >
              {CONTROL[key].map((o) => (
                <option key={o}>{o}</option>
              ))}
            </select>
          </label>
        ))}
      </div>
      {groups.length === 0 && (
        <p className="mt-2">
          Nothing is set yet. Begin with the fail-safe: what do the drives do when the link is lost?
        </p>
      )}
      {groups.map((g) => {
        const list = states.filter((s) => s.setting.group === g);
        const stale = [...new Set(list.flatMap((s) => s.stale))];
        const tried = list[0]?.tried ?? "no";
        return (
          <section key={g} aria-label={g || "Set-up"} data-group={g} className="mt-3">
            <div className="flex flex-wrap items-baseline gap-3">
              <h3>{g || "of the craft"}</h3>
              <span className={`text-[12px] ${TRIED[tried].colour}`}>{TRIED[tried].word}</span>
              {stale.length > 0 && (
                <b className="text-[12px] text-care" data-stale={g}>
                  stale: {stale.join(", ")} changed since
                </b>
              )}
            </div>
            <div className="wide">
              <table className="rows w-full table-fixed">
                <thead>
                  <tr>
                    <th className="w-24">kind</th>
                    <th className="w-[17%]">setting</th>
                    <th>{version.parent ?? "before"}</th>
                    <th>{version.label}</th>
                    <th className="w-12">since</th>
                    <th>rests on what changed</th>
                    <th>hides the fault</th>
                    <th className="w-6" />
                  </tr>
                </thead>
                <tbody>
                  {list.map((t) => (
                    <SettingRow key={t.setting.id} t={t} />
                  ))}
                </tbody>
              </table>
            </div>
            <p className="mt-1 flex flex-wrap items-center gap-3 text-[12px]">
              <button type="button" className="link" onClick={() => add(g)}>
                add a setting
              </button>
              {version.trials
                .filter((t) => t.group === g)
                .map((t) => (
                  <span key={`${t.run}${t.air}`} className={t.good ? "text-clear" : "text-stop"}>
                    run {t.run}, {t.air}: {t.good ? "good" : "not good"}
                    <button
                      type="button"
                      className="link ml-1"
                      aria-label={`Take back the trial of run ${t.run}`}
                      onClick={() => words.mutate({ trials: version.trials.filter((x) => x !== t) })}
                    >
                      ×
                    </button>
                  </span>
                ))}
              {runs.length > 0 && (
                <TrialForm
                  runs={runs.map((r) => r.number)}
                  onAdd={(run, air, good) =>
                    words.mutate({
                      trials: [
                        ...version.trials.filter((t) => !(t.group === g && t.run === run && t.air === air)),
                        { group: g, run, air, good, note: "" },
                      ],
                    })
                  }
                />
              )}
            </p>
          </section>
        );
      })}
      {paid.length > 0 && (
        <p className="mt-3 text-clear" data-repaid={paid.length}>
          Repaid in {version.label}: {paid.map((s) => `${s.name}, which hid “${s.hides}”`).join("; ")}.
        </p>
      )}
      <AddDevice group={group} setGroup={setGroup} add={add} />
      <p className="mt-3 max-w-2xl text-[12px] text-pencil">
        A tune holds for the frame, propeller, pack, CG, signalling and medium that it was made with. Rough water and
        gusts hide over-tuning, calm hides weakness: it counts when it was tried in both. A limit or a cut gain that
        only hides a fault is a debt until the cause is gone.
      </p>
    </section>
  );
}

/** A device to write settings of. */
function AddDevice({
  group,
  setGroup,
  add,
}: {
  group: string;
  setGroup: (next: string) => void;
  add: (of: string) => string | null;
}) {
  return (
    <p className="mt-4 flex gap-2">
      <input
        className="box w-56!"
        aria-label="New group"
        placeholder="controller, radio, surface"
        maxLength={60}
        value={group}
        onChange={(e) => setGroup(e.target.value)}
      />
      <button
        type="button"
        className="act"
        disabled={group.trim() === ""}
        onClick={() => {
          add(group.trim());
          setGroup("");
        }}
      >
        Add to this group
      </button>
    </p>
  );
}

/** One setting: now, before, and why. */
function SettingRow({ t }: { t: TuneState }) {
  const { edit, version } = useDesk();
  const change = (id: string, next: Partial<Setting>) =>
    edit((d) => {
      d.setup = d.setup.map((s) => (s.id === id ? { ...s, ...next } : s));
    });
  return (
    <tr data-setting={t.setting.id} className={t.setting.hides ? "bg-tint-care" : ""}>
      <td>
        <select
          className="cell"
          aria-label={`${t.setting.name}, kind`}
          value={t.setting.kind}
          onChange={(e) => change(t.setting.id, { kind: e.target.value as Setting["kind"] })}
        >
          {SETTING_KINDS.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </td>
      <td>
        <TextField
          required
          label={`${t.setting.name}, name`}
          value={t.setting.name}
          onCommit={(name) => change(t.setting.id, { name: name.trim() })}
        />
      </td>
      <td className="num predicted">{version.parent === null ? "" : (t.before ?? "none")}</td>
      <td className={t.before !== null && t.before !== t.setting.value ? "font-semibold text-accent" : "text-ink"}>
        <TextField
          label={`${t.setting.name}, value`}
          value={t.setting.value}
          onCommit={(value) => change(t.setting.id, { value: value.trim() })}
        />
      </td>
      <td className="num">{t.since}</td>
      <td className={t.stale.length > 0 ? "text-care" : "text-pencil"}>
        {t.stale.length > 0 ? t.stale.join(", ") : "–"}
      </td>
      <td>
        <TextField
          label={`${t.setting.name}, hides`}
          value={t.setting.hides}
          placeholder="nothing"
          onCommit={(hides) => change(t.setting.id, { hides: hides.trim() })}
        />
      </td>
      <td>
        <button
          type="button"
          className="link"
          aria-label={`Remove ${t.setting.name}`}
          onClick={() =>
            edit((d) => {
              d.setup = d.setup.filter((s) => s.id !== t.setting.id);
            })
          }
        >
          ×
        </button>
      </td>
    </tr>
  );
}

function TrialForm({
  runs,
  onAdd,
}: {
  runs: number[];
  onAdd: (run: number, air: "calm" | "rough", good: boolean) => void;
}) {
  const [run, setRun] = useState(runs.at(-1) ?? 0);
  const [air, setAir] = useState<"calm" | "rough">("calm");
  return (
    <span className="flex items-center gap-1">
      tried in
      <select
        className="box w-auto!"
        aria-label="Trial, run"
        value={run}
        onChange={(e) => setRun(Number(e.target.value))}
      >
        {runs.map((r) => (
          <option key={r} value={r}>
            run {r}
          </option>
        ))}
      </select>
      <select
        className="box w-auto!"
        aria-label="Trial, conditions"
        value={air}
        onChange={(e) => setAir(e.target.value as "calm" | "rough")}
      >
        <option value="calm">calm</option>
        <option value="rough">rough</option>
      </select>
      <button type="button" className="act" onClick={() => onAdd(run, air, true)}>
        Good
      </button>
      <button type="button" className="act" onClick={() => onAdd(run, air, false)}>
        Not good
      </button>
    </span>
  );
}
