import type { CraftRecord } from "../../api/contracts";
import { newFault } from "../../core/design/craftFile";
import { newPlan, newRun } from "../support/entries";
import { quietDesign } from "../support/designs";
import { send } from "../support/spawn";

/** What a server has acknowledged to one writer. */
export interface Sure {
  slug: string;
  saves: number;
  runs: number;
  plans: number;
  faults: number;
}

/** A craft to write to. */
export async function begin(address: string, name: string): Promise<Sure> {
  const made = await send(address, "POST", "/api/crafts", {
    craft: { name, summary: "" },
    design: quietDesign(),
    question: "",
  });
  if (made.status !== 200) throw new Error(`no craft: ${made.status}`);
  const { slug } = made.body as { slug: string };
  // Runs go to the first version, saves to a draft that grew from it.
  await send(address, "POST", `/api/crafts/${slug}/versions`, { parent: "v1", question: "", reason: "r", claims: [] });
  return { slug, saves: 0, runs: 0, plans: 0, faults: 0 };
}

/**
 * Writes records of every kind, one after the other, until the server answers no more. Counts what was acknowledged.
 */
export async function write(address: string, sure: Sure, most = Number.POSITIVE_INFINITY): Promise<void> {
  const path = `/api/crafts/${sure.slug}`;
  const ok = async (method: string, to: string, body: unknown) =>
    (await send(address, method, `${path}/${to}`, body).catch(() => null))?.status === 200;
  const held = (await send(address, "GET", path).catch(() => null))?.body as CraftRecord | undefined;
  if (!held?.file) return;
  let revision = held.revisions.versions.v2 ?? 0;
  sure.runs = Math.max(0, ...held.file.runs.map((r) => r.number));
  for (let n = 0; n < most; n++) {
    const design = quietDesign();
    design.brief.purpose = `save ${revision + 1}`;
    if (!(await ok("PUT", "versions/v2/design", { revision, design }))) return;
    sure.saves = ++revision;
    if (n % 3 !== 0) continue;
    if (
      !(await ok(
        "POST",
        "versions/v1/runs",
        newRun({ stage: 1, key: `field-${String(sure.runs + 1).padStart(4, "0")}` }),
      ))
    )
      return;
    sure.runs++;
    if (!(await ok("POST", "versions/v1/plans", newPlan()))) return;
    sure.plans++;
    if (!(await ok("POST", "faults", { ...newFault(sure.runs), title: `fault ${sure.faults + 1}` }))) return;
    sure.faults++;
  }
}

/** What of the acknowledged is not there, in words; nothing when all is. */
export async function missing(address: string, sure: Sure): Promise<string[]> {
  const answer = await send(address, "GET", `/api/crafts/${sure.slug}`);
  if (answer.status !== 200) return [`${sure.slug}: ${answer.status} ${JSON.stringify(answer.body).slice(0, 200)}`];
  const { file, revisions, broken } = answer.body as CraftRecord;
  const out: string[] = [];
  const least = (what: string, there: number, wanted: number) => {
    if (there < wanted) out.push(`${sure.slug}: ${what} ${there} of ${wanted}`);
  };
  least("save", revisions.versions.v2 ?? -1, sure.saves);
  least("runs", file.runs.length, sure.runs);
  least("plans", file.plans.length, sure.plans);
  least("faults", file.faults.length, sure.faults);
  const purpose = file.versions.find((v) => v.label === "v2")?.design.brief.purpose;
  if (sure.saves > 0 && purpose !== `save ${revisions.versions.v2}`)
    out.push(`${sure.slug}: ${purpose} at revision ${revisions.versions.v2}`);
  if (broken.length > 0) out.push(`${sure.slug}: broken ${JSON.stringify(broken).slice(0, 200)}`);
  if ((await send(address, "GET", `/api/crafts/${sure.slug}/export`)).status !== 200)
    out.push(`${sure.slug}: no export`);
  return out;
}
