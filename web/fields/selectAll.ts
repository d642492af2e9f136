import type { MouseEvent } from "react";

/**
 * Selects all of a field's text as it is entered, in the same turn: what is typed next replaces it, and no later
 * frame moves the selection under the fingers.
 *
 * @param text what the field shows for editing, when that is not what it showed at rest
 */
export function selectAll(input: HTMLInputElement, text?: string): void {
  if (text !== undefined && input.value !== text) input.value = text;
  input.select();
}

/** A click into a field that is not being edited enters it, with all selected; the next one places the caret. */
export function enterByMouse(e: MouseEvent<HTMLInputElement>): void {
  const input = e.currentTarget;
  if (input.disabled || document.activeElement === input) return;
  e.preventDefault();
  input.focus();
}
