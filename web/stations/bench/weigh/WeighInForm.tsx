import type { WeighInKind } from "../../../../core/design/bench";
import { weighInSchema } from "../../../../core/design/bench";
import { KIND_WORD, PROCEDURE, WEIGHING_CAUTION } from "../../../../core/wording/bench";
import { useDesk } from "../../../app/desk";
import { QuantityField } from "../../../fields/QuantityField";
import { SetUpDrawing } from "./SetUpDrawing";
import type { Draft } from "./weighInDraft";

interface Props {
  draft: Draft;
  onChange: (change: (d: Draft) => void) => void;
}

/** Repeated readings of one thing, side by side. */
function Readings({
  label,
  list,
  dimension,
  onChange,
}: {
  label: string;
  list: (number | null)[];
  dimension: "mass" | "length";
  onChange: (list: (number | null)[]) => void;
}) {
  return (
    <span className="flex flex-wrap items-center gap-1">
      {list.map((value, k) => (
        <span key={`r${k + 1}`} className="w-[74px]">
          <QuantityField
            boxed
            label={`${label}, reading ${k + 1}`}
            value={value}
            dimension={dimension}
            empty="–"
            onCommit={(v) =>
              v !== null && dimension === "mass" && v < 0
                ? "a scale reads zero or more"
                : onChange(list.map((x, i) => (i === k ? v : x)))
            }
          />
        </span>
      ))}
      <button
        type="button"
        className="link min-h-6"
        aria-label={`${label}, one more reading`}
        onClick={() => onChange([...list, null])}
      >
        +
      </button>
    </span>
  );
}

/** One guided weigh-in: the set-up drawn, the steps, and the readings. */
export function WeighInForm({ draft, onChange }: Props) {
  const { kind } = draft;
  const supports = kind === "two-scales" || kind === "three-scales" || kind === "level-and-tilted";
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,310px)] gap-5 max-[900px]:grid-cols-[minmax(0,1fr)]">
      <div>
        <div className="flex flex-wrap gap-3">
          {kind !== "knife-edge" && (
            <>
              <label className="w-28">
                Resolution
                <QuantityField
                  boxed
                  label="Resolution"
                  value={draft.resolution}
                  dimension="mass"
                  schema={stepSchema}
                  onCommit={(v) => v !== null && onChange((d) => void (d.resolution = v))}
                />
              </label>
              <label className="w-28">
                Accuracy ±
                <QuantityField
                  boxed
                  label="Scale error"
                  value={draft.error}
                  dimension="percent"
                  onCommit={(v) => v !== null && onChange((d) => void (d.error = Math.abs(v)))}
                />
              </label>
            </>
          )}
          {kind !== "total" && kind !== "parts" && (
            <label className="w-28">
              Places ±
              <QuantityField
                boxed
                label="Ruler error"
                value={draft.ruler}
                dimension="length"
                onCommit={(v) => v !== null && onChange((d) => void (d.ruler = Math.abs(v)))}
              />
            </label>
          )}
        </div>
        {supports && <Supports draft={draft} onChange={onChange} kind={kind} />}
        <ScaleReadings draft={draft} kind={kind} onChange={onChange} />
      </div>
      <div>
        <SetUpDrawing draft={draft} />
        <h3 className="mt-2 text-[13px]">{KIND_WORD[kind]}</h3>
        <ol className="list-decimal pl-5 text-[12px]">
          {PROCEDURE[kind].map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
        <p className="mt-1 text-[12px] text-care">{WEIGHING_CAUTION}</p>
      </div>
    </div>
  );
}

/** What the scales showed. */
function ScaleReadings({
  draft,
  kind,
  onChange,
}: {
  draft: Draft;
  kind: WeighInKind;
  onChange: (change: (d: Draft) => void) => void;
}) {
  const { design } = useDesk();
  const loads = (k: number, label: string) => (
    <tr key={label}>
      <td className="whitespace-nowrap pr-3 text-ink">{label}</td>
      <td>
        <Readings
          label={label}
          list={draft.loads[k] ?? []}
          dimension={kind === "knife-edge" ? "length" : "mass"}
          onChange={(list) =>
            onChange((d) => {
              d.loads[k] = list;
            })
          }
        />
      </td>
    </tr>
  );
  return (
    <table className="mt-3 w-full text-[12px]">
      <tbody>
        {kind === "total" && loads(0, "On the scale")}
        {kind === "knife-edge" && loads(0, "Balances at x")}
        {(kind === "two-scales" || kind === "three-scales") && draft.at.map((_, i) => loads(i, `Scale ${i + 1}`))}
        {kind === "level-and-tilted" && [
          loads(0, "Level, front"),
          loads(1, "Level, rear"),
          loads(2, "Tilted, front"),
          loads(3, "Tilted, rear"),
        ]}
        {kind === "parts" &&
          design.items.map((item) => (
            <tr key={item.id}>
              <td className="pr-3 text-ink">
                {item.name}
                {item.quantity > 1 && <span className="text-pencil"> all {item.quantity}</span>}
              </td>
              <td>
                <Readings
                  label={item.name}
                  list={draft.parts[item.id] ?? [null]}
                  dimension="mass"
                  onChange={(list) =>
                    onChange((d) => {
                      d.parts[item.id] = list;
                    })
                  }
                />
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** Where the supports touch. */
function Supports({
  draft,
  onChange,
  kind,
}: {
  draft: Draft;
  onChange: (change: (d: Draft) => void) => void;
  kind: WeighInKind;
}) {
  return (
    <table className="mt-3 text-[12px]">
      <tbody>
        {draft.at.map((p, i) => (
          <tr key={`s${i + 1}`}>
            <td className="whitespace-nowrap pr-3 text-ink">Support {i + 1} touches at</td>
            <td className="pr-1">x</td>
            <td className="w-24">
              <QuantityField
                boxed
                label={`Support ${i + 1}, x`}
                value={p.x}
                dimension="length"
                onCommit={(v) => v !== null && onChange((d) => void (d.at[i] && (d.at[i].x = v)))}
              />
            </td>
            {kind === "three-scales" && (
              <>
                <td className="pl-3 pr-1">y</td>
                <td className="w-24">
                  <QuantityField
                    boxed
                    label={`Support ${i + 1}, y`}
                    value={p.y}
                    dimension="length"
                    onCommit={(v) => v !== null && onChange((d) => void (d.at[i] && (d.at[i].y = v)))}
                  />
                </td>
              </>
            )}
          </tr>
        ))}
        {kind === "level-and-tilted" && (
          <>
            <tr>
              <td className="text-ink">Both touch at height</td>
              <td>z</td>
              <td className="w-24">
                <QuantityField
                  boxed
                  label="Supports, z"
                  value={draft.height}
                  dimension="length"
                  onCommit={(v) => v !== null && onChange((d) => void (d.height = v))}
                />
              </td>
            </tr>
            <tr>
              <td className="text-ink">Tilted nose up by</td>
              <td />
              <td className="w-24">
                <QuantityField
                  boxed
                  label="Tilt"
                  value={draft.angle}
                  dimension="angle"
                  onCommit={(v) => v !== null && onChange((d) => void (d.angle = v))}
                />
              </td>
              <td className="pl-3 pr-1">±</td>
              <td className="w-20">
                <QuantityField
                  boxed
                  label="Tilt error"
                  value={draft.angleSd}
                  dimension="angle"
                  onCommit={(v) => v !== null && onChange((d) => void (d.angleSd = Math.abs(v)))}
                />
              </td>
            </tr>
          </>
        )}
      </tbody>
    </table>
  );
}

const stepSchema = weighInSchema.options[0].shape.scale.shape.resolution;
