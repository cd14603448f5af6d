import type { Catalogue, Layer, Part, Schemas } from "../../api/client";
import { show } from "../../forms/units";
import { box, type Measured, type Point, type Shape } from "./scaled";

export type JointLayer = Extract<Layer, { type: "joint" }>;
export type JointOf<K extends JointLayer["joint"]["kind"]> = Extract<JointLayer["joint"], { kind: K }>;

/** Where a joint lies: the cross-section there, the part, and the stock that its pieces come from. */
export interface Scene {
  cut: Schemas["Cut"];
  part: Part;
  catalogue: Catalogue;
  layer: JointLayer;
}

/** Lowest and highest place of a cross-section. */
export function depthOf(cut: Schemas["Cut"]): [number, number] {
  const zs = cut.outline.map((p) => p[1]);
  return [Math.min(...zs), Math.max(...zs)];
}

/** How high a brace stands: its diameter, a flat bar on edge, or a plate as it was cut. */
function braceHeight(brace: JointOf<"across">["braces"][number], catalogue: Catalogue): number {
  const bar = catalogue.bars.find((b) => b.key === brace.stock);
  return bar ? (bar.diameter_mm ?? bar.wide_mm ?? 3) : (brace.deep_mm ?? 10);
}

const FACES = {
  butt: "two square faces glued",
  scarf: "two slanted faces glued",
  open: "two faces not glued",
};

/** A joint across the part seen from the side: how the faces meet, what reaches over, what runs on. */
export function acrossJoint(scene: Scene, joint: JointOf<"across">) {
  const { cut, part, catalogue } = scene;
  const [low, top] = depthOf(cut);
  const t = top - low;
  const run = joint.faces === "scarf" ? joint.slope * t : 0;
  const reach = Math.max(0, ...joint.braces.map((b) => b.each_side_mm));
  const half = Math.max(1.6 * t, run / 2 + t, 1.2 * reach, 15);
  const gap = joint.faces === "open" ? half * 0.02 : 0;
  const shapes: Shape[] = [
    { tone: "foam", points: [[-half, low], [-run / 2 - gap, low], [run / 2 - gap, top], [-half, top]] },
    { tone: "foam", points: [[-run / 2 + gap, low], [half, low], [half, top], [run / 2 + gap, top]] },
  ]; // prettier-ignore
  const cracked = joint.extent && ["upper", "lower"].includes(joint.extent.face) ? joint.extent : null;
  const deep = cracked ? Math.min(cracked.depth_mm, t) : t;
  const from = cracked?.face === "upper" ? top - deep : low;
  const slant = (z: number): Point => [-run / 2 + (run * (z - low)) / (t || 1), z];
  if (joint.faces !== "open")
    shapes.push({ tone: "glue", line: 0, points: [slant(from), slant(from + deep)] });
  shapes.push(...runOn(scene, joint, half, slant), ...braces(joint, catalogue, [low, top]));
  const measures: Measured[] = [];
  const under = low - 0.16 * half;
  if (run > 0)
    measures.push({
      from: [-run / 2, under],
      to: [run / 2, under],
      label: `${show(run, "length")}, 1 : ${joint.slope}`,
    });
  else if (reach > 0)
    measures.push({ from: [0, under], to: [reach, under], label: `${show(reach, "length")} each side` });
  if (cracked)
    measures.push({
      from: [half * 0.5, from],
      to: [half * 0.5, from + deep],
      label: `${show(deep, "length")} deep`,
    });
  const bridging = part.layers.filter((l) => joint.bridges.includes(l.id)).length;
  const over = [
    joint.braces.length ? `${joint.braces.length} kinds of brace inside` : "",
    bridging ? `${bridging} strips over it` : "",
  ].filter(Boolean);
  return {
    shapes,
    measures,
    pushes: [],
    says: `Joint from the side: ${[FACES[joint.faces], ...over].join(", ")}`,
  };
}

/** Spars and skins near the joint: those that run on, those that end at it, and those that bridge it. */
function runOn(
  { cut, part }: Scene,
  joint: JointOf<"across">,
  half: number,
  seam: (z: number) => Point,
): Shape[] {
  const [low, top] = depthOf(cut);
  const gap = half * 0.012;
  const pieces = (whole: boolean, z: number): Point[][] => {
    if (whole) return [[[-half, z], [half, z]]]; // prettier-ignore
    const [x] = seam(z);
    return [[[-half, z], [x - gap, z]], [[x + gap, z], [half, z]]]; // prettier-ignore
  };
  const skins = cut.skins.flatMap((s) => {
    const faces = s.face === "lower" ? [low] : s.face === "upper" ? [top] : [low, top];
    const whole = joint.parted === "core" || joint.bridges.includes(s.line_id);
    return faces
      .flatMap((z) => pieces(whole, z))
      .map((points): Shape => ({ tone: "skin", line: s.thickness_mm, points }));
  });
  const bars = cut.bars
    .filter((b) => part.layers.some((l) => l.id === b.line_id && l.type === "bar"))
    .flatMap((b) =>
      pieces(joint.parted !== "all", b.z_mm).map((points): Shape => ({
        tone: "bar",
        line: b.height_mm,
        points,
        faint: true,
      })),
    );
  return [...bars, ...skins];
}

/** Braces within, one kind above the other so that each is seen. */
function braces(joint: JointOf<"across">, catalogue: Catalogue, [low, top]: [number, number]): Shape[] {
  return joint.braces.map((b, n): Shape => {
    const high = braceHeight(b, catalogue) / 2;
    const z = low + ((n + 1) * (top - low)) / (joint.braces.length + 1);
    return {
      tone: catalogue.bars.some((bar) => bar.key === b.stock) ? "bar" : "sheet",
      points: box(-b.each_side_mm, z - high, b.each_side_mm, z + high),
    };
  });
}
