import type { Schemas } from "../../api/client";

type Thing = Schemas["ThingOut"];

/** Whether a thing may be cut for an airframe. */
const free = (t: Thing, airframe: string) =>
  t.item.origin !== "scrap" && (t.reserved_for == null || t.reserved_for === airframe);

/** Lengths on the shelf that may be cut for an airframe, by bar. */
export function ownLengths(things: Thing[], airframe: string): { stock: string; mm: number[] }[] {
  const by = new Map<string, number[]>();
  for (const t of things)
    if (t.item.kind === "bar" && free(t, airframe) && t.item.length_mm)
      by.set(t.item.key, [
        ...(by.get(t.item.key) ?? []),
        ...Array.from({ length: t.item.count ?? 1 }, () => t.item.length_mm!),
      ]);
  return [...by].map(([stock, mm]) => ({ stock, mm: mm.slice(0, 40) })).slice(0, 40);
}

/** Sheets, boards and lengths of roll on the shelf that may be cut for an airframe, along the grain and across. */
export function ownSheets(things: Thing[], airframe: string): { stock: string; mm: [number, number][] }[] {
  const by = new Map<string, [number, number][]>();
  for (const t of things)
    if (t.item.kind !== "bar" && free(t, airframe) && t.item.length_mm && t.item.width_mm)
      by.set(t.item.key, [
        ...(by.get(t.item.key) ?? []),
        ...Array.from({ length: Math.min(t.item.count ?? 1, 20) }, (): [number, number] => [
          t.item.length_mm!,
          t.item.width_mm!,
        ]),
      ]);
  return [...by].map(([stock, mm]) => ({ stock, mm: mm.slice(0, 20) })).slice(0, 40);
}

/** The thing that a length of the cut list stands for. */
export const thingOf = (things: Thing[], key: string, mm: number, airframe: string) =>
  things.find(
    (t) =>
      t.item.kind === "bar" &&
      free(t, airframe) &&
      t.item.key === key &&
      Math.abs((t.item.length_mm ?? 0) - mm) < 0.06,
  );

type Made = Pick<Schemas["CutOut"], "key" | "pieces_mm" | "sheets">;

/** Pieces that were cut already, by what they were cut from. */
export function madeOf(cuts: Made[]): Pick<Schemas["CutWish"], "made" | "made_sheets"> {
  const bars = new Map<string, number[]>();
  const sheets = new Map<string, [number, number][]>();
  for (const c of cuts) {
    if (c.pieces_mm.length) bars.set(c.key, [...(bars.get(c.key) ?? []), ...c.pieces_mm]);
    if (c.sheets.length)
      sheets.set(c.key, [
        ...(sheets.get(c.key) ?? []),
        ...c.sheets.map((p): [number, number] => [p.long_mm, p.wide_mm]),
      ]);
  }
  return {
    made: [...bars].map(([stock, mm]) => ({ stock, mm: mm.slice(0, 400) })),
    made_sheets: [...sheets].map(([stock, mm]) => ({ stock, mm: mm.slice(0, 400) })),
  };
}
