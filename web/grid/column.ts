import type { ReactNode } from "react";

/** A column of a list that is edited like a spreadsheet. `D` is the document that holds the rows. */
export interface GridColumn<Row, Derived, D> {
  id: string;
  head: string;
  width?: string;
  right?: boolean;
  cell: (row: Row, derived: Derived) => ReactNode;
  /** Of the rows of one group, or of all. */
  sum?: (rows: Row[]) => ReactNode;
  /** What the list is sorted by; without it the column is not sorted by. */
  by?: (row: Row) => string | number | null;
  /** The cell as text that `write` understands, for the clipboard. */
  text?: (row: Row) => string;
  /** Puts text into the cell of a row of a draft; returns why it cannot be. */
  write?: (draft: D, row: Row, text: string) => string | null;
}
