import { contracts } from "../../api/contracts";
import { readAnswer } from "../app/client";

/** Whether a file is a tar: its sign stands at a fixed place. */
export async function isTar(file: Blob): Promise<boolean> {
  return (await file.slice(257, 262).text()) === "ustar";
}

/** Sends a craft that was exported with its pictures beside it. */
export async function sendCraftTar(file: Blob): Promise<{ slug: string }> {
  const contract = contracts.importCraft;
  return readAnswer(contract, () =>
    fetch(contract.path, { method: "POST", headers: { "content-type": "application/x-tar" }, body: file }),
  );
}
