import type { DriveReading } from "../../../core/design/craftFile";
import { type DriveRow, likeBy, oddDrives } from "../../../core/runs/eachDrive";
import { DRIVE_READ } from "../../../core/design/runEnds";
import { oddText } from "../../../core/wording/eachDrive";
import { DISPLAY } from "../../../core/design/units";
import { plain } from "../../../core/wording/format";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const READ = [
  ["current", "current", "A"],
  ["rpm", "rotation", "rpm"],
  ["temperature", "temperature", "temperature"],
] as const;

/** What the readings of the drives say against one another. */
export function OddDrives({ rows, readings }: { rows: readonly DriveRow[]; readings: readonly DriveReading[] }) {
  const { habit } = usePreferences();
  const odd = oddDrives(readings, likeBy(rows));
  return odd.length === 0 ? null : (
    <ul role="alert" className="list-disc pl-4 text-care">
      {odd.map((o) => (
        <li key={`${o.unit} ${o.copy}`} data-odd={o.odd}>
          {oddText(o, habit)}
        </li>
      ))}
    </ul>
  );
}

/** Current, speed and temperature of each drive, compared with its like ones as they are entered. */
export function EachDrive({
  rows,
  value,
  onChange,
}: {
  rows: readonly DriveRow[];
  value: readonly DriveReading[];
  onChange: (value: DriveReading[]) => void;
}) {
  const { habit } = usePreferences();
  const of = (r: DriveRow) => value.find((v) => v.unit === r.unit && v.copy === r.copy);
  const put = (r: DriveRow, key: "current" | "rpm" | "temperature", read: number | null) => {
    const { kin: _, ...who } = r;
    const next = { ...(of(r) ?? { ...who, current: null, rpm: null, temperature: null }), [key]: read };
    const rest = value.filter((v) => v.unit !== r.unit || v.copy !== r.copy);
    const empty = READ.every(([k]) => next[k] === null);
    onChange(empty ? rest : [...rest, next]);
  };
  return (
    <div>
      <ul className="flex flex-col gap-1">
        {rows.map((r) => (
          <li
            key={`${r.unit} ${r.copy}`}
            className={
              "grid grid-cols-3 items-center gap-1 border-b border-hair pb-1 " +
              "min-[641px]:grid-cols-[minmax(0,1fr)_repeat(3,8rem)]"
            }
          >
            <span className="max-[640px]:col-span-3">{r.name}</span>
            {READ.map(([key, dimension, unit]) => (
              <QuantityField
                key={key}
                boxed
                label={`${r.name}, ${key}`}
                dimension={dimension}
                empty={key === "temperature" ? `${DISPLAY[habit].temperature} after` : unit}
                value={of(r)?.[key] ?? null}
                onCommit={(read) => {
                  const [least, most] = DRIVE_READ[key];
                  if (read !== null && !(read >= least && read <= most))
                    return `accepted: ${plain(least, dimension, habit, 0)} to ${plain(most, dimension, habit, 0)}`;
                  put(r, key, read);
                  return null;
                }}
              />
            ))}
          </li>
        ))}
      </ul>
      <OddDrives rows={rows} readings={value} />
    </div>
  );
}
