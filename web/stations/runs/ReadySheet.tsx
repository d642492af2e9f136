import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { contracts } from "../../../api/contracts";
import { minutesToGo, readyToTravel } from "../../../core/safety/ready";
import { call } from "../../app/client";
import { useDesk } from "../../app/desk";
import { ClipboardSheet, printSheet } from "../bench/ClipboardSheet";
import { useStops } from "./useLadder";
import { useTicks } from "./useTicks";

/**
 * The other crafts of the workshop, each with whether it got into the open and has no open fault: only then it can
 * run when this one cannot.
 */
function useOtherCrafts(slug: string): { slug: string; name: string; able: boolean }[] {
  const { data } = useQuery({ queryKey: ["crafts"], queryFn: () => call(contracts.listCrafts, {}) });
  return (data ?? [])
    .filter((c) => c.slug !== slug)
    .map((c) => ({ slug: c.slug, name: c.name, able: c.openFaults === 0 && c.versions.some((v) => v[1] >= 4) }));
}

/** Ready to travel? What the records show and what hands must show, with the minutes that turn each red line green. */
export function ReadySheet() {
  const { file, version, design, slug } = useDesk();
  const others = useOtherCrafts(slug);
  const [second, setSecond] = useState(() => localStorage.getItem(`${slug}/second`) ?? "");
  const spare = others.find((c) => c.slug === second) ?? null;
  const choose = (chosen: string) => {
    setSecond(chosen);
    localStorage.setItem(`${slug}/second`, chosen);
  };
  const stops = useStops();
  const lines = readyToTravel(file, { ...version, design }, stops, spare);
  const [ticks, tick] = useTicks(`${slug}/${version.label}/ready`);
  const done = (l: (typeof lines)[number]) => l.state === "green" || ticks.has(l.id);
  const red = lines.filter((l) => l.state === "red" && !ticks.has(l.id));
  const left = minutesToGo(lines, ticks);
  return (
    <section aria-label="Ready to travel" className="text-[13px]">
      <h2 className="border-b border-ink pb-1 text-[18px]">Ready to travel?</h2>
      <p
        className={`mt-2 text-[15px] font-semibold ${red.length > 0 ? "text-stop" : left > 0 ? "text-care" : "text-clear"}`}
        data-travel={red.length > 0 ? "not yet" : "go"}
        aria-live="polite"
      >
        {red.length > 0 ? `Not yet: ${red.length} red` : left > 0 ? "Nothing red; some to see to" : "Ready"}
        {left > 0 && (
          <span className="num">
            {" "}
            about {left < 100 ? `${left} min` : `${(left / 60).toFixed(1)} h`} of work, charging included
          </span>
        )}
      </p>
      <button type="button" className="link no-print text-[12px]" onClick={printSheet}>
        print it
      </button>
      <ul className="mt-1">
        {lines.map((l) => (
          <li key={l.id} data-ready={done(l) ? "green" : l.state} className="border-b border-hair">
            <label className="flex min-h-9 items-center gap-3 py-1">
              <input
                type="checkbox"
                className="h-5 w-5 shrink-0"
                checked={done(l)}
                disabled={l.state === "green" || (l.state === "red" && /^(stop|open|lock)-/.test(l.id))}
                onChange={() => tick(l.id)}
              />
              <span className={`flex-1 ${done(l) ? "text-pencil" : "text-ink"}`}>
                {l.text}
                <span className="block text-[11px] text-pencil">
                  from {l.from}
                  {l.state === "green" && ", shown by the records"}
                </span>
              </span>
              {!done(l) && (
                <span className={`num whitespace-nowrap ${l.state === "red" ? "text-stop" : "text-care"}`}>
                  {l.state === "red" ? "red" : "to do"}
                  {l.minutes > 0 && `, ${l.minutes} min`}
                </span>
              )}
            </label>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <label className="no-print mt-2 flex flex-wrap items-center gap-2">
          The second craft, should this one fail
          <select
            className="box w-auto!"
            aria-label="The second craft"
            value={spare?.slug ?? ""}
            onChange={(e) => choose(e.target.value)}
          >
            <option value="">none named</option>
            {others.map((c) => (
              <option key={c.slug} value={c.slug}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="mt-2 text-[11px] text-pencil">
        Minutes are common practice. What is ticked by hand counts for today.
      </p>
      <ClipboardSheet
        title="Ready to travel?"
        columns={["done", "note"]}
        rows={lines.filter((l) => !done(l)).map((l) => l.text)}
      />
    </section>
  );
}
