import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, WAIT } from "../support/page";
import { type Printed, printed } from "../support/pdf";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

/** What one would pin up, and words that must stand on it whole. */
const PAGES: [string, string, string[]][] = [
  ["the mass list", "/craft/tern/v5/layout", ["Mass and centre of gravity", "nose to tail"]],
  ["the balance plan", "/craft/tern/v5/layout?sheet=balance", []],
  ["the brief", "/craft/samphire/v2/brief", ["Target", "wanted", "predicted"]],
  ["the states", "/craft/annulus/v2/stability", ["Moment left in level hover", "Between the states"]],
  ["a run", "/craft/tern/v4/runs", ["Test ladder"]],
  ["a checklist", "/craft/tern/v5/runs?list=at+the+site", ["Checklists"]],
  ["ready to travel", "/craft/tern/v5/runs?ready=1", ["Ready to travel?"]],
  ["a fault", "/craft/tern/v4/faults", ["v4", "Suspects", "test to confirm or rule out"]],
  ["the build report", "/craft/tern/v4/versions?report=1", []],
  ["a planned run", "/craft/tern/v5/runs?plan=2", []],
  ["before and after", "/craft/tern/v4/versions?from=v3", ["Before and after", "What it did"]],
  ["the field page", "/field/tern/v4", []],
  ["the current path", "/craft/lantern/v2/power?sheet=path", []],
];

describe("on paper, A4 and Letter,", () => {
  it.each(PAGES)("%s is whole: no column cut, nothing at the edges", async (_, path, wanted) => {
    await user.open(path);
    const heads = await user.page.$$eval("main th", (all) =>
      all
        .filter((e) => e.getClientRects().length > 0 && !e.closest(".no-print, .sr-only, details:not([open])"))
        .map((e) => (e as HTMLElement).innerText.trim()),
    );
    for (const format of ["A4", "Letter"] as const)
      whole(await printed(user.page, format), format, [...heads, ...wanted]);
  });
});

describe("the drawing on paper", () => {
  /** Where a text stands on its sheet, pt from the left. */
  const at = (sheets: readonly Printed[], text: string) =>
    sheets.map((s) => s.words.find((w) => w.text.trim() === text)?.x).filter((x) => x !== undefined);
  const MM = 72 / 25.4;

  it("is true to scale on one sheet, and full size over many; each carries a line that is measured", async () => {
    await user.open("/craft/tern/v5/layout?sheet=paper");
    await user.see("The drawing on paper, to scale");
    const one = await printed(user.page, null);
    expect(one.length).toBe(1);
    expect([one[0]?.width, one[0]?.height].map((v) => Math.round((v ?? 0) / MM))).toEqual([297, 210]);
    // The line for the ruler: its ends are 100 mm apart, from the corner of one text to that of the other.
    const [end = 0] = at(one, "100 mm");
    const start = Math.min(...(one[0]?.words ?? []).filter((w) => w.text.trim() === "0").map((w) => w.x));
    expect((end - start) / MM).toBeCloseTo(100, 0);
    // 1:5: the marks 100 and 300 of the craft (both of three digits, set about their middle) are 40 mm apart.
    const apart = (sheets: readonly Printed[]) => ((at(sheets, "300")[0] ?? 0) - (at(sheets, "100")[0] ?? 0)) / MM;
    expect(await user.page.$eval('[aria-label="Scale"]', (e) => (e as HTMLSelectElement).value)).toBe("0.2");
    expect(apart(one)).toBeCloseTo(40, 0);
    for (const name of ["1 Nose block", "16 Fin and tailplane"])
      expect(one.flatMap((s) => s.words.map((w) => w.text)).join(" ")).toContain(name);
    for (const s of one) expect(s.inkAtEdges).toBeLessThan(0.001);

    await user.choose("Scale", "1");
    const full = await printed(user.page, null);
    expect(full.length).toBeGreaterThan(8);
    expect(at(full, "100 mm").length).toBe(full.length);
    // What stands in two neighbours' common strip stands there twice, as far apart as the sheets are laid.
    expect(full.every((s) => s.inkAtEdges < 0.001)).toBe(true);
    // Away from it the page prints as it stands again.
    await user.click("Parts");
    await user.page.waitForFunction(() => document.documentElement.dataset.print === undefined, { timeout: WAIT });
  });
});

/** Nothing is cut, nothing stands at an edge, and all of these words are there. */
function whole(sheets: readonly Printed[], format: "A4" | "Letter", wanted: readonly string[]): void {
  expect(sheets.length).toBeGreaterThan(0);
  const [w, h] = format === "A4" ? [595, 842] : [612, 792];
  for (const s of sheets) {
    expect(Math.abs(s.width - w) + Math.abs(s.height - h)).toBeLessThan(4);
    for (const word of s.words) {
      expect(word.x, word.text).toBeGreaterThanOrEqual(14);
      expect(word.x + word.width, word.text).toBeLessThanOrEqual(s.width - 14);
    }
    expect(s.inkAtEdges).toBeLessThan(0.001);
  }
  // Every head of every table that the page shows is on the paper, in the order of its letters.
  const paper = sheets
    .flatMap((s) => s.words.map((x) => x.text))
    .join("")
    .replaceAll(/\s+/g, "");
  for (const text of wanted.filter((t) => t !== ""))
    expect(paper, `${text}, on ${format}`).toContain(text.replaceAll(/\s+/g, ""));
  // What belongs to the screen stays there.
  expect(paper).not.toContain("Undo");
}
