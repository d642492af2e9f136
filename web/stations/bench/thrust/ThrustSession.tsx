import { isOpenPropeller } from "../../../../core/subjects/propulsion/kinds/which";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { contracts } from "../../../../api/contracts";
import { type SweepTable, sweepText } from "../../../../core/bench/sweepTable";
import type { Bench } from "../../../../core/design/bench";
import { SAFETY, type ThrustTest } from "../../../../core/design/thrustTest";
import { SAFETY_LINE } from "../../../../core/wording/sweep";
import { call } from "../../../app/client";
import { HalfLine } from "../../../app/HalfLine";
import { useDesk } from "../../../app/desk";
import { saveFile } from "../../../drawing/saveSvg";
import { ClipboardSheet } from "../ClipboardSheet";
import { SessionFoot } from "../SessionFoot";
import { code, useEntry } from "../useSession";
import { RigForm } from "./RigForm";
import { SafetyList } from "./SafetyList";
import { SweepImport } from "./SweepImport";
import { SweepReport } from "./SweepReport";
import { SweepRun } from "./SweepRun";
import { newRig, newThrust, notYetSafe, throttlesOf } from "./thrustDraft";

/** Takes the readings of a file over, with the stand that it tells of when that is wanted. */
function takeTable(t: ThrustTest, table: SweepTable, withStand: boolean): void {
  t.readings = table.readings.map(({ line: _, ...r }) => r);
  if (!withStand) return;
  const { hints } = table;
  // Another stand: neither the check mass nor the calibrations of this one belong to it.
  if (hints.thrustArm !== null && hints.scaleArm !== null)
    Object.assign(t.rig, { ...newRig(), thrustArm: hints.thrustArm, scaleArm: hints.scaleArm });
  if (hints.tare !== null) t.rig.tare = hints.tare;
  if (hints.temperature !== null) t.air.temperature = hints.temperature;
  if (hints.density !== null) t.air.pressure = hints.density * 287.05287 * (t.air.temperature + 273.15);
}

/** Readings from a file, out to one, or thrown away. */
function ReadingsTools({
  test,
  refused,
  name,
  onRead,
  onClear,
}: {
  test: ThrustTest;
  refused: number;
  name: string;
  onRead: () => void;
  onClear: () => void;
}) {
  return (
    <p className="no-print mt-2 flex flex-wrap items-center gap-4 text-[12px]">
      <button type="button" className="link" onClick={onRead}>
        read a file
      </button>
      {test.readings.length > 0 && (
        <>
          <span data-readings>
            <b className="num">{test.readings.length}</b> readings{refused > 0 ? `, ${refused} rows refused` : ""}
          </span>
          <button type="button" className="link" onClick={() => saveFile(name, sweepText(test.readings), "text/csv")}>
            save as CSV
          </button>
          <button
            type="button"
            className="link"
            onClick={() => window.confirm("Throw all readings of this sweep away?") && onClear()}
          >
            throw them away
          </button>
        </>
      )}
    </p>
  );
}

/** A sweep on the thrust stand, new or kept. */
export function ThrustSession({ session, onOpen }: { session: Bench | null; onOpen: (number: number | null) => void }) {
  const { slug, design, file } = useDesk();
  const [importing, setImporting] = useState(false);
  const [refused, setRefused] = useState(0);
  const { keep, after, onError, freshRevision, entry, test, change, touched, head, foot } = useEntry<ThrustTest | null>(
    session,
    onOpen,
    "sweep",
    () => {
      if (session?.thrust) return session.thrust;
      const made = newThrust(design);
      // The stand is the one of last time, with the safety list to tick anew.
      const before = file.bench.findLast((b) => b.thrust !== null)?.thrust;
      return made && before ? { ...made, rig: before.rig, plan: before.plan } : made;
    },
    (t) => t && { ...t, safety: notYetSafe() },
  );
  const learn = useMutation({
    mutationFn: async (asked: { unitIds: string[]; pack: boolean }) => {
      if (!session) throw new Error("Keep the session first.");
      await call(contracts.learn, {
        params: { slug, number: session.number },
        body: { revision: await freshRevision(), ...asked },
      });
    },
    onSuccess: () => after("The measured curve is the drive's own now."),
    onError,
  });
  if (!test) return <p>Describe a drive in Power first: the sweep is held against what is predicted of it.</p>;
  const changeTest = (mutate: (t: ThrustTest) => void) => change((t) => t && mutate(t));
  const unit = design.units.find((u) => u.id === test.unitId);
  const report = (
    <SweepReport
      test={test}
      session={touched ? null : session}
      busy={learn.isPending}
      onLearn={(asked) => learn.mutate(asked)}
      onChange={changeTest}
    />
  );
  const setUp = (
    <>
      <RigForm test={test} onChange={changeTest} />
      <div className="mt-3">
        <SafetyList safety={test.safety} onChange={(s) => changeTest((t) => void (t.safety = s))} />
      </div>
      <div className="mt-3">
        <SweepRun test={test} onChange={changeTest} />
      </div>
      <ReadingsTools
        test={test}
        refused={refused}
        name={`${slug}-${session ? code(session.number) : "sweep"}.csv`}
        onRead={() => setImporting(true)}
        onClear={() => changeTest((t) => void (t.readings = []))}
      />
    </>
  );
  const end = <SessionFoot {...foot} missing={null} onKeep={() => keep.mutate({ ...entry, thrust: test })} />;
  return (
    <>
      <HalfLine {...head} />
      {session ? (
        <>
          {report}
          <section aria-label="Stand and readings" className="mt-5 border-t border-hair pt-3">
            <h2 className="mb-2">Stand and readings</h2>
            {setUp}
          </section>
          {end}
        </>
      ) : (
        <>
          {setUp}
          {test.readings.length > 0 && <div className="mt-4 border-t border-ink pt-1">{report}</div>}
          {end}
        </>
      )}
      {importing && (
        <SweepImport
          diameter={unit && isOpenPropeller(unit) ? unit.propeller.diameter.value : null}
          rig={test.rig}
          onClose={() => setImporting(false)}
          onTake={(table, withStand) => {
            setImporting(false);
            setRefused(table.reports.filter((r) => r.severity === "error").length);
            changeTest((t) => takeTable(t, table, withStand));
          }}
        />
      )}
      <ClipboardSheet
        title={`Thrust sweep, ${unit?.name ?? ""}`}
        checks={SAFETY.map((k) => SAFETY_LINE[k])}
        columns={test.plan.measures.map((m) => (m === "thrust" ? "scale, g" : m))}
        rows={throttlesOf(test.plan).map((u) => `${Math.round(u * 100)} %`)}
      />
    </>
  );
}
