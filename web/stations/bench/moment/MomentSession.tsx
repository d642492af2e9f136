import { useState } from "react";
import { unsaidOf } from "../../../../core/bench/moment";
import { type Bench, type MomentTest, TURN_AXES, momentReadings } from "../../../../core/design/bench";
import { HalfLine } from "../../../app/HalfLine";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";
import { ClipboardSheet } from "../ClipboardSheet";
import { SessionFoot } from "../SessionFoot";
import { useEntry } from "../useSession";
import { MomentReport } from "./MomentReport";
import { WayFields } from "./WayFields";

type Way = MomentTest["way"];
type By = Way["by"];

const BLANK: { [B in By]: Extract<Way, { by: B }> } = {
  "two lines": { by: "two lines", mass: null, spacing: null, length: null, twists: [], swings: [] },
  "scale at an arm": { by: "scale at an arm", arm: null, pulls: [] },
  "timed turn": { by: "timed turn", speed: null, turns: [] },
};
/** What is done, and what to look out for. */
const HOW: Record<By, string> = {
  "two lines":
    "Hung by two equal lines, as far apart above as below, the axis upright (level for yaw, by its nose " +
    "for roll, on its side for pitch) and the CG midway between them. Drives against one another or " +
    "along the lines: what drags it aside makes the lines lean, and the twist tells nothing. Read on a " +
    "protractor how far it turns and stays; or let it swing a little and time ten swings. In still air " +
    "indoors, the drives guarded, hands away.",
  "scale at an arm":
    "Held so that it can only turn about this axis: a pin, a bearing, two points. The scale holds it " +
    "still at the arm, pulling square to it. Stand aside of the propellers; the throttle is set from " +
    "behind.",
  "timed turn":
    "In a film from above, or along a wall: the angle that it turned through, and how long that took. " +
    "From where the turn was steady.",
};
const WORD: Record<MomentTest["role"], string> = { "turns it": "what turns it", answers: "what a command gives" };

/** What turns a craft about one axis, or answers: hung, held by a scale, or timed. */
export function MomentSession({ session, onOpen }: { session: Bench | null; onOpen: (number: number | null) => void }) {
  const [asked, setAsked] = useState(false);
  const { keep, entry, test, change, head, foot } = useEntry<MomentTest>(
    session,
    onOpen,
    "moment",
    () => session?.moment ?? { axis: "yaw", role: "answers", what: "", throttle: null, way: BLANK["scale at an arm"] },
  );
  const unsaid = unsaidOf(test.way);
  const missing = momentReadings(test) === 0 ? "enter a reading" : unsaid && `enter ${unsaid}`;
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <div className="flex flex-wrap items-end gap-3">
        <label>
          About
          <select
            className="box"
            aria-label="About which axis"
            value={test.axis}
            onChange={(e) => change((t) => void (t.axis = e.target.value as MomentTest["axis"]))}
          >
            {TURN_AXES.map((a) => (
              <option key={a}>{a}</option>
            ))}
          </select>
        </label>
        <label>
          Is
          <select
            className="box"
            aria-label="What it is"
            value={test.role}
            onChange={(e) => change((t) => void (t.role = e.target.value as MomentTest["role"]))}
          >
            {Object.entries(WORD).map(([value, word]) => (
              <option key={value} value={value}>
                {word}
              </option>
            ))}
          </select>
        </label>
        <div className="w-56">
          With
          <TextField
            boxed
            label="What was on"
            value={test.what}
            placeholder="rudder full right"
            onCommit={(v) => change((t) => void (t.what = v))}
          />
        </div>
        <label className="w-24">
          Throttle
          <QuantityField
            boxed
            label="Throttle in the test"
            value={test.throttle}
            dimension="percent"
            empty="off"
            onCommit={(v) => {
              if (v !== null && !(v >= 0 && v <= 1)) return "accepted: 0 to 100 %";
              change((t) => void (t.throttle = v));
              return null;
            }}
          />
        </label>
      </div>
      <p className="mt-3 flex flex-wrap gap-1" role="group" aria-label="How it was found">
        {(Object.keys(BLANK) as By[]).map((by) => (
          <button
            key={by}
            type="button"
            className={`chip ${test.way.by === by ? "chip-on" : ""}`}
            aria-pressed={test.way.by === by}
            disabled={session !== null && test.way.by !== by}
            onClick={() => {
              if (test.way.by === by) return;
              if (momentReadings(test) > 0 && !window.confirm("Begin anew with another way? The readings go.")) return;
              change((t) => void (t.way = structuredClone(BLANK[by])));
            }}
          >
            {by === "two lines" ? "hung by two lines" : by}
          </button>
        ))}
      </p>
      <p className="mt-1 max-w-[70ch]">{HOW[test.way.by]}</p>
      <WayFields way={test.way} change={(mutate) => change((t) => mutate(t.way))} />
      <MomentReport test={test} number={session?.number ?? null} />
      <SessionFoot
        {...foot}
        missing={asked ? missing : null}
        onKeep={() => (missing === null ? keep.mutate({ ...entry, moment: test }) : setAsked(true))}
      />
      <ClipboardSheet
        title="Turning moment"
        columns={["with", "throttle", "angle or pull", "time"]}
        rows={Array.from({ length: 8 }, (_, k) => String(k + 1))}
      />
    </div>
  );
}
