import { show } from "../../forms/units";
import { acrossJoint, depthOf, type JointOf, type Scene } from "./acrossJoint";
import { box, type Drawn, type Shape } from "./scaled";

/** A joint of the lay-up drawn to scale from its own numbers; null where there is nothing to see from the side. */
export function drawnJoint(scene: Scene): Drawn | null {
  const { joint } = scene.layer;
  switch (joint.kind) {
    case "across":
      return acrossJoint(scene, joint);
    case "lap":
      return lap(scene, joint);
    case "bond":
      return bond(scene, joint);
    case "plate":
      return plate(scene, joint);
    case "bolted":
      return bolted(scene, joint);
    case "banded":
      return banded(scene, joint);
    case "wall":
      return seam(scene, joint);
  }
}

/** Thickness of what a joint belongs to, as it lies in the cross-section. */
function thickness({ cut }: Scene, id: string): number {
  const skin = cut.skins.find((s) => s.line_id === id);
  const bar = cut.bars.find((b) => b.line_id === id);
  return skin?.thickness_mm ?? bar?.height_mm ?? 1;
}

const sheetThick = ({ catalogue }: Scene, key: string | null | undefined) =>
  catalogue.sheets.find((s) => s.key === key)?.thickness_mm.typ ?? 1;

function lap(scene: Scene, { of, overlap_mm: over }: JointOf<"lap">): Drawn {
  const t = thickness(scene, of);
  const half = Math.max(1.1 * over, 10);
  // thinner than a fortieth of the picture it could not be seen: drawn thicker, and said so
  const seen = Math.max(t, half / 20);
  const thicker = seen > t ? `, thickness drawn ${Math.round(seen / t)} times` : "";
  return {
    shapes: [
      { tone: "sheet", points: box(-half, 0, over / 2, seen) },
      { tone: "sheet", points: box(-over / 2, 1.25 * seen, half, 2.25 * seen) },
      { tone: "glue", points: box(-over / 2, seen, over / 2, 1.25 * seen) },
    ],
    measures: [
      { from: [-over / 2, -seen], to: [over / 2, -seen], label: `${show(over, "length")} lap${thicker}` },
    ],
    pushes: [],
    says: `Two lengths overlapping by ${show(over, "length")}`,
  };
}

function bond(scene: Scene, joint: JointOf<"bond">): Drawn | null {
  const line = scene.part.layers.find((l) => l.id === joint.of);
  if (!line || !("start_mm" in line)) return null;
  const long = joint.long_mm ?? (line.end_mm ?? scene.part.span_mm) - line.start_mm;
  const [low, top] = depthOf(scene.cut);
  const bar = scene.cut.bars.find((b) => b.line_id === joint.of);
  const t = bar?.height_mm ?? thickness(scene, joint.of);
  const z = bar ? bar.z_mm : top + t / 2;
  const end = joint.tapered ? Math.min(8 * t, long / 4) : 0;
  const film = Math.max(t * 0.2, long / 300);
  const body: Shape["points"] = [
    [-long / 2, z - t / 2],
    [long / 2, z - t / 2],
    [long / 2 - end, z + t / 2],
    [-long / 2 + end, z + t / 2],
  ];
  return {
    shapes: [
      { tone: "foam", points: box(-0.56 * long, low, 0.56 * long, top) },
      {
        tone: "glue",
        points: box(-long / 2, z - t / 2 - film, long / 2, bar ? z + t / 2 + film : z - t / 2),
      },
      { tone: bar ? "bar" : "sheet", points: body },
    ],
    measures: [
      {
        from: [-long / 2, low - 0.04 * long],
        to: [long / 2, low - 0.04 * long],
        label: `${show(long, "length")} glued`,
      },
    ],
    pushes: [],
    says: `Glue along ${show(long, "length")}${joint.tapered ? ", the ends taken down" : ""}`,
  };
}

function plate(scene: Scene, joint: JointOf<"plate">): Drawn {
  const [low, top] = depthOf(scene.cut);
  const up = joint.face === "upper" ? 1 : -1;
  const face = up > 0 ? top : low;
  const t = sheetThick(scene, joint.sheet);
  const half = Math.max(0.8 * joint.long_mm, (top - low) * 0.6);
  const outer = face + up * t;
  const spread = (count: number) =>
    Array.from({ length: count }, (_, i) => ((i + 0.5) / count - 0.5) * joint.long_mm * 0.8);
  const foot = face - up * (top - low);
  const beyond = up > 0 ? low - 0.16 * half - t : top + 0.3 * half;
  return {
    shapes: [
      { tone: "foam", points: box(-half, low, half, top) },
      ...spread(Math.min(joint.keys, 12)).map((x): Shape => ({
        tone: "glue",
        points: box(x - joint.key_mm / 2, face, x + joint.key_mm / 2, face - up * joint.key_deep_mm),
      })),
      { tone: "sheet", points: box(-joint.long_mm / 2, face, joint.long_mm / 2, outer) },
      ...(joint.backed ? [{ tone: "sheet", points: box(-joint.long_mm / 2, foot, joint.long_mm / 2, foot - up * sheetThick(scene, joint.backed)) } as Shape] : []),
      ...spread(joint.screws).map((x): Shape => ({
        tone: "bar",
        points: box(x - joint.screw_mm / 2, outer + up, x + joint.screw_mm / 2, joint.backed ? foot : face - up * 0.7 * (top - low)),
      })),
      { tone: "edge", line: 0, points: [[0, outer], [0, outer + up * joint.arm_mm]] },
    ],
    measures: [
      { from: [-joint.long_mm / 2, beyond], to: [joint.long_mm / 2, beyond], label: show(joint.long_mm, "length") },
    ],
    pushes:
      joint.load === "rod"
        ? [{ at: [0, outer + up * joint.arm_mm], towards: [1, 0], label: "pushrod" }]
        : [
            { at: [0, outer + up * joint.arm_mm], towards: [0, up], label: show(joint.pull_N, "force") },
            { at: [0, outer + up * joint.arm_mm], towards: [1, 0], label: show(joint.slide_N, "force") },
          ],
    says: `Plate ${show(joint.long_mm, "length")} long on the ${joint.face} face${joint.screws ? `, ${joint.screws} screws` : ""}${joint.keys ? `, ${joint.keys} holes filled with glue` : ""}`,
  }; // prettier-ignore
}

function bolted(scene: Scene, joint: JointOf<"bolted">): Drawn {
  const [low, top] = depthOf(scene.cut);
  const half = Math.max(joint.apart_mm * 0.8, top - low, joint.washer_mm);
  const d = scene.catalogue.fasteners.find((f) => f.key === joint.bolt)?.size_mm ?? 4;
  const t = joint.plate ? sheetThick(scene, joint.plate) : 0;
  const at =
    joint.bolts === 1
      ? [0]
      : Array.from({ length: joint.bolts }, (_, i) => (i / (joint.bolts - 1) - 0.5) * joint.apart_mm);
  const head = top + t;
  return {
    shapes: [
      { tone: "foam", points: box(-half, low, half, top) },
      ...(t ? [{ tone: "sheet", points: box(-half * 0.9, top, half * 0.9, head) } as Shape] : []),
      ...at.flatMap((x): Shape[] => [
        { tone: "bar", points: box(x - d / 2, low - d, x + d / 2, head) },
        { tone: "thing", points: box(x - joint.washer_mm / 2, head, x + joint.washer_mm / 2, head + 1) },
        { tone: "bar", points: box(x - d, head + 1, x + d, head + 1 + 0.7 * d) },
      ]),
    ],
    measures: at.length > 1
      ? [{ from: [at[0]!, low - 2 * d], to: [at.at(-1)!, low - 2 * d], label: show(joint.apart_mm, "length") }]
      : [],
    pushes: [],
    says: `${joint.bolts} bolts, ${show(d, "length")}, with washers of ${show(joint.washer_mm, "length")}`,
  }; // prettier-ignore
}

function banded(scene: Scene, joint: JointOf<"banded">): Drawn {
  const [low, top] = depthOf(scene.cut);
  const d = scene.catalogue.bars.find((b) => b.key === joint.peg)?.diameter_mm ?? 6;
  const wide = 2 * joint.peg_in_mm * 1.15;
  const deep = Math.max(0.5 * wide, 3 * d);
  const peg = low - 0.4 * deep;
  const out = 12;
  const edge = wide / 2;
  return {
    shapes: [
      { tone: "foam", points: box(-edge, low - deep, edge, low) },
      { tone: "foam", points: box(-1.8 * edge, low, 1.8 * edge, top) },
      ...[-1, 1].map((side): Shape => ({
        tone: "bar",
        points: box(side * (edge - joint.peg_in_mm), peg - d / 2, side * (edge + out), peg + d / 2),
      })),
      {
        tone: "skin",
        line: 0,
        points: [[-edge - out / 2, peg - d / 2], [-edge - out / 2, low], [-edge, top], [edge, top], [edge + out / 2, low], [edge + out / 2, peg - d / 2]],
      },
    ],
    measures: [
      { from: [edge - joint.peg_in_mm, low - 1.1 * deep], to: [edge, low - 1.1 * deep], label: `${show(joint.peg_in_mm, "length")} in the foam` },
    ],
    pushes: [{ at: [0, top], towards: [0, 1], label: "lift" }],
    says: `From the front: ${joint.bands} rubber bands over the wing to pegs ${show(joint.peg_in_mm, "length")} in the foam`,
  }; // prettier-ignore
}

function seam(scene: Scene, joint: JointOf<"wall">): Drawn {
  const wall = scene.cut.skins.find((s) => s.wall)?.thickness_mm ?? 3;
  const reach = Math.max(10, ...joint.straps.map((s) => s.each_side_mm));
  const half = 1.25 * reach;
  const straps = joint.straps.flatMap((s, n): Shape[] => {
    const t = strapThick(scene, s.stock, wall);
    const off = n * 0.1 * half;
    const lies = { outside: [wall], inside: [-t], both: [wall, -t], flutes: [(wall - t) / 2] }[s.lies];
    return lies.map((z) => ({
      tone: scene.catalogue.bars.some((b) => b.key === s.stock) ? "bar" : "sheet",
      points: box(-s.each_side_mm, z + (z > 0 ? off : -off), s.each_side_mm, z + t + (z > 0 ? off : -off)),
    }));
  });
  return {
    shapes: [
      { tone: "foam", points: box(-half, 0, 0, wall) },
      { tone: "foam", points: box(0, 0, half, wall) },
      { tone: "glue", line: 0, points: [[0, 0], [0, wall]] },
      ...straps,
    ],
    measures: joint.straps.length
      ? [{ from: [0, -0.2 * half], to: [reach, -0.2 * half], label: `${show(reach, "length")} each side` }]
      : [],
    pushes: [],
    says: `Edges of a wall ${show(wall, "length")} thick glued together${joint.straps.length ? ", with straps over the seam" : ""}`,
  }; // prettier-ignore
}

function strapThick(scene: Scene, key: string, wall: number): number {
  const bar = scene.catalogue.bars.find((b) => b.key === key);
  if (bar) return bar.diameter_mm ?? bar.thin_mm ?? wall / 2;
  return (
    [...scene.catalogue.sheets, ...scene.catalogue.skins].find((s) => s.key === key)?.thickness_mm.typ ??
    wall / 4
  );
}
