import { useDesk } from "../app/desk";

/** One of the drives of the craft, by its name. */
export function DriveSelect({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string;
  value: string | undefined;
  disabled?: boolean;
  onChange: (id: string) => void;
}) {
  const { design } = useDesk();
  return (
    <select
      className="box"
      aria-label={label}
      value={value}
      disabled={disabled}
      onChange={(e) => onChange(e.target.value)}
    >
      {design.units.map((u) => (
        <option key={u.id} value={u.id}>
          {u.name}
        </option>
      ))}
    </select>
  );
}
