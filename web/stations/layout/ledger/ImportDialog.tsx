import { useMemo, useState } from "react";
import { toast } from "sonner";
import type { Design } from "../../../../core/design/schema";
import { mergeOf, toItems, updateFrom } from "../../../../core/exchange/partsExchange";
import type { PartsTable } from "../../../../core/exchange/partsTable";
import { guessReading } from "../../../../core/exchange/partsColumns";
import { readParts, tableSums } from "../../../../core/exchange/partsTable";
import { rowsOfSentence } from "../../../../core/exchange/sentence";
import { plain } from "../../../../core/wording/format";
import { reportText } from "../../../../core/wording/partsTable";
import { Dialog } from "../../../app/Dialog";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { TableFile, useTable } from "../../../fields/TableFile";
import { ImportTable, Signs } from "./ImportTable";
const PREVIEW = 12;

/**
 * A parts list from a file or the clipboard: what was understood, what is refused and why, and what a person may
 * correct; then into the ledger.
 */
/** A sentence is a list too: each quantity of it a row. */
const understand = (text: string, separator?: string) => guessReading(rowsOfSentence(text) ?? text, separator);

export function ImportDialog({ start, onClose }: { start: string; onClose: () => void }) {
  const { edit, design } = useDesk();
  const { text, reading, take, separate, correct } = useTable(understand, start);
  const [evidence, setEvidence] = useState<"guess" | "datasheet" | "measured">("datasheet");
  const sentence = useMemo(() => rowsOfSentence(text), [text]);
  const table = useMemo(() => readParts(sentence ?? text, reading), [sentence, text, reading]);
  const refused = table.reports.filter((r) => r.severity === "error");
  const warned = table.reports.filter((r) => r.severity === "warning");
  const merge = useMemo(() => mergeOf(table.parts, design), [table.parts, design]);
  const [updating, setUpdating] = useState(true);
  const same = updating ? merge.same : [];
  const add = () => {
    const items = toItems(updating ? merge.others : table.parts, design, { evidence });
    const change = (d: Design) => {
      updateFrom(d, same, { evidence, massIs: reading.massIs });
      d.items.push(...items);
    };
    if (edit(change) === null) {
      toast.success(
        `${items.length} parts from the ` +
          `list${same.length > 0 ? `, ${same.length} updated by name` : ""}${refused.length > 0 ? `, ${refused.length} ${refused.length === 1 ? "row" : "rows"} refused` : ""}.`,
      );
      onClose();
    }
  };
  return (
    <Dialog open title="Parts from a list" onClose={onClose} wide>
      <div className="flex max-h-[74vh] flex-col gap-3 overflow-y-auto">
        <div className="flex flex-wrap items-end gap-3">
          <TableFile label="Parts list file" what="a parts list" mostBytes={4_000_000} onText={take} />
          <label className="min-w-60 flex-1">
            or paste rows here, or say it: 113 g tail, 300 nose
            <textarea
              className="box num"
              rows={2}
              aria-label="Rows of a parts list"
              value={text.slice(0, 20_000)}
              onChange={(e) => take(e.target.value)}
            />
          </label>
        </div>
        {text.trim() !== "" && (
          <>
            <section>
              {sentence !== null && (
                <p className="text-care" data-sentence>
                  Read as a sentence: each mass is a row. Look at the rows before you add them.
                </p>
              )}
              <h3 className="text-[13px]">
                What was understood <span className="font-normal text-pencil">correct it where it is wrong</span>
              </h3>
              <Signs
                reading={reading}
                separate={separate}
                correct={correct}
                evidence={evidence}
                setEvidence={setEvidence}
              />
              <ImportTable correct={correct} reading={reading} />
            </section>
            <ImportPreview table={table} />
            <section data-reports>
              {refused.length > 0 && <h3 className="text-[13px] text-stop">Refused, {refused.length}</h3>}
              <ul>
                {refused.map((r) => (
                  <li key={`${r.line}${r.code}`}>
                    <span className="num">line {r.line}</span>: {reportText(r)}
                  </li>
                ))}
              </ul>
              {warned.length > 0 && <h3 className="mt-2 text-[13px] text-care">To look at, {warned.length}</h3>}
              <ul>
                {warned.slice(0, 30).map((r) => (
                  <li key={`${r.line}${r.code}`}>
                    <span className="num">line {r.line}</span>: {reportText(r)}
                  </li>
                ))}
              </ul>
            </section>
          </>
        )}
      </div>
      {merge.same.length > 0 && (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" checked={updating} onChange={(e) => setUpdating(e.target.checked)} />
          {merge.same.length} {merge.same.length === 1 ? "has the name" : "have names"} of parts in the ledger: update
          those instead of adding them again ({merge.same[0]?.name}
          {merge.same.length > 1 ? ", …" : ""})
        </label>
      )}
      <p className="mt-3 flex justify-end gap-2">
        <button type="button" className="act" onClick={onClose}>
          Cancel
        </button>
        <button
          type="button"
          className="act act-first"
          disabled={table.parts.length === 0 || text.trim() === ""}
          onClick={add}
        >
          {same.length > 0
            ? `Update ${same.length}, add ${table.parts.length - same.length}`
            : `Add ${table.parts.length} ${table.parts.length === 1 ? "part" : "parts"}`}
        </button>
      </p>
    </Dialog>
  );
}

/** What would be added, changed, and refused. */
function ImportPreview({ table }: { table: PartsTable }) {
  const { habit } = usePreferences();
  const sums = tableSums(table.parts);
  return (
    <section>
      <h3 className="text-[13px]">
        {[
          `${sums.rows} ${sums.rows === 1 ? "part" : "parts"}`,
          `${sums.pieces} ${sums.pieces === 1 ? "piece" : "pieces"}`,
          plain(sums.mass, "mass", habit),
          ...(sums.cg
            ? [
                `CG${sums.placedMass < sums.mass - 1e-9 ? ` of the ${plain(sums.placedMass, "mass", habit)} that have a place` : ""} ` +
                  `at ${plain(sums.cg.x, "length", habit)}`,
              ]
            : []),
          ...Object.entries(sums.prices).map(([currency, amount]) => `${amount.toFixed(2)} ${currency}`),
        ].join(", ")}
      </h3>
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th className="w-10 text-right!">line</th>
            <th>part</th>
            <th className="text-right!">n</th>
            <th className="text-right!">mass each</th>
            <th className="text-right!">x</th>
            <th className="text-right!">y</th>
            <th className="text-right!">z</th>
            <th className="text-right!">price</th>
          </tr>
        </thead>
        <tbody>
          {table.parts.slice(0, PREVIEW).map((p) => (
            <tr key={p.line}>
              <td className="num text-right text-pencil">{p.line}</td>
              <td className="text-ink">{p.name}</td>
              <td className="num text-right">{p.quantity}</td>
              <td className="num text-right">
                {p.mass === null ? "–" : `${p.rough ? "~" : ""}${plain(p.mass, "mass", habit, 1)}`}
              </td>
              {([p.x, p.y, p.z] as const).map((v, k) => (
                <td key={["x", "y", "z"][k]} className="num text-right">
                  {v === null ? "–" : `${k === 1 && p.pair ? "± " : ""}${plain(v, "length", habit, 0)}`}
                </td>
              ))}
              <td className="num text-right">
                {p.price === null
                  ? ""
                  : `${p.price.toFixed(2)}${p.priceMost === null ? "" : `–${p.priceMost.toFixed(2)}`} ${p.currency}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {table.parts.length > PREVIEW && (
        <p className="text-[12px] text-pencil">and {table.parts.length - PREVIEW} more</p>
      )}
    </section>
  );
}
