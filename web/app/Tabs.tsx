import { Tabs } from "radix-ui";
import { type ReactNode, memo } from "react";

/** The tabs themselves: they stay as they are while what stands under them changes at every frame. */
const Row = memo(function Row({
  label,
  names,
  small,
}: {
  label: string;
  names: readonly (readonly [string, string])[];
  small: boolean;
}) {
  return (
    <Tabs.List aria-label={label} className="flex flex-wrap gap-x-5">
      {names.map(([name, words]) => (
        <Tabs.Trigger
          key={name}
          value={name}
          className={
            `${small ? "min-h-6 border-b-2 text-[12px]" : "min-h-8 border-b-[3px] font-semibold"} ` +
            "border-transparent text-ink2 data-[state=active]:border-accent " +
            "data-[state=active]:text-accent"
          }
        >
          {words}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
});

/**
 * Sheets of which one is shown, chosen by tabs: arrow keys go from tab to tab, Tab goes on into the sheet.
 *
 * @param aside what stands at the end of the row of tabs
 */
export function Sheets<K extends string>({
  label,
  names,
  value,
  onChange,
  small,
  aside,
  className = "",
  children,
}: {
  label: string;
  names: readonly (readonly [K, string])[];
  value: K;
  onChange: (name: K) => void;
  small?: boolean;
  aside?: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Tabs.Root value={value} onValueChange={(v) => onChange(v as K)}>
      <div className={`no-print flex flex-wrap gap-x-5 ${className}`}>
        <Row label={label} names={names} small={small === true} />
        {aside}
      </div>
      <Tabs.Content value={value} tabIndex={-1}>
        {children}
      </Tabs.Content>
    </Tabs.Root>
  );
}
