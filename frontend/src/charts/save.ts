/** Saving what is on screen as files. Everything happens in the page. */

export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** A colour of the style sheet as it is on screen now, in figures: one that differs by day and night is told as shown. */
function shown(name: string): string {
  const written = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  if (!written.startsWith("light-dark(")) return written || "#000";
  const probe = document.createElement("span");
  probe.style.color = `var(${name})`;
  document.body.append(probe);
  const colour = getComputedStyle(probe).color;
  probe.remove();
  return colour;
}

/** The drawing as a file of its own: colours and fonts written out, since a file knows no style sheet. */
export function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const resolved = (text: string) => text.replace(/var\((--[\w-]+)\)/g, (_, name: string) => shown(name));
  const box = svg.getBoundingClientRect();
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("viewBox", `0 0 ${box.width} ${box.height}`);
  for (const element of [copy, ...copy.querySelectorAll("*")]) {
    for (const attribute of [...element.attributes])
      if (attribute.value.includes("var(")) element.setAttribute(attribute.name, resolved(attribute.value));
    if (element.tagName === "text" || element.tagName === "tspan") {
      if (!element.getAttribute("style")?.includes("fill"))
        element.setAttribute("fill", resolved("var(--ink)"));
      element.setAttribute("font-family", "Archivo, Arial Narrow, sans-serif");
    }
  }
  return new XMLSerializer().serializeToString(copy);
}

export function saveSvg(svg: SVGSVGElement, name: string): void {
  saveBlob(new Blob([standalone(svg)], { type: "image/svg+xml" }), `${name}.svg`);
}

/** The drawing as pixels, at twice its size on screen, on the ground of the sheet. */
export async function savePng(svg: SVGSVGElement, name: string): Promise<void> {
  const box = svg.getBoundingClientRect();
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(svg))}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [2 * box.width, 2 * box.height];
  const pen = canvas.getContext("2d")!;
  pen.fillStyle = shown("--sheet");
  pen.fillRect(0, 0, canvas.width, canvas.height);
  pen.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
  if (blob) saveBlob(blob, `${name}.png`);
}

/** A table as comma-separated values, quoted where needed. */
export function csvOf(head: string[], rows: (string | number | null)[][]): string {
  const cell = (v: string | number | null) => {
    const text = v === null ? "" : String(v);
    return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return [head, ...rows].map((r) => r.map(cell).join(",")).join("\n") + "\n";
}

export function saveCsv(head: string[], rows: (string | number | null)[][], name: string): void {
  saveBlob(new Blob([csvOf(head, rows)], { type: "text/csv" }), `${name}.csv`);
}
