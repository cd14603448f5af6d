import { describe, expect, it } from "vitest";
import type { Catalogue, Part, Schemas } from "../../api/client";
import type { JointLayer } from "./acrossJoint";
import { hingeShapes } from "./hingeShapes";
import { holdShapes } from "./holdShapes";
import { drawnJoint } from "./jointShapes";
import { patchShapes } from "./patchShapes";
import { extent, roundLength, type Drawn, type Shape } from "./scaled";

const cut = {
  outline: [[0, -8], [100, -8], [50, 12]],
  skins: [{ line_id: "tape", face: "both", wall: false, thickness_mm: 0.1, points: [] }],
  bars: [{ line_id: "spar", height_mm: 4, width_mm: 4, z_mm: 2, x_mm: 30, shape: "round" }],
} as unknown as Schemas["Cut"]; // prettier-ignore

const part = {
  span_mm: 500,
  layers: [
    { type: "bar", id: "spar", start_mm: 0, end_mm: 300 },
    { type: "strip", id: "tape", start_mm: 0, end_mm: null },
  ],
} as unknown as Part;

const catalogue = {
  bars: [{ key: "rod", diameter_mm: 3 }, { key: "flat", diameter_mm: null, wide_mm: 6, thin_mm: 1 }],
  sheets: [{ key: "ply", thickness_mm: { typ: 1.5 } }],
  skins: [],
  fasteners: [{ key: "bolt", size_mm: 5 }],
} as unknown as Catalogue; // prettier-ignore

const joint = (of: object): Drawn =>
  drawnJoint({ cut, part, catalogue, layer: { start_mm: 100, joint: of } as unknown as JointLayer })!;

const across = (of: object) =>
  joint({
    kind: "across",
    parted: "core",
    faces: "butt",
    slope: 4,
    braces: [],
    bridges: [],
    extent: null,
    ...of,
  });

const tone = (drawn: Drawn | Shape[], wanted: string) =>
  ("shapes" in drawn ? drawn.shapes : drawn).filter((s) => s.tone === wanted);
const wide = (s: Shape) => Math.max(...s.points.map((p) => p[0])) - Math.min(...s.points.map((p) => p[0]));
const high = (s: Shape) => Math.max(...s.points.map((p) => p[1])) - Math.min(...s.points.map((p) => p[1]));

describe("a joint across the part", () => {
  it("slants by slope times thickness and says so", () => {
    const scarf = across({ faces: "scarf" });
    expect(wide(tone(scarf, "glue")[0]!)).toBe(80); // 4 × (12 + 8) mm
    expect(scarf.measures[0]!.label).toBe("80 mm, 1 : 4");
    expect(wide(tone(across({}), "glue")[0]!)).toBe(0);
  });

  it("has no glue where its faces are open", () => {
    expect(
      tone(across({ faces: "open", braces: [{ stock: "rod", each_side_mm: 40 }] }), "glue"),
    ).toHaveLength(0);
  });

  it("is glued as deep as a crack went, from its face", () => {
    const glue = tone(across({ extent: { face: "upper", depth_mm: 5 } }), "glue")[0]!;
    expect(glue.points.map((p) => p[1])).toEqual([7, 12]);
    const lower = tone(across({ extent: { face: "lower", depth_mm: 5 } }), "glue")[0]!;
    expect(lower.points.map((p) => p[1])).toEqual([-8, -3]);
  });

  it("breaks what is parted and lets the rest run on", () => {
    const pieces = (of: object) => [tone(across(of), "bar").length, tone(across(of), "skin").length];
    expect(pieces({ parted: "core" })).toEqual([1, 2]); // the spar, the tape on both faces
    expect(pieces({ parted: "skins" })).toEqual([1, 4]);
    expect(pieces({ parted: "all" })).toEqual([2, 4]);
    expect(pieces({ parted: "all", bridges: ["tape"] })).toEqual([2, 2]);
  });

  it("has its braces as long and as high as they are", () => {
    const braces = [
      { stock: "rod", each_side_mm: 40 },
      { stock: "flat", each_side_mm: 30 },
      { stock: "ply", each_side_mm: 50, deep_mm: 12 },
    ];
    const drawn = across({ braces });
    const [, rod, flat] = tone(drawn, "bar");
    expect([wide(rod!), high(rod!)]).toEqual([80, 3]);
    expect([wide(flat!), high(flat!)]).toEqual([60, 6]);
    expect([wide(tone(drawn, "sheet")[0]!), high(tone(drawn, "sheet")[0]!)]).toEqual([100, 12]);
    expect(drawn.measures[0]!.label).toBe("50 mm each side");
  });
});

describe("other joints", () => {
  it("a lap overlaps by its length, and says that thin things are drawn thicker", () => {
    const thin = joint({ kind: "lap", of: "tape", overlap_mm: 40 });
    expect(wide(tone(thin, "glue")[0]!)).toBe(40);
    expect(thin.measures[0]!.label).toBe("40 mm lap, thickness drawn 22 times"); // 44 mm/20 over 0.1 mm
    expect(joint({ kind: "lap", of: "spar", overlap_mm: 40 }).measures[0]!.label).toBe("40 mm lap");
  });

  it("a glue line is as long as what it glues, or as what was glued anew", () => {
    expect(wide(tone(joint({ kind: "bond", of: "spar" }), "bar")[0]!)).toBe(300);
    expect(wide(tone(joint({ kind: "bond", of: "tape" }), "sheet")[0]!)).toBe(500);
    expect(wide(tone(joint({ kind: "bond", of: "spar", long_mm: 60 }), "bar")[0]!)).toBe(60);
    expect(drawnJoint({ cut, part, catalogue, layer: { start_mm: 0, joint: { kind: "bond", of: "?" } } as unknown as JointLayer })).toBeNull(); // prettier-ignore
  });

  it("a plate lies on its face, with screws and holes of glue into the foam", () => {
    const plate = { kind: "plate", sheet: "ply", long_mm: 40, load: "given", pull_N: 10, slide_N: 20, arm_mm: 12, screws: 2, screw_mm: 3, keys: 3, key_mm: 3, key_deep_mm: 8 }; // prettier-ignore
    const lower = joint({ ...plate, face: "lower" });
    expect(tone(lower, "sheet")[0]!.points.map((p) => p[1])).toEqual([-8, -8, -9.5, -9.5]);
    expect([tone(lower, "bar").length, tone(lower, "glue").length]).toEqual([2, 3]);
    expect(high(tone(lower, "glue")[0]!)).toBe(8);
    expect(lower.pushes.map((p) => p.towards)).toEqual([[0, -1], [1, 0]]); // prettier-ignore
    expect(joint({ ...plate, face: "upper", load: "rod" }).pushes).toEqual([
      { at: [0, 25.5], towards: [1, 0], label: "pushrod" },
    ]);
  });

  it("bolts stand apart as they are, one of them in the middle", () => {
    const bolts = (n: number) =>
      joint({ kind: "bolted", bolt: "bolt", bolts: n, apart_mm: 60, washer_mm: 15, plate: null });
    expect(bolts(3).measures[0]).toMatchObject({ from: [-30, -18], to: [30, -18] });
    expect(bolts(1).measures).toEqual([]);
    expect(tone(bolts(3), "thing").map(wide)).toEqual([15, 15, 15]);
  });

  it("pegs of rubber bands sit as deep in the foam as they do", () => {
    const drawn = joint({ kind: "banded", peg: "rod", peg_in_mm: 30, bands: 6 });
    expect(tone(drawn, "bar").map(wide)).toEqual([42, 42]); // 30 in the foam, 12 out of it
    expect(drawn.says).toContain("6 rubber bands");
  });

  it("straps over the seam of a wall lie where they are said to", () => {
    const z = (lies: string) =>
      tone(joint({ kind: "wall", straps: [{ stock: "ply", lies, each_side_mm: 40 }] }), "sheet").map((s) =>
        Math.min(...s.points.map((p) => p[1])),
      );
    expect(z("outside")).toEqual([3]);
    expect(z("inside")).toEqual([-1.5]);
    expect(z("both")).toEqual([3, -1.5]);
    expect(z("flutes")).toEqual([0.75]);
  });
});

describe("a hinge", () => {
  const at = { thickness_mm: 6, line: "top" as const, bevel_deg: 90, gap_mm: 0 };
  it("opens by its whole bevel: each edge leans by half", () => {
    const [fixed] = hingeShapes(at, undefined);
    expect(fixed!.points[2]![0]).toBeCloseTo(-6, 9); // 6 mm × tan 45°
    const [middle] = hingeShapes({ ...at, line: "centre" }, undefined);
    expect(middle!.points[0]![0]).toBeCloseTo(-3 * Math.tan(Math.PI / 8), 9);
  });

  it("turns the surface and its half of the hinge, not the fixed part", () => {
    const [fixed, surface, tape] = hingeShapes(at, "tape_one_side_bevel", 90);
    expect(fixed).toEqual(hingeShapes(at, "tape_one_side_bevel")[0]);
    expect(surface!.points[3]![0]).toBeCloseTo(6, 9); // (15.6, −6) turned up by a right angle
    expect(surface!.points[3]![1]).toBeCloseTo(15.6, 9);
    expect(tape!.points[0]).toEqual([-12, 0]);
    expect(tape!.points[2]![1]).toBeCloseTo(12, 9);
  });

  it("is drawn as what it is", () => {
    const made = (method: string) => hingeShapes(at, method).slice(2).map((s) => s.tone); // prettier-ignore
    expect(made("tape_both_sides_gap")).toEqual(["skin", "skin"]);
    expect(made("knuckle_pin_tube")).toEqual(["bar", "thing"]);
    expect(made("cement_gap")).toEqual(["glue"]);
    expect(made("foam_living_hinge")).toEqual(["foam"]);
    expect(made("?")).toEqual([]);
  });
});

describe("a hold-down and a patch", () => {
  const need = {
    what: "battery",
    long_mm: 80,
    high_mm: 26,
    pieces: 2,
    pad_percent: 30,
    stop: true,
    hangs: false,
  };
  const answer = { along_asked_g: 61, off_asked_g: 2 };
  const held = (key: string, of = {}) =>
    holdShapes(
      { ...need, ...of } as unknown as Schemas["HoldNeed"],
      answer as Schemas["HeldIn"],
      { key, name: "that" } as Schemas["HoldChoice"],
    );

  it("covers its share of the base with pads, half at each end", () => {
    expect(tone(held("foam_tape"), "skin").map(wide)).toEqual([12, 12]); // 30 % of 80 mm
  });

  it("has as many straps as it has pieces, two at most, and a stop only where there is one", () => {
    expect(tone(held("strap_hook_20"), "skin")).toHaveLength(2);
    expect(tone(held("strap_hook_20", { pieces: 1 }), "skin")).toHaveLength(1);
    expect([tone(held("magnet_6x3"), "foam").length, tone(held("magnet_6x3", { stop: false }), "foam").length]).toEqual([2, 1]); // prettier-ignore
  });

  it("hangs below its tray when mounted upside down, and is pulled down off it", () => {
    const hanging = held("pin_in_foam", { hangs: true });
    expect(Math.max(...tone(hanging, "thing")[0]!.points.map((p) => p[1]))).toBeLessThan(0);
    expect(hanging.pushes[1]).toMatchObject({ towards: [0, -1], label: "2 × gravity" });
    expect(hanging.pushes[0]!.label).toBe("61 × gravity");
  });

  it("reaches over the opening by its lap on every side", () => {
    const drawn = patchShapes(
      { size_mm: [60, 40, 10] } as unknown as Schemas["Opening"],
      { lap_mm: 15, name: "tape" } as Schemas["Patch"],
    );
    expect(drawn.shapes.map((s) => [wide(s), high(s)])).toEqual([[90, 70], [60, 40]]); // prettier-ignore
    expect(drawn.measures[0]).toMatchObject({ from: [30, -44], to: [45, -44], label: "15 mm lap" });
  });
});

describe("the scale of a sketch", () => {
  it("is told by a bar of a round length, a third of the width at most", () => {
    expect([30, 100, 160, 3, 600].map((w) => roundLength(w))).toEqual([10, 20, 50, 1, 200]);
    expect([100, 160, 45].map((w) => roundLength(w, true))).toEqual([25.4, 50.8, 12.7]);
  });

  it("has room for all that is drawn", () => {
    const drawn: Drawn = {
      shapes: [{ tone: "foam", points: [[-5, 0], [5, 2]] }],
      measures: [{ from: [-5, -3], to: [5, -3], label: "" }],
      pushes: [{ at: [0, 9], towards: [0, 1], label: "" }],
      says: "",
    }; // prettier-ignore
    expect(extent(drawn)).toEqual([-5, -3, 5, 9]);
  });
});
