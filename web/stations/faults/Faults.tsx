import { useMemo } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useSearchParams } from "react-router";
import { type Fault, newFault } from "../../../core/design/craftFile";
import { HalfList } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { faultName } from "../runs/words";
import { CatalogueSheet } from "./CatalogueSheet";
import { CostChart } from "./CostChart";
import { FaultForm, faultFormName } from "./FaultForm";

const STATE_COLOUR: Record<Fault["state"], string> = {
  open: "text-care",
  closed: "text-care",
  proven: "text-clear",
  "cured, cause unknown": "text-ink",
  unresolved: "text-care",
};

export function FaultsStation() {
  const { slug, file, version, go } = useDesk();
  const [search, setSearch] = useSearchParams();
  const ownRuns = file.runs.filter((r) => r.version === version.label);
  const making = Number(search.get("new") ?? Number.NaN);
  const asked = Number(search.get("fault") ?? Number.NaN);
  const here = file.faults.filter((f) => ownRuns.some((r) => r.number === f.run));
  const sheet = search.has("catalogue") ? "catalogue" : search.has("costs") ? "costs" : null;
  const fault = sheet
    ? undefined
    : (file.faults.find((f) => f.number === asked) ??
      (Number.isFinite(making) ? undefined : (here.at(-1) ?? file.faults.at(-1))));
  const symptom = search.get("symptom");
  const seen = search.get("seen");
  const start = useMemo(
    () => (Number.isFinite(making) ? { ...newFault(making), symptom, seen: seen ?? "" } : null),
    [making, symptom, seen],
  );
  const lastRun = ownRuns.at(-1) ?? file.runs.at(-1);
  const { keys } = usePreferences();
  useHotkeys("n", () => setSearch({ new: String(lastRun?.number) }), {
    enabled: keys && lastRun !== undefined && start === null,
    preventDefault: true,
  });
  const content = () => {
    if (sheet === "catalogue") return <CatalogueSheet />;
    if (sheet === "costs") return <CostChart />;
    const saved = (n: number) => setSearch({ fault: String(n) });
    if (start) return <FaultForm key="new" fault={start} number={null} onSaved={saved} onGone={() => setSearch({})} />;
    if (fault)
      return (
        <FaultForm
          key={fault.number}
          fault={fault}
          number={fault.number}
          onSaved={saved}
          onGone={() => setSearch({})}
        />
      );
    return (
      <>
        <h2 className="text-[18px]">No fault recorded</h2>
        {lastRun ? (
          <p className="mt-2 max-w-lg">
            When something goes wrong, write down what was seen before anything is moved. The suspects come by
            themselves.
          </p>
        ) : (
          <p className="mt-2 max-w-lg">
            A fault belongs to the run in which it was seen.{" "}
            <button type="button" className="link" onClick={() => go({ station: "runs" })}>
              Log a run first
            </button>
            .
          </p>
        )}
      </>
    );
  };
  return (
    <div
      className={
        "grid h-full grid-cols-[184px_1fr] print:grid-cols-[minmax(0,1fr)] max-[640px]:h-auto " +
        "max-[640px]:grid-cols-[minmax(0,1fr)]"
      }
    >
      <nav
        aria-label="Faults"
        className={
          "border-r border-hair px-4 py-3 print:hidden max-[640px]:max-h-52 max-[640px]:overflow-y-auto " +
          "max-[640px]:border-b max-[640px]:border-r-0"
        }
      >
        <h2>Faults</h2>
        <HalfList
          slug={slug}
          version=""
          open={start ? faultFormName(null) : fault ? faultFormName(fault.number) : null}
          name={(form) =>
            form === "fault new" ? "New fault" : form.startsWith("fault ") ? faultName(Number(form.slice(6))) : null
          }
          onOpen={(form) =>
            setSearch(form === "fault new" ? { new: String(lastRun?.number ?? "") } : { fault: form.slice(6) })
          }
        />
        <ul className="mt-2">
          {file.faults.toReversed().map((f) => (
            <li key={f.number} className="border-b border-hair">
              <button
                type="button"
                aria-current={f.number === fault?.number && !start ? "true" : undefined}
                className={`w-full py-1 text-left ${f.number === fault?.number && !start ? "text-accent" : "text-ink"}`}
                onClick={() => setSearch({ fault: String(f.number) })}
              >
                <b className="num">{faultName(f.number)}</b> {f.title}
                <span className={`block text-[11px] ${STATE_COLOUR[f.state]}`}>
                  {f.state}
                  {f.state === "closed" && ", fix not yet proven"}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {lastRun && (
          <button
            type="button"
            className="act act-first no-print mt-3"
            onClick={() => setSearch({ new: String(lastRun.number) })}
          >
            Record a fault
          </button>
        )}
        <p className="no-print mt-3 flex flex-col items-start gap-2">
          <button type="button" className="link" onClick={() => setSearch({ costs: "1" })}>
            What they have cost
          </button>
          <button type="button" className="link" onClick={() => setSearch({ catalogue: "1" })}>
            Catalogue
          </button>
        </p>
      </nav>
      <section className="min-w-0 px-4 py-3">{content()}</section>
    </div>
  );
}
