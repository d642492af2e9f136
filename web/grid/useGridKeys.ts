import { type KeyboardEvent, type RefObject, useCallback } from "react";

/** What the keys of a list do beyond moving in it. */
export interface GridHands {
  /** Another row after the last; the name of the new one takes the focus by itself. */
  addRow: () => void;
  /** Puts what stands in the cell above into this one, or the first of the chosen rows into the others. */
  fillDown: (row: string, column: string) => void;
  undo: () => void;
  redo: () => void;
  removeRows: (row: string) => void;
  duplicateRows: (row: string) => void;
  /** Moves a row of the list up or down by one. */
  shiftRow: (row: string, by: 1 | -1) => void;
  copyRows: (row: string) => void;
}

const FIELD = "input:not([type=checkbox]):not([type=file])";
const cellOf = (e: Element | null) => e?.closest<HTMLElement>("[data-col]") ?? null;
const rowOf = (e: Element | null) => e?.closest<HTMLElement>("[data-row]") ?? null;
const enter = (cell: Element | null | undefined): boolean => {
  const field = cell?.querySelector<HTMLElement>(`${FIELD}, select, button`);
  field?.focus();
  return field !== null && field !== undefined;
};

/** The same column of the next row that is drawn and has it. */
function beside(row: HTMLElement, column: string, step: 1 | -1): Element | null {
  let next = step === 1 ? row.nextElementSibling : row.previousElementSibling;
  while (next) {
    const cell = next.querySelector(`[data-col="${column}"]`);
    if (next.matches("[data-row]") && cell) return cell;
    next = step === 1 ? next.nextElementSibling : next.previousElementSibling;
  }
  return null;
}

/** A field in which nothing was typed or placed since it was entered: all of its text is selected. */
const untouched = (field: HTMLInputElement) =>
  field.selectionStart === 0 && field.selectionEnd === field.value.length && field.selectionDirection !== "backward";
/** Whether the caret cannot go further this way inside the field. */
const atEdge = (field: HTMLInputElement, step: 1 | -1) =>
  untouched(field) ||
  (field.selectionStart === field.selectionEnd && field.selectionStart === (step === 1 ? field.value.length : 0));

/**
 * Keys of a list that is edited like a spreadsheet: arrows go from cell to cell (left and right where the caret
 * stands at an end), Enter down and Tab right beyond the last cell add a row, F2 puts the caret into the text,
 * Ctrl+D fills down; on the row's number Delete removes, Ctrl+D duplicates, Ctrl+C copies, Alt with an arrow moves.
 */
export function useGridKeys(kept: RefObject<GridHands>) {
  return useCallback(
    (event: KeyboardEvent<HTMLElement>) => {
      const hands = kept.current;
      const target = event.target as HTMLElement;
      const [cell, row] = [cellOf(target), rowOf(target)];
      const { key } = event;
      const command = event.ctrlKey || event.metaKey;
      if (!cell || !row) return;
      const [column, id] = [cell.dataset.col ?? "", row.dataset.row ?? ""];
      const take = (act: () => void) => {
        event.preventDefault();
        event.stopPropagation();
        act();
      };
      const field = target.matches(FIELD) ? (target as HTMLInputElement) : null;
      const onNumber = target.matches("[data-number]");
      if (command && key.toLowerCase() === "d")
        return take(() => (onNumber ? hands.duplicateRows(id) : hands.fillDown(id, column)));
      if (command && key.toLowerCase() === "z" && (field === null || untouched(field)))
        return take(() => (event.shiftKey ? hands.redo() : hands.undo()));
      if (command && key.toLowerCase() === "y" && (field === null || untouched(field))) return take(hands.redo);
      if (onNumber && command && key.toLowerCase() === "c") return take(() => hands.copyRows(id));
      if (onNumber && (key === "Delete" || key === "Backspace")) return take(() => hands.removeRows(id));
      if (event.altKey && (key === "ArrowDown" || key === "ArrowUp"))
        return take(() => hands.shiftRow(id, key === "ArrowDown" ? 1 : -1));
      if (command || event.altKey) return;
      if (key === "F2" && field) return take(() => field.setSelectionRange(field.value.length, field.value.length));
      if ((key === "ArrowDown" || key === "ArrowUp") && (field || onNumber)) {
        const step = key === "ArrowDown" ? 1 : -1;
        const next = beside(row, column, step);
        if (next) return take(() => void enter(next));
        return step === 1 && row.dataset.last !== undefined ? take(hands.addRow) : undefined;
      }
      if (key === "ArrowLeft" || key === "ArrowRight") {
        const step = key === "ArrowRight" ? 1 : -1;
        if (event.shiftKey || (field && !atEdge(field, step))) return;
        let next = step === 1 ? cell.nextElementSibling : cell.previousElementSibling;
        while (next && !next.querySelector(`${FIELD}, select, [data-number]`))
          next = step === 1 ? next.nextElementSibling : next.previousElementSibling;
        return next ? take(() => void enter(next)) : undefined;
      }
      // The field has taken its own Enter by now: it is left, and its value is in the design.
      if (key === "Enter" && field && !event.shiftKey && row.dataset.last !== undefined) return take(hands.addRow);
      if (key === "Tab" && !event.shiftKey && row.dataset.last !== undefined) {
        const fields = [...row.querySelectorAll<HTMLElement>(FIELD)];
        if (fields.at(-1) === target)
          return take(() => {
            target.blur();
            hands.addRow();
          });
      }
    },
    [kept],
  );
}
