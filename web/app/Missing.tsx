import { Link } from "react-router";

/** What stands where nothing was found. */
export function Missing({ what, detail }: { what: string; detail?: string }) {
  return (
    <main className="p-8">
      <h1>No such {what}</h1>
      <p className="mt-2">{detail ?? "The address leads nowhere."}</p>
      <Link className="link mt-4 inline-block" to="/">
        To the workshop
      </Link>
    </main>
  );
}
