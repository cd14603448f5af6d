import type { Layer, Part } from "../api/client";
import { bare, show } from "../shared/units";

const FACES: Record<string, string> = {
  upper: "upper face",
  lower: "lower face",
  both: "both faces",
  wrapped: "all round",
  pair: "top and bottom",
  middle: "in the middle",
  front: "front edge",
  rear: "rear edge",
  sides: "both sides",
  web: "upright web",
  level: "level plate",
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
    if (part.foam && layer.depth_mm > 0 && (layer.face === "front" || layer.face === "rear"))
      return `notch in the ${FACES[layer.face]}, ${show(layer.depth_mm, "length", 4)} deep, ${run}`;
    const wide = layer.width_mm == null ? "whole face" : `${show(layer.width_mm, "length", 4)} wide`;
    return `${FACES[layer.face]}, ${wide}, ${run}`;
  }
  if (layer.type === "fitting") {
    const lies = layer.pocket ? `let into the ${FACES[layer.face]}` : FACES[layer.face]!;
    return `${lies}, at ${show(from, "length", 4)}`;
  }
  const plies = layer.plies > 1 ? `${layer.plies} plies, ` : "";
  if (layer.type === "strip")
    return `${plies}${FACES[layer.face]}, ${show(layer.width_mm, "length", 4)} wide, ${run}`;
  return `${plies}${FACES[layer.face]}, ${run}`;
}

const WHOLE = { name: "", note: "", enabled: true, start_mm: 0, end_mm: null };
const LINE = { ...WHOLE, root_percent: 30, tip_percent: 30 };
const BAR = {
  ...LINE,
  type: "bar" as const,
  on_edge: false,
  joined_at_root: true,
  stock: "carbon_rod_2",
  joiner: false,
  end_size_percent: 100,
  splices: [],
  in_flute: false,
};
const SKIN = { plies: 1, laid: "together" as const };
const WALL = { ...LINE, type: "wall" as const, plies: 1, paper: "both" as const, formed: "plain" as const };

export interface Starter {
  label: string;
  make: (part: Part, id: string) => Layer;
}

/** New lines as they come into the hand: a middling choice that fits most parts. */
export const STARTERS: Starter[] = [
  { label: "Pair of bars", make: (_, id) => ({ ...BAR, id, place: "pair", cover_mm: 0.5 }) },
  { label: "Single bar", make: (_, id) => ({ ...BAR, id, place: "middle", cover_mm: 0 }) },
  {
    label: "Strip of tape or cloth",
    make: (part, id) => ({
      ...LINE,
      type: "strip",
      id,
      skin: "filament_tape_uni",
      ...SKIN,
      face: "both",
      drop_mm: 0,
      width_mm: Math.min(25, Math.floor(part.tip_chord_mm / 3)),
    }),
  },
  {
    label: "Film or cloth over a face",
    make: (part, id) => ({
      ...WHOLE,
      type: "film",
      id,
      skin: "lamfilm_38",
      ...SKIN,
      face: part.section.shape === "rectangle" || part.foam ? "wrapped" : "both",
      overlap_mm: 0,
    }),
  },
  {
    label: "Sheet or board on a face",
    make: (_, id) => ({ ...WALL, id, sheet: "balsa_light_1.5", face: "both", grain: "along" }),
  },
  {
    label: "Upright web",
    make: (_, id) => ({ ...WALL, id, sheet: "balsa_light_3", face: "web", grain: "across" }),
  },
  {
    label: "Pocket, hole or slit",
    make: (part, id) => ({
      ...WHOLE,
      type: "cut",
      id,
      face: "upper",
      root_percent: 55,
      tip_percent: 55,
      width_mm: Math.min(24, Math.floor(part.tip_chord_mm / 4)),
      depth_mm: part.foam
        ? Math.max(1, Math.floor(0.3 * Math.min(part.root_thickness_mm, part.tip_thickness_mm)))
        : 0,
      corner_radius_mm: 2,
      start_mm: Math.round(0.2 * part.span_mm),
      end_mm: Math.round(0.3 * part.span_mm),
    }),
  },
  {
    label: "Servo, battery, lead from stock",
    make: (part, id) => ({
      ...WHOLE,
      type: "fitting",
      id,
      stock: "servo_5g",
      face: part.foam ? "lower" : "inside",
      pocket: part.foam !== null && Math.min(part.root_thickness_mm, part.tip_thickness_mm) > 12,
      upright: false,
      clearance_mm: 0.5,
      root_percent: 45,
      tip_percent: 45,
      start_mm: Math.round(0.4 * part.span_mm),
    }),
  },
  {
    label: "Cord in an edge",
    make: (_, id) => ({ ...WHOLE, type: "cord", id, cord: "polyester_braid_1", face: "both" }),
  },
];
