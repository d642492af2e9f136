/** Offers a text as a file. */
export function saveFile(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/**
 * The drawing as an SVG of its own, true to size when printed: theme colours written out, fonts named, controls left
 * out.
 */
export function svgText(svg: SVGSVGElement, pxPerMetre: number): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [, , w = 0, h = 0] = (svg.getAttribute("viewBox") ?? "").split(/\s+/).map(Number);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", `${((w / pxPerMetre) * 1000).toFixed(2)}mm`);
  copy.setAttribute("height", `${((h / pxPerMetre) * 1000).toFixed(2)}mm`);
  for (const e of copy.querySelectorAll("[data-handle]")) e.remove();
  for (const e of [copy, ...copy.querySelectorAll("*")]) {
    if (e.classList.contains("num")) e.setAttribute("font-family", "monospace");
    for (const name of ["class", "tabindex", "role", "aria-pressed", "aria-label"]) e.removeAttribute(name);
  }
  copy.setAttribute("font-family", "sans-serif");
  const theme = getComputedStyle(document.documentElement);
  return new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\((--[a-z0-9-]+)\)/g, (_, name: string) => theme.getPropertyValue(name).trim() || "#000");
}

export function saveSvg(svg: SVGSVGElement, pxPerMetre: number, name: string): void {
  saveFile(`${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}.svg`, svgText(svg, pxPerMetre), "image/svg+xml");
}
