import { chance } from "../../../core/subjects/say";
import { type NewPlan, newPlanSchema } from "../../../api/contracts";
import { type Rung, isMetricKey } from "../../../core/design/craftFile";
import { AROUND } from "../../../core/design/hazards";
import { METRICS, isModelled } from "../../../core/design/metrics";
import { lineOf, oddsOf } from "../../../core/runs/ladder";
import { limitsLearnt } from "../../../core/runs/limits";
import { AROUND_WORD } from "../../../core/wording/cautions";
import { plain } from "../../../core/wording/format";
import { gateText } from "../../../core/wording/ladder";
import { Value } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Lines } from "../../fields/Lines";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

/** Words of a day's condition that a limit is held against. */
const LIMITS = [
  ["wind", "Wind", "speed", "wind"],
  ["waves", "Waves, height", "length", "waves"],
  ["current", "Current of the water", "speed", "current"],
  ["coldest", "Air at least", "temperature", "temperature"],
  ["warmest", "Air at most", "temperature", null],
] as const;

/** What the rung and the brief ask, what is predicted of it with its band, and the odds. */
export function PlanPredictions({ rung }: { rung: Rung | undefined }) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  return (
    <table className="rows mt-1 w-full" aria-label="Gates and predictions">
      <thead>
        <tr>
          <th>gate of rung {rung?.stage}</th>
          <th className="text-right!">predicted</th>
          <th className="text-right!">odds to pass</th>
        </tr>
      </thead>
      <tbody>
        {(rung?.gates ?? []).map((g) => {
          const q = isMetricKey(g.metric) ? evaluation.metrics[g.metric] : undefined;
          return (
            <tr key={g.id}>
              <td className="text-ink">{gateText(g, habit)}</td>
              <td className="text-right">
                {q ? (
                  <Value quantity={q} />
                ) : (
                  <span className="text-pencil">{g.metric === "" ? "by eye" : "not predicted"}</span>
                )}
              </td>
              <td className="num text-right">
                {q ? (
                  q.incomplete || q.outside || q.unknown ? (
                    <span title={(q.unknown ?? q.incomplete ?? q.outside)?.[0]}>open</span>
                  ) : (
                    chance(oddsOf(g, q.value, q.sd))
                  )
                ) : (
                  ""
                )}
              </td>
            </tr>
          );
        })}
        {evaluation.targets
          .filter((t) => isModelled(t.target.metric))
          .slice(0, 6)
          .map((t) => {
            const q = evaluation.metrics[t.target.metric];
            return (
              q && (
                <tr key={t.target.id}>
                  <td>
                    {METRICS[t.target.metric].label} <span className="text-[11px] text-pencil">of the brief</span>
                  </td>
                  <td className="text-right">
                    <Value quantity={q} />
                  </td>
                  <td className="num text-right">
                    {t.odds === null ? <span title={t.because ?? undefined}>open</span> : chance(t.odds)}
                  </td>
                </tr>
              )
            );
          })}
      </tbody>
    </table>
  );
}

/** What a person says of a plan: question, rules, people, place, limits, and the day as it turned out. */
export function PlanFields({
  draft,
  closed,
  put,
}: {
  draft: NewPlan;
  closed: boolean;
  put: (change: Partial<NewPlan>) => void;
}) {
  const { file, version } = useDesk();
  const { habit } = usePreferences();
  const learnt = limitsLearnt(file, lineOf(file.versions, version.label));
  return (
    <>
      <PlanBasics closed={closed} draft={draft} put={put} />
      <h3 className="mt-4">Place and limits</h3>
      <fieldset disabled={closed} className="grid grid-cols-2 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <label>
          Place
          <TextField boxed label="Place" value={draft.place} onCommit={(place) => put({ place })} />
        </label>
        <label>
          Surface must be
          <TextField
            boxed
            label="Surface must be"
            value={draft.limits.surface}
            onCommit={(surface) => put({ limits: { ...draft.limits, surface } })}
            placeholder="anything"
          />
        </label>
      </fieldset>
      <fieldset disabled={closed} aria-label="Around the place" className="mt-2 flex flex-wrap items-center gap-x-4">
        <legend className="text-[12px] text-pencil">Around it, or about the run</legend>
        {AROUND.map((thing) => (
          <label key={thing} className="flex min-h-7 items-center gap-2">
            <input
              type="checkbox"
              checked={draft.around.includes(thing)}
              onChange={(e) =>
                put({ around: e.target.checked ? [...draft.around, thing] : draft.around.filter((a) => a !== thing) })
              }
            />
            {AROUND_WORD[thing]}
          </label>
        ))}
        <label className="flex min-h-7 items-center gap-2">
          <input type="checkbox" checked={draft.alone} onChange={(e) => put({ alone: e.target.checked })} />
          done alone
        </label>
      </fieldset>
      {learnt
        .filter(
          (l) =>
            draft.limits[l.which] === null ||
            (l.which === "wind" ? (draft.limits.wind ?? 0) > l.limit : (draft.limits.coldest ?? 0) < l.limit),
        )
        .map((l) => (
          <p key={l.which} className="mt-2 text-care" data-learnt={l.which}>
            {l.which === "wind"
              ? `Above ${plain(l.limit, "speed", habit)} of wind`
              : `Below ${plain(l.limit, "temperature", habit)}`}{" "}
            {l.failed.length} runs failed and none passed (runs {l.failed.join(", ")}).{" "}
            {!closed && (
              <button
                type="button"
                className="link"
                onClick={() => put({ limits: { ...draft.limits, [l.which]: l.limit } })}
              >
                Make that the limit
              </button>
            )}
          </p>
        ))}
      <LimitsTable closed={closed} draft={draft} put={put} />
    </>
  );
}

/** Where, when, with whom, and what for. */
function PlanBasics({
  closed,
  draft,
  put,
}: {
  closed: boolean;
  draft: NewPlan;
  put: (change: Partial<NewPlan>) => void;
}) {
  return (
    <fieldset disabled={closed} className="mt-3 grid grid-cols-2 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
      <label className="col-span-2 max-[640px]:col-span-1">
        Question
        <TextField
          boxed
          required
          label="Question"
          value={draft.question}
          onCommit={(question) => put({ question: question.trim() })}
        />
      </label>
      <div className="col-span-2 grid grid-cols-[1fr_90px] gap-2 max-[640px]:col-span-1">
        <label>
          Course
          <TextField
            boxed
            label="Course"
            value={draft.course}
            onCommit={(course) => put({ course })}
            placeholder="none"
          />
        </label>
        <label>
          Repeats
          <QuantityField
            boxed
            label="Repeats"
            dimension="count"
            value={draft.repeats}
            schema={newPlanSchema.shape.repeats}
            onCommit={(v) => v !== null && put({ repeats: v })}
          />
        </label>
      </div>
      <label>
        It is broken off when
        <Lines
          label="It is broken off when"
          most={12}
          value={draft.abort}
          onCommit={(abort) => put({ abort })}
          placeholder="one rule to a line"
        />
      </label>
      <label>
        Safety plan
        <Lines
          label="Safety plan"
          most={12}
          length={200}
          value={draft.safety}
          onCommit={(safety) => put({ safety })}
          placeholder="one line to a line"
        />
      </label>
      <label>
        If it goes better than expected
        <textarea
          className="box"
          rows={2}
          maxLength={300}
          aria-label="If it goes better than expected"
          placeholder="If it lifts: are the controls connected? Who ends it, and when?"
          defaultValue={draft.success}
          onBlur={(e) => e.target.value.trim() !== draft.success && put({ success: e.target.value.trim() })}
        />
      </label>
      <label>
        People, each with a role
        <Lines
          label="People, each with a role"
          most={12}
          rows={2}
          value={draft.people.map((p) => (p.role ? `${p.name}: ${p.role}` : p.name))}
          onCommit={(list) =>
            put({
              people: list.map((l) => {
                const [name = "", ...role] = l.split(":");
                return { name: name.trim().slice(0, 80) || "somebody", role: role.join(":").trim().slice(0, 80) };
              }),
            })
          }
          placeholder="name: role"
        />
      </label>
    </fieldset>
  );
}

/** The limits of the day, and what they are now. */
function LimitsTable({
  closed,
  draft,
  put,
}: {
  closed: boolean;
  draft: NewPlan;
  put: (change: Partial<NewPlan>) => void;
}) {
  return (
    <table className="rows mt-1 w-full max-w-xl">
      <thead>
        <tr>
          <th />
          <th>limit</th>
          <th>on the day</th>
        </tr>
      </thead>
      <tbody>
        {LIMITS.map(([key, label, dimension, now]) => (
          <tr key={key}>
            <td>{label}</td>
            <td className="w-36">
              <QuantityField
                boxed
                label={`${label}, limit`}
                dimension={dimension}
                empty="no limit"
                disabled={closed}
                value={draft.limits[key]}
                onCommit={(v) => put({ limits: { ...draft.limits, [key]: v } })}
              />
            </td>
            <td className="w-36">
              {now && (
                <QuantityField
                  boxed
                  label={`${label}, on the day`}
                  dimension={dimension}
                  empty="not looked at"
                  disabled={closed}
                  value={draft.day[now]}
                  onCommit={(v) => put({ day: { ...draft.day, [now]: v } })}
                />
              )}
            </td>
          </tr>
        ))}
        {draft.limits.surface !== "" && (
          <tr>
            <td>Surface: {draft.limits.surface}</td>
            <td />
            <td>
              <select
                className="box"
                aria-label="Surface, on the day"
                disabled={closed}
                value={draft.day.surface ?? ""}
                onChange={(e) =>
                  put({
                    day: { ...draft.day, surface: e.target.value === "" ? null : (e.target.value as "yes" | "no") },
                  })
                }
              >
                <option value="">not looked at</option>
                <option value="yes">it is</option>
                <option value="no">it is not</option>
              </select>
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
