import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { z } from "zod";
import { type Rate, contracts } from "../../api/contracts";
import { openCraftFile } from "../../core/design/openFile";
import { Dialog } from "../app/Dialog";
import { ApiError, readAnswer, sayError } from "../app/client";
import { isTar } from "./craftTar";

/** What the amounts of a file are in, and what they are in here. */
const otherSchema = z.object({ from: z.string(), to: z.string() });

/** What is sent of a craft file: a tar as it is, whatever its pictures; JSON after it was read here. */
async function bodyOf(file: File): Promise<{ type: string; body: BodyInit }> {
  if (await isTar(file)) return { type: "application/x-tar", body: file };
  const opened = openCraftFile(JSON.parse(await file.text()) as unknown);
  if (opened.ok) return { type: "application/json", body: JSON.stringify(opened.file) };
  const [problem] = opened.problems;
  throw new Error(`${file.name}: ${problem?.path.join(" › ") || "file"}: ${problem?.message ?? "not valid"}`);
}

/** Brings a craft file in. One with amounts in another currency is asked about. */
export function ImportButton() {
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [asked, setAsked] = useState<{ file: File; says: string; from: string; to: string } | null>(null);

  const read = async (file: File, rate?: Rate) => {
    const contract = contracts.importCraft;
    try {
      const { type, body } = await bodyOf(file);
      const path = rate === undefined ? contract.path : `${contract.path}?rate=${rate}`;
      const { slug } = await readAnswer(contract, () =>
        fetch(path, { method: "POST", headers: { "content-type": type }, body }),
      );
      setAsked(null);
      await queries.invalidateQueries({ queryKey: ["crafts"] });
      void navigate(`/craft/${slug}`);
    } catch (error) {
      const other = error instanceof ApiError ? otherSchema.safeParse(error.problem.current).data : undefined;
      if (other) setAsked({ file, says: sayError(error), ...other });
      else
        toast.error(
          error instanceof SyntaxError
            ? `${file.name} is not JSON. Accepted: a craft exported by Ultraform (.json, or .tar with its pictures).`
            : sayError(error),
          { duration: 15_000 },
        );
    }
  };
  return (
    <>
      <button type="button" className="act" onClick={() => input.current?.click()}>
        Import a craft file
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,.tar,application/json,application/x-tar"
        aria-label="Craft file"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void read(file);
          e.target.value = "";
        }}
      />
      <Dialog open={asked !== null} title="Amounts in another currency" onClose={() => setAsked(null)}>
        {asked && <RateForm {...asked} onRate={(rate) => void read(asked.file, rate)} />}
      </Dialog>
    </>
  );
}

function RateForm({
  says,
  from,
  to,
  onRate,
}: {
  says: string;
  from: string;
  to: string;
  onRate: (rate: Rate) => void;
}) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState(false);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const rate = Number(text.trim().replace(",", "."));
    if (text.trim() !== "" && rate > 1e-9 && rate < 1e9) onRate(rate);
    else setWrong(true);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>{says}</p>
      <label className="flex items-center gap-2">
        1 {from} is
        <input
          className="box num w-24!"
          inputMode="decimal"
          autoComplete="off"
          aria-label={`1 ${from} in ${to}`}
          aria-invalid={wrong}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        {to}
      </label>
      {wrong && (
        <p role="alert" className="text-stop">
          Accepted: a number above zero, such as 1.16.
        </p>
      )}
      <p className="flex gap-2">
        <button type="submit" className="act act-first">
          Convert and import
        </button>
        <button type="button" className="act" onClick={() => onRate("none")}>
          Leave amounts out
        </button>
      </p>
    </form>
  );
}
