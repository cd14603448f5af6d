import type { Layer, Part } from "../../../api/client";
import { bare, show } from "../../../forms/units";

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
  if (layer.type === "hinge") return `along the front edge, ${run}`;
  if (layer.type === "joint") {
    if (layer.joint.kind === "bond" || layer.joint.kind === "lap") {
      const of = layer.joint.of;
      const n = part.layers.findIndex((l) => l.id === of) + 1;
      return layer.joint.kind === "bond" ? `under line ${n}` : `of line ${n}, at ${show(from, "length", 4)}`;
    }
    return from === 0 ? "at the root" : `at ${show(from, "length", 4)}`;
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
  /** Whether it goes with this part; left out: always. */
  suits?: (part: Part) => boolean;
}

type JointOf = Extract<Layer, { type: "joint" }>;

const glued = (adhesive: string) => ({ adhesive, technique: null, after_min: null });

const joint = (id: string, of: JointOf["joint"], glue: JointOf["glue"], at = 0): Layer => ({
  ...WHOLE,
  type: "joint",
  id,
  joint: of,
  glue: glue ?? null,
  chord_percent: 40,
  start_mm: at,
});

/** The line that a new lap or glue line is about: the last one put in that can be glued. */
const gluable = (part: Part) =>
  part.layers.filter((l) => ["bar", "strip", "film", "wall"].includes(l.type)).at(-1)?.id;

const cored = (part: Part) => part.foam !== null;

/** A brace that fits: as high as two thirds of the depth, 60 mm to each side or as far as the part goes. */
const brace = (part: Part) => ({
  stock: "birchply_1.5",
  count: 1,
  each_side_mm: Math.min(60, Math.floor(part.span_mm / 2) - 1),
  deep_mm: Math.max(2, Math.floor(0.6 * Math.min(part.root_thickness_mm, part.tip_thickness_mm))),
  glued: true,
});

const ACROSS = { kind: "across" as const, parted: "core" as const, slope: 4, braces: [], bridges: [] };

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
  {
    label: "Joint across: butt, scarf, braces",
    suits: cored,
    make: (part, id) =>
      joint(
        id,
        { ...ACROSS, faces: "butt", reached: "all", braces: [brace(part)] },
        glued("epoxy_30min"),
        Math.round(part.span_mm / 2),
      ),
  },
  {
    label: "Lap of a line",
    suits: (part) => gluable(part) !== undefined,
    make: (part, id) =>
      joint(
        id,
        { kind: "lap", of: gluable(part)!, overlap_mm: 20 },
        glued("contact_foamsafe_clear"),
        Math.round(part.span_mm / 2),
      ),
  },
  {
    label: "Glue under a line",
    suits: (part) => cored(part) && gluable(part) !== undefined,
    make: (part, id) => joint(id, { kind: "bond", of: gluable(part)! }, glued("contact_foamsafe_clear")),
  },
  {
    label: "Plate: hard point, mount or horn",
    suits: cored,
    make: (part, id) =>
      joint(
        id,
        {
          kind: "plate",
          sheet: "birchply_1.5",
          face: "lower",
          long_mm: part.kind === "surface" ? 15 : 40,
          wide_mm: Math.min(part.kind === "surface" ? 15 : 40, Math.floor(part.tip_chord_mm)),
          load: part.kind === "surface" ? "rod" : "given",
          pull_N: 10,
          slide_N: 20,
          arm_mm: 12,
          screws: 0,
          screw_mm: 3,
          keys: 0,
          key_mm: 3,
          key_deep_mm: 8,
        },
        glued("epoxy_30min"),
        Math.round(part.span_mm / 3),
      ),
  },
  {
    label: "Bolts or screws that hold it",
    make: (_, id) =>
      joint(
        id,
        { kind: "bolted", bolt: "nylon_bolt_5", bolts: 2, apart_mm: 60, washer_mm: 15, plate: null },
        null,
      ),
  },
  {
    label: "Bands and pegs",
    suits: (part) => cored(part) && part.kind === "wing",
    make: (_, id) =>
      joint(
        id,
        {
          kind: "banded",
          band: "band_80x4",
          bands: 6,
          months: 2,
          peg: "hardwood_dowel_6",
          peg_in_mm: 30,
        },
        null,
      ),
  },
  {
    label: "Hinge along the front edge",
    suits: (part) => part.kind === "surface",
    make: (_, id) => ({
      ...WHOLE,
      type: "hinge",
      id,
      method: "tape_both_sides_gap",
      line: "top",
      bevel_deg: 45,
      gap_mm: 0.5,
      horn_arm_mm: 12,
    }),
  },
];
