import type { Schemas } from "../../api/client";

export type Coupon = Schemas["Coupon"];
export type Face = Coupon["face"];

/** What a broken face can show, with what that means. */
export const FACES: [keyof Face, string, string][] = [
  ["foam_deep", "Foam torn deep", "the joint was stronger"],
  ["beside_seam", "Foam torn just beside the joint", "the joint was stronger"],
  ["elsewhere", "Broke elsewhere", "at least this strong"],
  ["surface_layer", "Thin foam layer peeled", "halfway"],
  ["clean_seam", "Clean glue line", "the joint was weaker"],
  ["foam_softened", "Foam softened", "attacked by the glue"],
  ["glue_soft", "Glue still soft", "valid at that time"],
  ["paint_lifted", "Paint lifted", "does not test the glue"],
];

export const HOW: { value: Coupon["broken"]; label: string }[] = [
  { value: "snap", label: "Snapped over an edge" },
  { value: "peel", label: "Peeled from one end" },
  { value: "pull", label: "Pulled straight off" },
  { value: "shear", label: "Sheared lengthwise" },
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
