import { Link, useRouteError } from "react-router";

/** A page that broke while it was drawn: what was saved is safe, and there is a way on. */
export function Broken() {
  const error = useRouteError();
  return (
    <main className="p-8">
      <h1>This page broke</h1>
      <p className="mt-3 max-w-lg">
        What was saved is safe. Reload the page, or go back to the workshop; if it breaks again, export the craft and
        keep the file.
      </p>
      <p className="num mt-3 text-stop">{error instanceof Error ? error.message : String(error)}</p>
      <p className="mt-4 flex gap-3">
        <button type="button" className="act act-first" onClick={() => window.location.reload()}>
          Reload
        </button>
        <a className="act" href="/">
          To the workshop
        </a>
      </p>
    </main>
  );
}

/** What stands where nothing was found. */
export function Missing({ what, detail }: { what: string; detail?: string }) {
  return (
    <main className="p-8">
      <title>{`No such ${what} · Ultraform`}</title>
      <h1>No such {what}</h1>
      <p className="mt-2">{detail ?? "Page not found."}</p>
      <Link className="link mt-4 inline-block" to="/">
        To the workshop
      </Link>
    </main>
  );
}
