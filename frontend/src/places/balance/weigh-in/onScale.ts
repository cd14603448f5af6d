import type { Airframe, Schemas } from "../../../api/client";

export type Weighing = NonNullable<Airframe["weighings"]>[number];
export type Stage = NonNullable<Weighing["stage"]>;
type Piece = Schemas["PieceAt"];

/** In the order of the work. */
export const STAGES: readonly { value: Stage; label: string }[] = [
  { value: "bare", label: "bare" },
  { value: "glued", label: "glued" },
  { value: "skinned", label: "skinned" },
  { value: "painted", label: "painted" },
  { value: "finished", label: "finished" },
];
const NOT_LISTED = "not-listed";

const rank = (stage: Stage) => STAGES.findIndex((s) => s.value === stage);

/** The stages at which some of these pieces weigh more than before. */
export const stagesOf = (pieces: Piece[]): Stage[] =>
  STAGES.map((s) => s.value).filter((s) => pieces.some((p) => p.stages.some((own) => own.stage === s)));

/** Lines that lie on the scale with these pieces at a stage; with every piece finished also what no line tells. */
export function linesOn(chosen: Piece[], all: Piece[], stage: Stage): string[] {
  const lines = chosen.flatMap(
    (p) => p.stages.filter((s) => rank(s.stage) <= rank(stage)).at(-1)?.lines ?? [],
  );
  const whole = chosen.length === all.length && stage === stagesOf(all).at(-1);
  return whole ? [...lines, NOT_LISTED] : lines;
}

/** What those lines should weigh. */
export const expected = (sheet: { lines: { key: string; grams: { typ: number } }[] }, lines: string[]) =>
  sheet.lines.filter((l) => lines.includes(l.key)).reduce((sum, l) => sum + l.grams.typ, 0);

/** The pieces of which some line lay on the scale. */
export const piecesOf = (all: Piece[], lines: readonly string[]) =>
  all.filter((p) => p.stages.at(-1)?.lines.some((key) => lines.includes(key)));

/** The same weighing as one reading or on two supports; what was read stays as far as it can. */
export function readAs(kind: "scale" | "supports", w: Weighing): Weighing {
  const r = w.reading;
  if (r.kind === kind) return w;
  if (r.kind === "supports") return { ...w, reading: { kind: "scale", grams: netOf(w) } };
  const half = r.grams / 2;
  return {
    ...w,
    reading: { kind: "supports", first_g: half, second_g: half, first_mm: 0, second_mm: 300 },
  } as Weighing;
}

/** Grams that lay on the scale, cradles taken off. */
export function netOf(w: Weighing): number {
  const r = w.reading;
  if (r.kind !== "supports") return r.grams;
  return r.first_g - (r.first_cradle_g ?? 0) + r.second_g - (r.second_cradle_g ?? 0);
}
