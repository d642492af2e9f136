import { useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import { call, sayError } from "../app/client";

const useWorkshop = () => useQuery({ queryKey: ["workshop"], queryFn: () => call(contracts.workshop, {}) });

/** What happened when the workshop was opened: said once, where it is seen. */
export function Notes() {
  const { data } = useWorkshop();
  if (!data || data.notes.length === 0) return null;
  return (
    <ul aria-label="What happened when the workshop was opened" className="border-l-[3px] border-care pl-2 pt-2">
      {data.notes.map((n) => (
        <li key={n} className="text-ink">
          {n}
        </li>
      ))}
    </ul>
  );
}

const megabytes = (bytes: number) => `${bytes < 1e6 ? "less than 1" : Math.round(bytes / 1e6)} MB`;
const when = (iso: string) => iso.slice(0, 16).replace("T", " ");

/** Backups, and the devices that were let in. */
export function Keeping() {
  const { data } = useWorkshop();
  if (!data) return null;
  return (
    <section aria-label="Backup" className="border-t border-hair px-4 py-3">
      <h2>Backup</h2>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <a className="act" href={contracts.backup.path} download>
          Back up everything
        </a>
        <span>Crafts, records, parts, catalogue and pictures in one file. Put it on another disk.</span>
      </p>
      {data.folder !== null && (
        <p className="mt-2 text-[12px]">
          {data.copies[0]
            ? `A copy is made every day; the last on ${when(data.copies[0].at)} (${megabytes(data.copies[0].size)}), ${data.copies.length} kept in ${data.folder}/backups.`
            : `A copy is made every day while the server runs, in ${data.folder}/backups. None yet.`}{" "}
          Restore with the server stopped: <code className="num">npm run ultraform -- restore FILE</code>
        </p>
      )}
      {data.beyond && <Devices />}
    </section>
  );
}

function Devices() {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: ["devices"], queryFn: () => call(contracts.listDevices, {}) });
  const withdraw = async (id: number, name: string) => {
    try {
      await call(contracts.withdrawDevice, { params: { id } });
      toast.success(`${name} is not let in any more.`);
    } catch (error) {
      toast.error(sayError(error));
    }
    await queries.invalidateQueries({ queryKey: ["devices"] });
  };
  return (
    <section aria-label="Devices let in" className="mt-3">
      <h3>Devices let in</h3>
      <ul>
        {data?.map((d) => (
          <li key={d.id} className="flex min-h-7 items-center gap-3 border-b border-hair">
            <span className="text-ink">{d.name}</span>
            <span className="text-[11px] text-pencil">
              since {when(d.since)}, last seen {when(d.seen)}
              {d.own && ", this one"}
            </span>
            <button
              type="button"
              className="link ml-auto"
              aria-label={`Withdraw ${d.name}`}
              onClick={() => void withdraw(d.id, d.name)}
            >
              withdraw
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
