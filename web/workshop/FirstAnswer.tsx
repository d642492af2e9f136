import type { Dimension } from "../../core/design/units";
import type { FirstAnswer as Answer, Banded } from "../../core/sizing/firstAnswer";
import { plain } from "../../core/wording/format";
import { FIRST_ANSWER } from "../../core/wording/heldUp";
import { usePreferences } from "../app/preferences";
import { Cairn } from "../glyphs/Cairn";
import { Flag } from "../glyphs/Flag";

function Band({ banded, dimension }: { banded: Banded; dimension: Dimension }) {
  const { habit } = usePreferences();
  return (
    <span className="num">
      <b className="text-ink">{plain(banded.value, dimension, habit)}</b>{" "}
      <span className="predicted">
        ({plain(banded.value / banded.factor, dimension, habit)} to{" "}
        {plain(banded.value * banded.factor, dimension, habit)})
      </span>
    </span>
  );
}

/** What three numbers say already. */
export function FirstAnswer({ answer }: { answer: Answer }) {
  const { habit } = usePreferences();
  const negative = answer.remainder < 0;
  return (
    <section aria-label="First answer">
      <h2 className="flex items-center gap-2">
        First answer <Cairn level="guess" />
      </h2>
      {negative && (
        <p className="mt-1 flex items-start gap-2 font-semibold text-stop" data-first="stop">
          <Flag severity="stop" /> Stop: these numbers do not add up. {plain(-answer.remainder, "mass", habit)} is
          missing before any structure.
        </p>
      )}
      <table className="rows mt-1 w-full">
        <tbody>
          <tr>
            <td>Mass left for everything else</td>
            <td className="text-right">
              <span className="num">
                <b className={negative ? "text-stop" : "text-ink"}>{plain(answer.remainder, "mass", habit)}</b>{" "}
                <span className="predicted">± {plain(answer.remainderSd, "mass", habit)}</span>
              </span>
            </td>
          </tr>
          <tr>
            <td>Power needed to stay up and move</td>
            <td className="text-right">
              <Band banded={answer.power} dimension="power" />
            </td>
          </tr>
          <tr>
            <td>Pack energy</td>
            <td className="text-right">
              <Band banded={answer.packEnergy} dimension="energy" />
            </td>
          </tr>
          <tr>
            <td>Pack mass</td>
            <td className="text-right">
              <Band banded={answer.packMass} dimension="mass" />
            </td>
          </tr>
        </tbody>
      </table>
      <details className="mt-2 text-[12px]">
        <summary className="cursor-pointer text-accent">Show working</summary>
        <p className="num mt-1 bg-sheet p-2 text-ink">
          {FIRST_ANSWER[answer.method]}; energy = (P + steady load)·t / 0.8
        </p>
        <ul className="mt-1">
          {answer.assumptions.map((a) => (
            <li key={a.name}>
              {a.name}:{" "}
              <span className="num">
                {a.value} {a.unit} ×÷ {a.factor}
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-1 text-pencil">
          Generic figures of small craft (common practice), each with its spread; valid until your own are entered.
        </p>
      </details>
    </section>
  );
}
