import type { LearnResult } from "../../../../core/bench/learn";
import { packFrom } from "../../../../core/bench/learnPack";
import type { SweepResult } from "../../../../core/bench/sweep";
import type { Bench } from "../../../../core/design/bench";
import type { ThrustTest } from "../../../../core/design/thrustTest";
import type { Battery, Unit } from "../../../../core/design/schema";
import { partsChanged } from "../../../../core/subjects/propulsion/learned";
import { plain, showSd } from "../../../../core/wording/format";
import { learnText } from "../../../../core/wording/sweep";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { code } from "../useSession";

/** What the sweep teaches a drive, and a click that takes it over. */
export function TakeOver({
  session,
  unit,
  battery,
  result,
  test,
  packToo,
  chosen,
  lesson,
  setChosen,
  setPackToo,
  busy,
  onLearn,
}: {
  session: Bench | null;
  unit: Unit | undefined;
  battery: Battery | undefined;
  result: SweepResult;
  test: ThrustTest;
  packToo: boolean | null;
  chosen: string[] | null;
  lesson: LearnResult | null;
  setChosen: (next: string[] | null) => void;
  setPackToo: (next: boolean | null) => void;
  busy: boolean;
  onLearn: (asked: { unitIds: string[]; pack: boolean }) => void;
}) {
  const { design } = useDesk();
  const { habit } = usePreferences();
  // Drives that have the very parts that were on the stand: what was learned is theirs too.
  const tested = session?.thrust?.drive ?? null;
  const alike = design.units.filter(
    (u) => unit && (tested ? partsChanged(u, tested) : partsChanged(u, unit)).length === 0,
  );
  const fed =
    unit &&
    packFrom(
      design,
      unit.id,
      tested?.battery ?? battery ?? null,
      result.resistance,
      test.air.temperature,
      session?.number ?? 1,
    );
  const withPack = fed ? (packToo ?? fed.usual) : false;
  const taken = chosen ?? alike.map((u) => u.id);
  return (
    <section aria-label="Take it over" className="mt-3 border-t border-hair pt-2">
      <h3 className="text-[13px]">Take it over</h3>
      {unit?.measured && (
        <p className="text-care">
          {unit.name} counts by its measured curve: what is taken over here counts once it is known by its parts. In
          Power, under the drive, these readings can be its curve.
        </p>
      )}
      {lesson === null ? (
        <p>The drive of this sweep is no longer in the version.</p>
      ) : !lesson.ok ? (
        <p className="text-care">{lesson.message}</p>
      ) : (
        <>
          <p className="mt-1" data-lesson>
            {learnText(lesson)}
          </p>
          {alike.length === 0 ? (
            <p className="mt-1 text-care">Stale: no drive of this version has the parts that were on the stand.</p>
          ) : (
            <p className="mt-1 flex flex-wrap items-center gap-x-3">
              {alike.map((u) => (
                <label key={u.id} className="flex min-h-7 items-center gap-1">
                  <input
                    type="checkbox"
                    checked={taken.includes(u.id)}
                    onChange={(e) => setChosen(e.target.checked ? [...taken, u.id] : taken.filter((x) => x !== u.id))}
                  />
                  {u.name}
                  {u.count > 1 ? `, ${u.count}` : ""}
                </label>
              ))}
              {fed && (
                <label className="flex min-h-7 w-full items-center gap-1" data-pack-too>
                  <input type="checkbox" checked={withPack} onChange={(e) => setPackToo(e.target.checked)} />
                  <span>
                    {fed.name} fed the stand: take over its resistance too,{" "}
                    <b className="num text-ink">{plain(fed.cellResistance.value, "resistance", habit)}</b>{" "}
                    <span className="num">± {showSd(fed.cellResistance.sd ?? 0, "resistance", habit)}</span> a cell
                    {fed.usual
                      ? ""
                      : `, far from the ${plain(battery?.cellResistance.value ?? 0, "resistance", habit)} ` +
                        "entered: a bench supply, a tired pack or a poor plug"}
                  </span>
                </label>
              )}
              <button
                type="button"
                className="act act-first"
                disabled={session === null || busy || taken.length === 0}
                onClick={() => onLearn({ unitIds: taken, pack: withPack })}
              >
                Take the curve over
              </button>
              {session === null && <span className="text-pencil">Keep the session first.</span>}
              {session && session.adopted !== "" && (
                <span className="text-clear">
                  {code(session.number)}: {session.adopted}
                </span>
              )}
            </p>
          )}
        </>
      )}
    </section>
  );
}
