/** Chooses a rung of a ladder by its number and name. */
export function RungSelect({
  rungs,
  value,
  onChange,
}: {
  rungs: readonly { stage: number; name: string }[];
  value: number;
  onChange: (stage: number) => void;
}) {
  return (
    <label>
      Rung
      <select className="box" value={value} onChange={(e) => onChange(Number(e.target.value))}>
        {rungs.map((r) => (
          <option key={r.stage} value={r.stage}>
            {r.stage} {r.name}
          </option>
        ))}
      </select>
    </label>
  );
}
