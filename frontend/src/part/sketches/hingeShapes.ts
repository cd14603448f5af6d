import type { Point, Shape } from "./scaled";

/** What a hinge is made of decides how it is drawn. */
type Look = "tape" | "taped twice" | "inlaid" | "live" | "bead" | "plate" | "pin";

const LOOKS: Record<string, Look> = {
  tape_one_side_bevel: "tape",
  film_tape_uv: "tape",
  film_skin_hinge: "tape",
  paper_live_hinge: "tape",
  fluted_pp_live: "tape",
  tape_both_sides_gap: "taped twice",
  cement_fabric: "inlaid",
  cloth_bias_aramid: "inlaid",
  cloth_0_90_aramid: "inlaid",
  foam_living_hinge: "live",
  cement_gap: "bead",
  fibre_ca: "plate",
  point_nylon_pinned: "plate",
  knuckle_pin_tube: "pin",
};

export interface HingeAt {
  thickness_mm: number;
  line: "top" | "centre" | "bottom";
  bevel_deg: number;
  gap_mm: number;
}

/** The fixed part, the surface turned by an angle (up positive), and the hinge between them; the line lies at (0, 0). */
export function hingeShapes(at: HingeAt, method: string | undefined, angle_deg = 0): Shape[] {
  const { thickness_mm: t, line, gap_mm: gap } = at;
  const side = 2.6 * t;
  const bottom = { top: -t, centre: -t / 2, bottom: 0 }[line];
  const top = bottom + t;
  // each edge leans by half of the bevel on every face that is away from the line
  const lean = Math.tan((((line === "centre" ? 0.5 : 1) * at.bevel_deg) / 2) * (Math.PI / 180));
  const face = (z: number) => Math.min(gap / 2 + Math.abs(z) * lean, side);
  const profile: Point[] = [
    [face(top), top],
    [face(0), 0],
    [face(bottom), bottom],
    [side, bottom],
    [side, top],
  ];
  const turn = (angle_deg * Math.PI) / 180;
  const turned = ([x, z]: Point): Point => [
    x * Math.cos(turn) - z * Math.sin(turn),
    x * Math.sin(turn) + z * Math.cos(turn),
  ];
  const fixed = profile.map(([x, z]): Point => [-x, z]);
  return [
    { tone: "foam", points: fixed },
    { tone: "foam", points: profile.map(turned) },
    ...between(method === undefined ? undefined : LOOKS[method], at, turned),
  ];
}

/** The hinge itself: its half on the fixed part, its half on the surface. */
function between(look: Look | undefined, at: HingeAt, turned: (p: Point) => Point): Shape[] {
  const t = at.thickness_mm;
  const out = at.line === "bottom" ? -1 : 1;
  const reach = Math.min(2 * t, 15);
  const strip = (z: number, tone: Shape["tone"] = "skin"): Shape => ({
    tone,
    line: 0.2,
    points: [[-reach, z], [0, z / 2], turned([reach, z])],
  }); // prettier-ignore
  const lean = Math.tan((((at.line === "centre" ? 0.5 : 1) * at.bevel_deg) / 2) * (Math.PI / 180));
  const inner = (x: number): Point => [
    x * (at.gap_mm / 2 + t * lean),
    -out * t * (at.line === "centre" ? 0.5 : 1),
  ];
  switch (look) {
    case "tape":
      return [strip(at.line === "centre" ? t / 2 : 0)];
    case "taped twice":
      return [
        strip(at.line === "centre" ? t / 2 : 0),
        { tone: "skin", line: 0.2, points: [inner(-1), [-at.gap_mm / 2, 0], turned([at.gap_mm / 2, 0]), turned(inner(1))] },
      ]; // prettier-ignore
    case "inlaid":
      return [strip(at.line === "centre" ? 0 : -out * 0.15 * t)];
    case "live":
      return [{ tone: "foam", points: [[-2, 0], [-2, -out * 0.18 * t], turned([2, -out * 0.18 * t]), turned([2, 0])] }]; // prettier-ignore
    case "bead":
      return [{ tone: "glue", points: [[-at.gap_mm / 2, 0], [-at.gap_mm / 2 - 0.4, -out * 0.4 * t], turned([at.gap_mm / 2 + 0.4, -out * 0.4 * t]), turned([at.gap_mm / 2, 0])] }]; // prettier-ignore
    case "plate":
      return [{ tone: "bar", line: 0.5, points: [[-12, 0], [0, 0], turned([12, 0])] }];
    case "pin":
      return [
        { tone: "bar", line: 0.8, points: [[-8, 0], [0, 0], turned([8, 0])] },
        { tone: "thing", points: round(0, 0, Math.min(1.2, t / 5)) },
      ];
    default:
      return [];
  }
}

function round(x: number, z: number, r: number): Point[] {
  return Array.from({ length: 12 }, (_, i) => {
    const a = (i * Math.PI) / 6;
    return [x + r * Math.cos(a), z + r * Math.sin(a)];
  });
}
