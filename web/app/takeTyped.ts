/**
 * A number or text that is half typed counts as entered when the page is left or its address changes, as it does when
 * the field is left: before anything else hears of it, so that it is saved, or asked about, with the rest.
 */
export function takeTypedBeforeLeaving(): void {
  const leave = () => {
    const at = document.activeElement;
    if (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement) at.blur();
  };
  for (const way of ["popstate", "pagehide", "beforeunload"]) window.addEventListener(way, leave, true);
}
