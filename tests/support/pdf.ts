import type { Page } from "puppeteer-core";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

/** One printed page: its words with where they stand, pt from the left and from the bottom. */
export interface Printed {
  width: number;
  height: number;
  words: { text: string; x: number; y: number; width: number }[];
  /** share of the points within 2 mm of an edge that carry ink, 0 to 1 */
  inkAtEdges: number;
}

/** mm that a printer keeps clear. */
const MARGIN = 10;
const MM = 72 / 25.4;

/**
 * Prints a page as a browser does (null: on the paper that the page asks for), reads the words of the paper, and
 * draws each sheet to look at its edges.
 */
export async function printed(page: Page, format: "A4" | "Letter" | null, landscape = false): Promise<Printed[]> {
  const margin = { top: `${MARGIN}mm`, right: `${MARGIN}mm`, bottom: `${MARGIN}mm`, left: `${MARGIN}mm` };
  const bytes = await page.pdf(format === null ? { preferCSSPageSize: true } : { format, landscape, margin });
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const out: Printed[] = [];
  for (let n = 1; n <= document.numPages; n++) {
    const sheet = await document.getPage(n);
    const view = sheet.getViewport({ scale: 1 });
    const { items } = await sheet.getTextContent();
    const canvases = document.canvasFactory as {
      create: (
        w: number,
        h: number,
      ) => {
        canvas: HTMLCanvasElement;
        context: CanvasRenderingContext2D;
      };
    };
    const { canvas, context } = canvases.create(Math.round(view.width), Math.round(view.height));
    await sheet.render({ canvas, canvasContext: context, viewport: view, background: "#fff" }).promise;
    const { width, height } = canvas;
    const { data } = context.getImageData(0, 0, width, height);
    const edge = Math.round(2 * MM);
    let [ink, all] = [0, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        if (x >= edge && x < width - edge && y >= edge && y < height - edge) continue;
        all++;
        const k = 4 * (y * width + x);
        if ((data[k] ?? 255) + (data[k + 1] ?? 255) + (data[k + 2] ?? 255) < 3 * 160) ink++;
      }
    out.push({
      width: view.width,
      height: view.height,
      words: items.flatMap((i) =>
        "str" in i && i.str.trim() !== ""
          ? [{ text: i.str, x: i.transform[4] as number, y: i.transform[5] as number, width: i.width }]
          : [],
      ),
      inkAtEdges: ink / all,
    });
  }
  await document.cleanup();
  return out;
}
