import { useState } from "react";
import { differenceOf, foretell, lineOf, pointsText, readPoints } from "../../../core/bench/free";
import { type Bench, FREE_AXES, FREE_LAWS, type Free, freeSchema } from "../../../core/design/bench";
import { differenceText, foretoldText, lineText, meaningText, scatterText } from "../../../core/wording/free";
import { TextField } from "../../fields/TextField";
import { ClipboardSheet } from "./ClipboardSheet";
import { FreeChart } from "./FreeChart";
import { HalfLine } from "../../app/HalfLine";
import { SessionFoot } from "./SessionFoot";
import { useEntry } from "./useSession";

const blank = (): Free => ({
  question: "",
  x: { name: "", unit: "" },
  y: { name: "", unit: "" },
  of: "its own",
  axes: "both plain",
  conditions: [{ name: "", points: [] }],
});
const LETTER = ["A", "B"] as const;

/**
 * Any number against any other, in names and units of one's own: typed or pasted, in one condition or two, with the
 * line through them, what its slope means, and whether the two differ.
 */
export function FreeSession({ session, onOpen }: { session: Bench | null; onOpen: (number: number | null) => void }) {
  const [asked, setAsked] = useState(false);
  // What is typed stays as it is typed: only what can be read of it goes into the session.
  const {
    keep,
    entry,
    test: { read: test, texts },
    change: changeBoth,
    head,
    foot,
  } = useEntry(session, onOpen, "free", () => {
    const read = session?.free ?? blank();
    return { read, texts: read.conditions.map((c) => pointsText(c.points)) };
  });
  const change = (mutate: (t: Free) => void) => changeBoth((both) => mutate(both.read));
  const write = (k: number, text: string) => {
    changeBoth(({ read, texts: typed }) => {
      typed[k] = text;
      const condition = read.conditions[k];
      if (condition) condition.points = readPoints(text).points;
    });
  };
  const problems = texts.flatMap((t, k) => readPoints(t).problems.map((p) => `${LETTER[k]}, ${p}`));
  const wrong = freeSchema.safeParse(test).error?.issues[0]?.message ?? null;
  const missing =
    problems.length > 0
      ? `${problems.length} ${problems.length === 1 ? "line is" : "lines are"} not read yet: ${problems[0]}`
      : wrong && `enter ${wrong}`;
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <p className="max-w-[70ch]">
        Anything that can be read twice: a field in µT over the distance of a wire, vibration in m/s² with and without a
        damper, power over rpm without a propeller. Nothing is converted: names and units are yours.
      </p>
      <WhatIsRead test={test} change={change} />
      <div className="mt-3 grid grid-cols-[minmax(0,320px)_minmax(0,1fr)] gap-5 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <Readings
          test={test}
          texts={texts}
          problems={problems}
          change={change}
          write={write}
          onSecond={() => {
            changeBoth(({ read, texts: typed }) => {
              typed.push("");
              read.conditions.push({ name: "", points: [] });
            });
          }}
          onAlone={() => {
            changeBoth(({ read, texts: typed }) => {
              typed.splice(1);
              read.conditions.splice(1);
            });
          }}
        />
        <FreeReport test={test} />
      </div>
      <SessionFoot
        {...foot}
        missing={asked ? missing : null}
        onKeep={() => (missing === null ? keep.mutate({ ...entry, free: test }) : setAsked(true))}
      />
      <ClipboardSheet
        title={test.question || "Readings"}
        columns={[test.x.name || "x", test.y.name || "y", "how it was"]}
        rows={Array.from({ length: 12 }, (_, k) => String(k + 1))}
      />
    </div>
  );
}

type Change = (mutate: (t: Free) => void) => void;

/** What is asked, what is read against what, and on which axes it is looked at. */
function WhatIsRead({ test, change }: { test: Free; change: Change }) {
  const field = (label: string, value: string, set: (t: Free, v: string) => void, width: string, placeholder = "") => (
    <div className={width}>
      {label}
      <TextField
        boxed
        label={label}
        value={value}
        placeholder={placeholder}
        onCommit={(v) => change((t) => set(t, v))}
      />
    </div>
  );
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      {field("What is asked", test.question, (t, v) => void (t.question = v), "w-80", "does the damper help?")}
      {field("y, what is read", test.y.name, (t, v) => void (t.y.name = v), "w-36", "vibration")}
      {field("its unit", test.y.unit, (t, v) => void (t.y.unit = v), "w-20", "m/s²")}
      {field("x, what is varied", test.x.name, (t, v) => void (t.x.name = v), "w-36", "nothing")}
      {field("unit of x", test.x.unit, (t, v) => void (t.x.unit = v), "w-20")}
      <label className="w-44">
        What the slope is of
        <select
          className="box"
          value={test.of}
          onChange={(e) =>
            change((t) => {
              t.of = FREE_LAWS.find((l) => l === e.target.value) ?? "its own";
              // Its meaning is read on logarithmic axes.
              if (t.of !== "its own") t.axes = "both logarithmic";
            })
          }
        >
          {FREE_LAWS.map((l) => (
            <option key={l} value={l}>
              {l === "its own" ? "its own, no known law" : l}
            </option>
          ))}
        </select>
      </label>
      <label className="w-40">
        Axes
        <select
          className="box"
          value={test.axes}
          onChange={(e) => change((t) => void (t.axes = FREE_AXES.find((a) => a === e.target.value) ?? "both plain"))}
        >
          {FREE_AXES.map((a) => (
            <option key={a}>{a}</option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** The readings as they were typed or pasted, in one condition or two. */
function Readings({
  test,
  texts,
  problems,
  change,
  write,
  onSecond,
  onAlone,
}: {
  test: Free;
  texts: string[];
  problems: string[];
  change: Change;
  write: (k: number, text: string) => void;
  onSecond: () => void;
  onAlone: () => void;
}) {
  return (
    <div>
      <div className={`grid gap-3 ${texts.length > 1 ? "grid-cols-2" : ""}`}>
        {texts.map((text, k) => (
          <div key={LETTER[k]}>
            <TextField
              boxed
              label={`Condition ${LETTER[k]}`}
              value={test.conditions[k]?.name ?? ""}
              placeholder={k === 0 ? "as it was, lid on" : "lid off"}
              onCommit={(v) => change((t) => void (t.conditions[k] && (t.conditions[k].name = v)))}
            />
            <label className="mt-1 block">
              Readings {LETTER[k]}, one to a line: x y
              <textarea
                className="box num"
                rows={12}
                spellCheck={false}
                placeholder={"2400 1.8\n3600 4.2\n4800 7.4"}
                value={text}
                onChange={(e) => write(k, e.target.value)}
              />
            </label>
          </div>
        ))}
      </div>
      <p className="text-pencil">
        Type, or paste two columns of a spreadsheet. A line with one number is y alone, where nothing was varied.
      </p>
      {problems.length > 0 && (
        <ul role="alert" className="text-stop">
          {problems.slice(0, 4).map((p) => (
            <li key={p}>{p}</li>
          ))}
          {problems.length > 4 && <li>and {problems.length - 4} more lines</li>}
        </ul>
      )}
      {texts.length === 1 ? (
        <button type="button" className="link mt-1" onClick={onSecond}>
          a second condition beside it
        </button>
      ) : (
        texts[1]?.trim() === "" && (
          <button type="button" className="link mt-1" onClick={onAlone}>
            without the second
          </button>
        )
      )}
    </div>
  );
}

/** The points, the line of each condition, what it means, and whether the two differ. */
function FreeReport({ test }: { test: Free }) {
  const [at, setAt] = useState("");
  const lines = test.conditions.map((c) => lineOf(c.points, test.axes));
  const [a, b] = test.conditions;
  const wanted = at.trim() === "" ? null : (readPoints(at).points[0]?.y ?? null);
  if (test.conditions.every((c) => c.points.length === 0))
    return <p className="text-pencil">The points, the line through them and what it says stand here.</p>;
  return (
    <section aria-label="What the readings say">
      <FreeChart test={test} lines={lines} />
      {a && b && b.points.length > 0 && (
        <p className="mt-2 text-[14px] text-ink" data-difference>
          {differenceText(differenceOf(a.points, b.points, test.axes), test)}.
        </p>
      )}
      {lines.map((line, k) => (
        <div key={LETTER[k]} className="mt-2" data-line={LETTER[k]}>
          {lines.length > 1 && <b className="text-ink">{test.conditions[k]?.name || LETTER[k]}: </b>}
          {lineText(line, test)}
          {line.status === "fitted" && `, scatter ${scatterText(line, test)}, ${line.count} readings`}.
          {line.left > 0 && (
            <span className="text-care">
              {" "}
              {line.left} {line.left === 1 ? "reading is" : "readings are"} not above zero: no logarithm holds{" "}
              {line.left === 1 ? "it" : "them"}, left out.
            </span>
          )}
          {meaningText(line, test) && <p className="text-ink">{meaningText(line, test)}</p>}
        </div>
      ))}
      {lines.some((l) => l.status === "fitted") && (
        <div className="mt-2">
          <label className="inline-flex items-center gap-2">
            What would it be at x ={" "}
            <input
              className="box num w-28!"
              inputMode="decimal"
              aria-label="What would it be at x"
              value={at}
              onChange={(e) => setAt(e.target.value)}
            />{" "}
            {test.x.unit}
          </label>
          {wanted !== null &&
            lines.map((line, k) => {
              const foretold = foretell(line, test.axes, wanted);
              return (
                <p key={LETTER[k]} className="predicted" data-foretold>
                  {lines.length > 1 ? `${test.conditions[k]?.name || LETTER[k]}: ` : ""}
                  {foretold ? foretoldText(foretold, test) : "no line says anything there"}.
                </p>
              );
            })}
        </div>
      )}
    </section>
  );
}
