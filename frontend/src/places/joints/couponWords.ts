import type { Schemas } from "../../api/client";

export type Coupon = Schemas["Coupon"];
export type Face = Coupon["face"];

/** What a broken face can show, with what that means. */
export const FACES: [keyof Face, string, string][] = [
  ["foam_deep", "Foam torn deep", "the seam was better"],
  ["beside_seam", "Line just beside the seam", "the seam was better"],
  ["elsewhere", "Broke elsewhere", "a lower bound"],
  ["surface_layer", "Thin surface layer peeled", "half and half"],
  ["clean_seam", "Clean seam", "the seam was worse"],
  ["foam_softened", "Foam softened", "the glue ate it"],
  ["glue_soft", "Glue still soft", "counts for that time"],
  ["paint_lifted", "Paint lifted", "says nothing of the glue"],
];

export const HOW: { value: Coupon["broken"]; label: string }[] = [
  { value: "snap", label: "Snapping over an edge" },
  { value: "peel", label: "Peeling from one end" },
  { value: "pull", label: "Pulling straight off" },
  { value: "shear", label: "Shearing along" },
];

export const PREPARED: { value: Coupon["prepared"]; label: string }[] = [
  { value: "as_cut", label: "As cut" },
  { value: "roughened", label: "Roughened" },
  { value: "wiped", label: "Wiped" },
  { value: "pricked", label: "Pricked" },
  { value: "primed", label: "Primed" },
  { value: "painted", label: "Painted" },
];

/** What the ways of a trial are called, the control after them: eight and one. */
export const LETTERS = "ABCDEFGHI";
