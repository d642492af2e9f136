import { writeFileSync } from "node:fs";
import { join } from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

const choose = async (path: string) => {
  const input = await user.page.waitForSelector('input[aria-label="Body file"]');
  await (input as unknown as ElementHandle<HTMLInputElement>).uploadFile(path);
};
const bodies = async () => (await demo.design("gannet")).bodies;

/** A binary STL of a box, its numbers in whatever unit; as many of its twelve triangles as wanted. */
function boxStl(name: string, size: [number, number, number], triangles = 12): string {
  const at = (k: number) => [k & 1 ? size[0] : 0, k & 2 ? size[1] : 0, k & 4 ? size[2] : 0];
  const faces = ["0231", "4576", "0154", "2673", "0462", "1375"];
  const all = faces.flatMap((f) => {
    const [a = 0, b = 0, c = 0, d = 0] = [...f].map(Number);
    return [
      [a, b, c],
      [a, c, d],
    ];
  });
  const bytes = Buffer.alloc(84 + 50 * triangles);
  bytes.write("solid box");
  bytes.writeUInt32LE(triangles, 80);
  for (const [t, corners] of all.slice(0, triangles).entries())
    for (const [i, v] of corners.flatMap(at).entries()) bytes.writeFloatLE(v, 84 + 50 * t + 12 + 4 * i);
  const file = join(demo.work, name);
  writeFileSync(file, bytes);
  return file;
}

describe("a body from a file", () => {
  it("is a hull from its offsets: what is refused is named by its line, and one sees it before it is taken", async () => {
    await user.go("/craft/gannet/v2/stability?sheet=bodies");
    const before = (await bodies()).length;
    await user.click("A body from a file");
    await choose(
      demo.file(
        "plug.csv",
        `# lines of the plug, marks at 40 mm
station;x;y;z
0;0;0;10
0;0;2;60
1;250,0;0;4
1;250,0;-14;20
1;250,0;40,5;30
1;250,0;48;80
2;600,0;0;6
2;600,0;about 44;30
2;600,0;44;82
`,
      ),
    );
    await user.see(/Not yet: the unit of “x”: the table names none/);
    await user.choose("Unit of x", "mm");
    await user.see(/3\sstations, 7 points; 2 refused/);
    // On a phone the columns can be put right too.
    await user.page.setViewport({ width: 390, height: 844 });
    expect(await user.page.$eval("dialog .wide", (e) => e.getBoundingClientRect().height)).toBeGreaterThan(60);
    await user.page.setViewport({ width: 1280, height: 800 });
    await user.see("Line 6: a half-breadth below zero (-14)");
    await user.see("Line 10: “about 44” under “y” is not a number");
    await user.page.waitForSelector('svg[aria-label="plug in three views, nose left"] [data-shapes="front"] path');
    await user.fill("Name of the body", "Middle hull");
    await user.see("Not yet: where in the craft it stands, along and up");
    await user.fill("nose at x", "120");
    await user.fill("lowest at z", "4");
    await user.click("Add this body");
    await user.saved();
    const hull = (await bodies()).at(-1);
    expect((await bodies()).length).toBe(before + 1);
    expect(hull).toMatchObject({ name: "Middle hull", across: "free", shapeBy: "datasheet", y: 0, mirrored: false });
    expect(hull?.frames.map((f) => [f.x, f.width, f.outline?.length])).toEqual([
      [0.12, 0.004, 2],
      [0.37, 0.096, 3],
      [0.72, 0.088, 2],
    ]);
    expect(await user.read(`[data-gives="${hull?.id}"]`)).toMatch(/600\.0\smm long; \d\.\d\d\sl around x/);
    await user.fill("Middle hull, water up to z", "40");
    await user.see(
      /\d\.\d\d\sl below: \d+\sg of (fresh|sea) water, around x .* how the whole craft floats is not computed here/,
    );
    await user.fill("Middle hull, water up to z", "-40");
    await user.see("nothing of it is below");
  });
  it("is a mesh: its unit is asked, and an open one gives no volume and is a guess", async () => {
    const before = (await bodies()).length;
    await user.click("A body from a file");
    await choose(boxStl("float.stl", [500, 60, 80]));
    await user.see("In which unit is it? STL names none.");
    await user.choose("Unit of the mesh", "ft");
    await user.see("152 m long: 1 mm to 100 m is accepted");
    await user.choose("Unit of the mesh", "mm");
    await user.see(/12 triangles, 500\.0\smm × 60\.0\smm × 80\.0\smm, skin 14\.96\sdm², closed, 2\.40\sl/);
    await user.choose("up is", "−x");
    await user.see("cannot point along one axis");
    await user.choose("up is", "+z");
    await user.see(/closed, 2\.40\sl/);
    await choose(boxStl("open.stl", [500, 60, 80], 10));
    await user.see(/No volume can be given as fact: it is open: 4 edges belong to one triangle only, round 1 hole/);
    expect(await user.page.$eval("dialog [data-gives]", (e) => e.textContent)).not.toMatch(/\sl\b/);
    await choose(demo.file("none.stl", "solid nothing at all"));
    await user.see("This is not STL");
    await choose(boxStl("float.stl", [500, 60, 80]));
    await user.click("where the file has it");
    await user.fill("middle to starboard", "-200");
    await user.click("the same to port");
    await user.click("Add this body");
    await user.saved();
    const found = await bodies();
    expect(found.length).toBe(before + 1);
    expect(found.at(-1)).toMatchObject({ name: "float", y: -0.2, mirrored: true, across: "free" });
  });
  it(
    "has sections that are drawn: keys move a point, Enter adds one, Delete takes it away, undo brings it " + "back",
    async () => {
      const hull = (list: Awaited<ReturnType<typeof bodies>>) => list.find((b) => b.name === "Middle hull");
      const was = hull(await bodies());
      const point = (k: number) => `circle[aria-label^="Middle hull, frame 2, point ${k}:"]`;
      await user.page.$eval(point(3), (e) => (e as SVGElement).focus());
      await user.page.keyboard.press("ArrowLeft");
      await user.page.keyboard.press("ArrowLeft");
      await user.saved();
      expect(hull(await bodies())?.frames[1]?.width).toBeCloseTo(0.1, 6);
      await user.page.$eval(point(2), (e) => (e as SVGElement).focus());
      await user.page.keyboard.press("Enter");
      await user.page.waitForSelector(point(4));
      await user.page.keyboard.press("Delete");
      await user.page.waitForFunction((s) => document.querySelector(s) === null, {}, point(4));
      for (let k = 0; k < 3; k++) await user.click("Undo");
      await user.saved();
      expect(hull(await bodies())).toEqual(was);
      expect(demo.pageErrors).toEqual([]);
    },
  );
});

describe("a list that is no ledger", () => {
  const frames = async () => (await bodies()).find((b) => b.name === "Middle hull")?.frames ?? [];
  const value = (label: string) =>
    user.page.$eval(`input[aria-label="${label}"]`, (e) => (e as HTMLInputElement).value);
  const paste = (label: string, text: string) =>
    user.page.$eval(
      `input[aria-label="${label}"]`,
      (e, pasted) => {
        (e as HTMLInputElement).focus();
        const data = new DataTransfer();
        data.setData("text", pasted as string);
        e.dispatchEvent(new ClipboardEvent("paste", { bubbles: true, cancelable: true, clipboardData: data }));
      },
      text,
    );
  it(
    "takes a block of a spreadsheet from a field on, in whatever order it becomes right, and is undone as " + "one",
    async () => {
      const before = await frames();
      await paste("Middle hull, frame 1, x aft", "400\t90\n800\t91\n1200\t92\n");
      await user.see("6 cells pasted. Ctrl+Z takes it back.");
      await user.saved();
      expect((await frames()).map((f) => [f.x, f.z])).toEqual([
        [0.4, 0.09],
        [0.8, 0.091],
        [1.2, 0.092],
      ]);
      await user.click("Undo");
      await user.saved();
      expect(await frames()).toEqual(before);
    },
  );
  it("marks what cannot be read where it was pasted, and says for which rows there is no place", async () => {
    const before = await frames();
    await paste("Middle hull, frame 2, width", "95\nbroad\n80\n70");
    await user.see(
      "1 cell pasted; 1 cannot be read: it stands marked as pasted; 2 rows found no place: add rows first",
    );
    expect(await value("Middle hull, frame 3, width")).toBe("broad");
    await user.fill("Middle hull, frame 3, width", "88");
    await user.click("Undo");
    await user.saved();
    expect((await frames())[1]?.width).toBe(before[1]?.width);
  });
  it("is walked up and down by the arrow keys", async () => {
    await user.page.$eval('input[aria-label="Middle hull, frame 1, height"]', (e) => (e as HTMLInputElement).focus());
    const at = () => user.page.evaluate(() => document.activeElement?.getAttribute("aria-label"));
    await user.page.keyboard.press("ArrowDown");
    await user.page.keyboard.press("ArrowDown");
    expect(await at()).toBe("Middle hull, frame 3, height");
    await user.page.keyboard.press("ArrowDown");
    expect(await at()).toBe("Middle hull, frame 3, height");
    await user.page.keyboard.press("ArrowUp");
    expect(await at()).toBe("Middle hull, frame 2, height");
    expect(demo.pageErrors).toEqual([]);
  });
});
