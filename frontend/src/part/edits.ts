import type { Airframe, Catalogue, Layer, LoadCase, Part, Problem } from "../api/client";

/** So many lines a lay-up may have. */
export const MAX_LINES = 32;

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
  const cases: LoadCase[] = part.cases.map((c) => (c.id === id ? change(c) : c));
  return { ...part, cases: cases };
}

/** The part with a line moved to a place in the order of building. */
export function movedTo(part: Part, id: string, to: number): Part {
  const line = part.layers.find((l) => l.id === id);
  if (!line) return part;
  const layers = part.layers.filter((l) => l.id !== id);
  layers.splice(Math.max(0, Math.min(layers.length, to)), 0, line);
  return { ...part, layers };
}

/** A place across the chord where nothing lies yet, the usual ones first. */
export function freePercent(part: Part): number {
  const taken = part.layers.flatMap((l) => (acrossLine(l) && l.type !== "strip" ? [l.root_percent] : []));
  return [30, 45, 60, 20, 70, 80].find((p) => taken.every((t) => Math.abs(t - p) > 8)) ?? 52;
}

/** The part with a copy of a line right after it; a copied bar lies beside, for two cannot lie in one place. */
export function duplicated(part: Part, id: string, copyId: string): Part {
  const at = part.layers.findIndex((l) => l.id === id);
  if (at < 0) return part;
  const line = part.layers[at]!;
  const free = freePercent(part);
  const beside = line.type === "bar" ? { root_percent: free, tip_percent: free } : {};
  const layers = [...part.layers];
  layers.splice(at + 1, 0, { ...line, ...beside, id: copyId });
  return { ...part, layers };
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
  const edge = <E extends { start_mm: number; end_mm: number }>(e: E): E => ({
    ...e,
    start_mm: along(e.start_mm),
    end_mm: along(e.end_mm),
  });
  return {
    ...part,
    span_mm: span,
    layers: part.layers.map((l) => ({
      ...l,
      start_mm: along(l.start_mm),
      end_mm: l.end_mm == null ? null : along(l.end_mm),
      ...(l.type === "bar" && l.sleeve
        ? { sleeve: { ...l.sleeve, start_mm: along(l.sleeve.start_mm), end_mm: along(l.sleeve.end_mm) } }
        : {}),
      ...(l.type === "bar" ? { splices: l.splices.map((s) => ({ ...s, at_mm: along(s.at_mm) })) } : {}),
    })),
    ...(part.damage && {
      damage: part.damage.map((m) => ({
        ...m,
        ...("at_mm" in m && m.at_mm != null ? { at_mm: along(m.at_mm) } : {}),
        ...("start_mm" in m && m.start_mm != null ? { start_mm: along(m.start_mm) } : {}),
        ...("end_mm" in m && m.end_mm != null ? { end_mm: along(m.end_mm) } : {}),
      })),
    }),
    control: part.control && edge(part.control),
    second_control: part.second_control && edge(part.second_control),
    cases: part.cases.map((c) => {
      if (c.type === "three_point")
        return {
          ...c,
          first_support_mm: along(c.first_support_mm),
          second_support_mm: along(c.second_support_mm),
        };
      return "at_mm" in c && c.at_mm != null ? { ...c, at_mm: along(c.at_mm) } : c;
    }),
  };
}

/** The problem of a field, by its path; problems of things inside it count as its own. */
export function problemAt(problems: Problem[], path: string): Problem | undefined {
  return problems.find(
    (p) => p.path === path || p.path.startsWith(`${path}.`) || p.path.startsWith(`${path}[`),
  );
}

/** Whether a line of the lay-up lies at a place across the chord. */
export function acrossLine(layer: Layer): layer is Extract<Layer, { root_percent: number }> {
  if (layer.type === "wall") return layer.face === "web" || layer.face === "level";
  return ["bar", "strip", "cut", "fitting"].includes(layer.type);
}

/** What a builder calls a joint. */
export function jointName(joint: Extract<Layer, { type: "joint" }>["joint"]): string {
  if (joint.kind !== "across") return JOINTS[joint.kind];
  const faces = { open: "", butt: "Butt joint", scarf: `Scarf 1:${joint.slope}` }[joint.faces];
  const more = joint.braces.length ? "braces" : joint.bridges.length ? "with bridging strips" : "";
  if (!faces) return more[0]!.toUpperCase() + more.slice(1);
  return more ? `${faces} with ${more}` : faces;
}

const JOINTS = {
  lap: "Lap",
  bond: "Glue line",
  plate: "Glued plate",
  bolted: "Bolts",
  banded: "Rubber bands and pegs",
  wall: "Seam of the walls",
} as const;

const CUTS = {
  upper: "Pocket",
  lower: "Pocket",
  through: "Hole",
  inside: "Cavity",
  front: "Slit",
  rear: "Slit",
} as const;

/** Name of a lay-up line: the builder's own, or its material's. */
export function lineName(layer: Layer, catalogue: Catalogue): string {
  if (layer.name) return layer.name;
  const named = (table: { key: string; name: string }[], key: string) =>
    table.find((m) => m.key === key)?.name ?? "unknown material";
  if (layer.type === "bar") return named(catalogue.bars, layer.stock);
  if (layer.type === "wall") return named(catalogue.sheets, layer.sheet);
  if (layer.type === "cord") return named(catalogue.cords, layer.cord);
  if (layer.type === "cut") return CUTS[layer.face];
  if (layer.type === "fitting") return named(catalogue.fittings, layer.stock);
  if (layer.type === "joint") return jointName(layer.joint);
  if (layer.type === "hinge") return named(catalogue.hinges, layer.method);
  if (typeof layer.skin === "string") return named([...catalogue.skins, ...catalogue.sheets], layer.skin);
  const cloths = layer.skin.plies.map((p) => named(catalogue.cloths, p.cloth));
  return cloths.length === 1 ? `${cloths[0]} in resin` : `${cloths.length} plies of cloth`;
}
