/**
 * What stands where a page or a sheet is still on its way. Whoever waits for the page (a reader aloud, a test) can tell
 * it by `aria-busy`.
 */
export function Opening({ what }: { what?: string }) {
  return (
    <p className="p-6 text-pencil" role="status" aria-busy="true">
      Opening {what === undefined ? "…" : `${what} …`}
    </p>
  );
}
