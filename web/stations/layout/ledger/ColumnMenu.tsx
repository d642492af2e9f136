import { DropdownMenu } from "radix-ui";
import type { Column } from "./numbers";

/** Name of a column that has no head. */
const UNHEADED: Record<string, string> = { massBy: "mass known by", placeBy: "place known by" };

/** Which columns are shown. */
export function ColumnMenu({
  columns,
  shown,
  onShow,
}: {
  columns: Column[];
  shown: Record<string, boolean>;
  onShow: (id: string, on: boolean) => void;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="link">columns</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="z-40 border border-ink bg-paper p-2 text-[12px]" align="end">
          {columns.map((c) => (
            <DropdownMenu.CheckboxItem
              key={c.id}
              className="flex min-h-6 cursor-pointer items-center gap-2 px-2 data-highlighted:bg-tint-accent"
              checked={shown[c.id] !== false}
              onCheckedChange={(on) => onShow(c.id, on)}
              onSelect={(e) => e.preventDefault()}
            >
              <span className="inline-block w-4 text-accent">{shown[c.id] !== false ? "✓" : ""}</span>
              {c.head || UNHEADED[c.id] || c.id}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
