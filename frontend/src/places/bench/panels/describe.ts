import type { Layer, Part } from "../../../api/client";
import { bare, show } from "../../../forms/units";

const FACES: Record<string, string> = {
  upper: "upper face",
  lower: "lower face",
  both: "both faces",
  wrapped: "all around",
  pair: "top and bottom",
  middle: "at mid-depth",
  front: "front edge",
  rear: "rear edge",
  sides: "both sides",
  web: "shear web",
  level: "horizontal plate",
  through: "right through",
  inside: "closed above and below",
};

/** Where a line lies and how far it runs, in words. */
export function describe(layer: Layer, part: Part): string {
  const from = layer.start_mm;
  const to = layer.end_mm ?? part.span_mm;
  const run =
    from === 0 && to === part.span_mm
      ? "full length"
      : `${bare(from, "length", 4)} to ${show(to, "length", 4)}`;
  if (layer.type === "bar") return `${FACES[layer.place]}, ${run}`;
  if (layer.type === "cord") return `${layer.face === "both" ? "both edges" : FACES[layer.face]}, ${run}`;
  if (layer.type === "cut") {
    const ends = layer.end_depth_mm ?? layer.depth_mm;
    if (
      part.foam &&
      Math.max(layer.depth_mm, ends) > 0 &&
      (layer.face === "front" || layer.face === "rear")
    ) {
      const deep = ends === layer.depth_mm ? "" : `${bare(layer.depth_mm, "length", 4)} to `;
      return `${deep ? "corner off" : "notch in"} the ${FACES[layer.face]}, ${deep}${show(ends, "length", 4)} deep, ${run}`;
    }
    const wide = layer.width_mm == null ? "whole face" : `${show(layer.width_mm, "length", 4)} wide`;
    return `${FACES[layer.face]}, ${wide}, ${run}`;
  }
  if (layer.type === "hinge") return `along the front edge, ${run}`;
  if (layer.type === "joint") {
    if (layer.joint.kind === "bond" || layer.joint.kind === "lap") {
      const of = layer.joint.of;
      const n = part.layers.findIndex((l) => l.id === of) + 1;
      return layer.joint.kind === "bond" ? `under item ${n}` : `of item ${n}, at ${show(from, "length", 4)}`;
    }
    return from === 0 ? "at the root" : `at ${show(from, "length", 4)}`;
  }
  if (layer.type === "fitting") {
    const lies = layer.pocket ? `recessed in the ${FACES[layer.face]}` : FACES[layer.face]!;
    return `${lies}, at ${show(from, "length", 4)}`;
  }
  const plies = layer.plies > 1 ? `${layer.plies} plies, ` : "";
  if (layer.type === "strip")
    return `${plies}${FACES[layer.face]}, ${show(layer.width_mm, "length", 4)} wide, ${run}`;
  return `${plies}${FACES[layer.face]}, ${run}`;
}
