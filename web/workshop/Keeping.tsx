import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import { type Money as MoneyOf, moneySign, signOf } from "../../core/design/money";
import { call, sayError } from "../app/client";
import { setMoney, useMoneyHere } from "../app/money";
import { useWorkshop } from "../app/workshopMoney";
import { QuantityField } from "../fields/QuantityField";

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

const CURRENCIES = Intl.supportedValuesOf("currency");
const nameOf = new Intl.DisplayNames("en", { type: "currency" });

/** What the amounts of this workshop are in. */
export function Money() {
  const queries = useQueryClient();
  const money = useMoneyHere();
  const [changed, setChanged] = useState<string | null>(null);
  const save = async (next: MoneyOf) => {
    try {
      const was = money.currency;
      setMoney(await call(contracts.saveMoney, { body: next }));
      if (was !== next.currency) setChanged(was);
      await queries.invalidateQueries();
    } catch (error) {
      toast.error(sayError(error));
    }
  };
  return (
    <section aria-label="Money" className="border-t border-hair px-4 py-3">
      <h2>Money</h2>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <label htmlFor="currency">All amounts are in</label>
        <select
          id="currency"
          className="box w-auto! max-w-full"
          value={money.currency}
          onChange={(e) => void save({ currency: e.target.value, perEuro: e.target.value === "EUR" ? 1 : null })}
        >
          {CURRENCIES.map((c) => (
            <option key={c} value={c}>
              {c}, {nameOf.of(c)}
            </option>
          ))}
        </select>
        {money.currency !== "EUR" && (
          <>
            <span>1 € is about</span>
            <span className="w-24">
              <QuantityField
                boxed
                label="What one euro is worth"
                dimension="money"
                value={money.perEuro}
                empty="not said"
                onCommit={(v) =>
                  v === 0 ? "more than zero is needed" : void save({ currency: money.currency, perEuro: v })
                }
              />
            </span>
            <span>{moneySign()}</span>
          </>
        )}
      </p>
      {money.currency !== "EUR" && money.perEuro === null && (
        <p className="mt-1 text-[12px] text-care">
          Usual prices that come with the application are in euros. Until the line above is filled in, none is shown.
        </p>
      )}
      {changed !== null && (
        <p role="status" className="mt-1 text-[12px] text-care">
          No number was changed: 20 {signOf(changed)} entered before now reads 20 {moneySign()}.
        </p>
      )}
    </section>
  );
}

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
            ? `A copy is made every day; the last on ${when(data.copies[0].at)} ` +
              `(${megabytes(data.copies[0].size)}), ${data.copies.length} kept in ${data.folder}/backups.`
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
