import { useState } from "react";
import { nextSide, sidesOf } from "../../../../core/bench/pulls";
import type { Bench } from "../../../../core/design/bench";
import { PULLS_OF, type PullsTest } from "../../../../core/design/pulls";
import { SAFETY } from "../../../../core/design/thrustTest";
import { sideWord } from "../../../../core/wording/pulls";
import { SAFETY_LINE } from "../../../../core/wording/sweep";
import { HalfLine } from "../../../app/HalfLine";
import { useDesk } from "../../../app/desk";
import { DriveSelect } from "../../../fields/DriveSelect";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";
import { ClipboardSheet } from "../ClipboardSheet";
import { SessionFoot } from "../SessionFoot";
import { SafetyList } from "../thrust/SafetyList";
import { notYetSafe } from "../thrust/thrustDraft";
import { useEntry } from "../useSession";
import { PullsReadings } from "./PullsReadings";
import { PullsReport } from "./PullsReport";

/** What is done, and what to look out for. */
const HOW: Record<PullsTest["of"], string> = {
  "with and without":
    "One unit on a scale, at one throttle and one pack: once by itself, once with what is around it as " +
    "it is built in. Then the other way round, since a pack empties.",
  "one and a pair":
    "At one throttle and one pack: one unit by itself, then all that share the air, as they are built " +
    "in. Then the other way round.",
  "each corner":
    "The craft held down, a scale under one corner after the other, all at one throttle and one pack. Then back again.",
};
const PLACEHOLDER = { "with and without": "the lid", "one and a pair": "the other disc", "each corner": "" };

/** Units of one drive pulled in turns: with and without what is around them, one and a pair, or each corner. */
export function PullsSession({ session, onOpen }: { session: Bench | null; onOpen: (number: number | null) => void }) {
  const { design } = useDesk();
  const [asked, setAsked] = useState(false);
  const { keep, entry, test, change, touched, head, foot } = useEntry<PullsTest>(
    session,
    onOpen,
    "pulls",
    () =>
      session?.pulls ?? {
        unitId: design.units[0]?.id ?? "none",
        of: "with and without",
        together: 2,
        what: "",
        throttle: null,
        safety: notYetSafe("outdoors"),
        readings: [],
        drive: null,
      },
    (t) => ({ ...t, safety: notYetSafe(t.safety.place) }),
  );
  if (design.units.length === 0) return <p>Describe a drive in Power first: what is pulled is held against it.</p>;
  const sides = sidesOf(test, design);
  const missing = test.readings.length === 0 ? "enter a pull" : null;
  const begin = (of: PullsTest["of"]) => {
    if (of === test.of) return;
    if (test.readings.length > 0 && !window.confirm("Begin anew with another comparison? The readings go.")) return;
    change((t) => Object.assign(t, { of, readings: [] }));
  };
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <p className="flex flex-wrap gap-1" role="group" aria-label="What is held against what">
        {PULLS_OF.map((of) => (
          <button
            key={of}
            type="button"
            className={`chip ${test.of === of ? "chip-on" : ""}`}
            aria-pressed={test.of === of}
            disabled={session !== null && test.of !== of}
            onClick={() => begin(of)}
          >
            {of}
          </button>
        ))}
      </p>
      <p className="mt-1 max-w-[70ch]">{HOW[test.of]}</p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="w-44">
          Drive
          <DriveSelect
            label="Drive that is pulled"
            value={test.unitId}
            disabled={session !== null}
            onChange={(id) => {
              if (test.readings.length > 0 && !window.confirm("Begin anew with another drive? The readings go."))
                return;
              change((t) => void Object.assign(t, { unitId: id, readings: [] }));
            }}
          />
        </label>
        {test.of !== "each corner" && (
          <div className="w-52">
            What is around it
            <TextField
              boxed
              label="What is around it"
              value={test.what}
              placeholder={PLACEHOLDER[test.of]}
              onCommit={(v) => change((t) => void (t.what = v))}
            />
          </div>
        )}
        {test.of === "one and a pair" && (
          <label className="w-28">
            Push together
            <QuantityField
              boxed
              label="Push together"
              value={test.together}
              dimension="count"
              onCommit={(v) => {
                if (v === null || !Number.isInteger(v) || v < 2 || v > 24) return "accepted: a whole number, 2 to 24";
                change((t) => void (t.together = v));
                return null;
              }}
            />
          </label>
        )}
        <label className="w-24">
          Throttle
          <QuantityField
            boxed
            label="Throttle in the test"
            value={test.throttle}
            dimension="percent"
            empty="not said"
            onCommit={(v) => {
              if (v !== null && !(v > 0 && v <= 1)) return "accepted: above 0, to 100 %";
              change((t) => void (t.throttle = v));
              return null;
            }}
          />
        </label>
      </div>
      <div className="no-print mt-3">
        <SafetyList safety={test.safety} onChange={(s) => change((t) => void (t.safety = s))} />
      </div>
      {sides < 2 ? (
        <p className="mt-2 text-care">
          {design.units.some((u) => u.id === test.unitId)
            ? "This drive has one unit: there is no other corner to hold it against."
            : "This drive is not in the version any more: its readings stand, and nothing can be taken over."}
        </p>
      ) : (
        <PullsReadings test={test} sides={sides} next={nextSide(sides, test.readings.length)} change={change} />
      )}
      <PullsReport test={test} number={touched ? null : (session?.number ?? null)} />
      <SessionFoot
        {...foot}
        missing={asked ? missing : null}
        onKeep={() => (missing === null ? keep.mutate({ ...entry, pulls: test }) : setAsked(true))}
      />
      <ClipboardSheet
        title={`Pulls in turns, ${test.of}`}
        checks={SAFETY.map((k) => SAFETY_LINE[k])}
        columns={["pull", "volts", "amperes"]}
        rows={Array.from({ length: Math.max(8, 2 * sides) }, (_, k) => sideWord(test, nextSide(Math.max(1, sides), k)))}
      />
    </div>
  );
}
