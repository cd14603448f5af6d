import type { Airframe, Part, Schemas } from "../../api/client";

export type Point = readonly [x: number, z: number];
export type Item = NonNullable<Airframe["equipment"]>[number];
type Sheet = Schemas["BalanceSheet"];

/** A part seen from the left, its nose to the left: corners in the airframe, mm behind the datum and up. */
export function sideOf(part: Part): Point[] {
  const { x_mm: x, z_mm: z, dihedral_deg } = part.place;
  const [root, tip] = [part.root_thickness_mm / 2, part.tip_thickness_mm / 2];
  if (part.kind === "fuselage") {
    const end = x + part.span_mm;
    return [[x, z - root], [end, z - tip], [end, z + tip], [x, z + root]]; // prettier-ignore
  }
  const rise = (dihedral_deg * Math.PI) / 180;
  const up = z + part.span_mm * Math.sin(rise);
  const [thick, thin] = [root * Math.cos(rise), tip * Math.cos(rise)];
  const back = x + part.tip_setback_mm;
  const low = [[x, z - thick], [x + part.root_chord_mm, z - thick]] as const; // prettier-ignore
  const high = [[back + part.tip_chord_mm, up + thin], [back, up + thin]] as const; // prettier-ignore
  return [...low, ...high];
}

/** Where all of it balances while items are dragged: the ledger with their places as they stand in the draft. */
export function centreNow(lines: Sheet["lines"], items: readonly Item[]): number {
  const at = new Map(items.map((e) => [e.id, e.x_mm ?? 0]));
  const mass = lines.reduce((sum, l) => sum + l.grams.typ, 0);
  return lines.reduce((sum, l) => sum + l.grams.typ * (at.get(l.item_id ?? "") ?? l.x_mm), 0) / mass;
}

/** How far the beam leans, degrees, tail down positive: level where the centre is in the middle of its range, and not
 * beyond what can be drawn. */
export function leanOf(centre: number, target: number, reach: readonly [number, number]): number {
  const share = (centre - target) / (0.1 * (reach[1] - reach[0]));
  return Math.max(-5, Math.min(5, 5 * share));
}

/** Where a new item is first put, and the room of what is usually moved: behind the foremost place of the airframe, at
 * the wing. */
export function firstPlace(
  what: Item["what"],
  parts: readonly Part[],
): Pick<Item, "x_mm" | "from_mm" | "to_mm"> {
  const flying = parts.filter((p) => p.kind !== "plank");
  const front = flying.length ? Math.min(...flying.map((p) => p.place.x_mm)) : 0;
  const wing = flying.find((p) => p.kind === "wing") ?? flying[0];
  const [nose, chord] = wing ? [wing.place.x_mm, wing.root_chord_mm] : [front, 200];
  const at = {
    propeller: front, motor: front + 15, controller: front + 60, battery: front + 110, ballast: front + 10,
    receiver: nose + 0.35 * chord, servo: nose + 0.5 * chord, camera: nose, wheel: nose, lead: nose, other: nose,
  }[what ?? "other"]; // prettier-ignore
  const moves = what === "battery" || what === "receiver";
  return {
    x_mm: Math.round(at),
    from_mm: moves ? Math.round(front) : null,
    to_mm: moves ? Math.round(Math.max(at, nose + chord)) : null,
  };
}

/** Weights on the beam: the structure by groups of parts, and every item; those at one place together. */
export function weightsOn(lines: Sheet["lines"], items: readonly Item[]) {
  const at = new Map(items.map((e) => [e.id, e.x_mm ?? 0]));
  const found = new Map<string, { grams: number; moment: number; item: string | null }>();
  for (const l of lines) {
    const key = l.item_id ?? `part ${l.part_id ?? "rest"}`;
    const one = found.get(key) ?? { grams: 0, moment: 0, item: l.item_id };
    one.grams += l.grams.typ;
    one.moment += l.grams.typ * (at.get(l.item_id ?? "") ?? l.x_mm);
    found.set(key, one);
  }
  return [...found].map(([key, w]) => ({ key, grams: w.grams, x: w.moment / w.grams, item: w.item }));
}

/** What is drawn of the airframe, leftmost, rightmost, lowest and highest, mm. */
export function extentOf(parts: readonly Part[], items: readonly Item[]): [number, number, number, number] {
  const spots: Point[] = [
    ...parts.filter((p) => p.kind !== "plank").flatMap(sideOf),
    ...items.map((e): Point => [e.x_mm ?? 0, e.z_mm ?? 0]),
  ];
  if (!spots.length) return [0, 100, -20, 20];
  const [xs, zs] = [spots.map((p) => p[0]), spots.map((p) => p[1])];
  return [Math.min(...xs), Math.max(...xs), Math.min(...zs), Math.max(...zs)];
}
