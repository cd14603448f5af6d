import type { Airframe, Catalogue, Layer, LoadCase, Part, Problem } from "../api/client";

/** The document with one part replaced. */
export function withPart(document: Airframe, id: string, change: (part: Part) => Part): Airframe {
  return { ...document, parts: (document.parts ?? []).map((p) => (p.id === id ? change(p) : p)) };
}

/** The part with one lay-up line replaced; null takes the line out. */
export function withLayer(part: Part, id: string, change: (layer: Layer) => Layer | null): Part {
  const layers = part.layers.map((l) => (l.id === id ? change(l) : l)).filter((l) => l !== null);
  return { ...part, layers };
}

/** The part with one load case replaced. */
export function withCase(part: Part, id: string, change: (c: LoadCase) => LoadCase): Part {
  return { ...part, cases: part.cases.map((c) => (c.id === id ? change(c) : c)) as Part["cases"] };
}

/** The part with a line moved by one place; the order is the order of building. */
export function moved(part: Part, id: string, by: -1 | 1): Part {
  const layers = [...part.layers];
  const from = layers.findIndex((l) => l.id === id);
  const to = from + by;
  if (from < 0 || to < 0 || to >= layers.length) return part;
  [layers[from], layers[to]] = [layers[to]!, layers[from]!];
  return { ...part, layers };
}

/** The part with another span; places along it keep their share of the span. */
export function withSpan(part: Part, span: number): Part {
  const k = span / part.span_mm;
  const along = (v: number) => Math.round(v * k * 10) / 10;
  return {
    ...part,
    span_mm: span,
    layers: part.layers.map((l) => ({
      ...l,
      start_mm: along(l.start_mm),
      end_mm: l.end_mm == null ? null : along(l.end_mm),
    })),
    cases: part.cases.map((c) => {
      if (c.type === "three_point")
        return {
          ...c,
          first_support_mm: along(c.first_support_mm),
          second_support_mm: along(c.second_support_mm),
        };
      return "at_mm" in c && c.at_mm != null ? { ...c, at_mm: along(c.at_mm) } : c;
    }) as Part["cases"],
  };
}

/** The problem of a field, by its path; problems of things inside it count as its own. */
export function problemAt(problems: Problem[], path: string): Problem | undefined {
  return problems.find(
    (p) => p.path === path || p.path.startsWith(`${path}.`) || p.path.startsWith(`${path}[`),
  );
}

/** Name of a lay-up line: the builder's own, or its material's. */
export function lineName(layer: Layer, catalogue: Catalogue): string {
  if (layer.name) return layer.name;
  if (layer.type !== "bar" && typeof layer.skin !== "string") {
    const cloths = layer.skin.plies.map(
      (p) => catalogue.cloths.find((c) => c.key === p.cloth)?.name ?? "cloth",
    );
    return cloths.length === 1 ? `${cloths[0]} in resin` : `${cloths.length} plies of cloth`;
  }
  const material =
    layer.type === "bar"
      ? catalogue.bars.find((b) => b.key === layer.stock)
      : catalogue.skins.find((s) => s.key === layer.skin);
  return material?.name ?? "unknown material";
}
