import type { Catalogue, Part } from "../api/client";

/** What a part is made of to a glue: its foam, or of a hollow part the first of its walls that is glued as itself. */
export function bodyOf(part: Part, catalogue: Catalogue): string | undefined {
  const walls = part.layers.flatMap((l) => (l.type === "wall" ? [l.sheet] : []));
  return part.foam ?? walls.find((sheet) => catalogue.sides.some((s) => s.key === sheet));
}

/** What a stock is to a glue: itself, or the sort of thing that it is; a moulded skin is the part's own foam. */
export function gluedAs(key: string, body: string, catalogue: Catalogue): string | undefined {
  if (catalogue.sides.some((s) => s.key === key)) return key;
  const found = [...catalogue.bars, ...catalogue.sheets, ...catalogue.skins].find((m) => m.key === key);
  const sort = found && catalogue.sorts[found.family];
  return sort === "foam" ? body : sort;
}
