import { describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { OVERLAP, pagesOf, sectionOf, templateOf, type Template } from "./trueScale";

const sheet = (wide: number, high: number): Template => ({
  name: "x",
  outline: [
    [0, 0],
    [wide, 0],
    [wide, high],
    [0, high],
  ],
  lines: [],
  circles: [],
  note: "",
});

describe("templates at true scale", () => {
  it("take one page where they fit, and are turned where that saves pages", () => {
    expect(pagesOf(sheet(180, 250), "A4")).toMatchObject({ columns: 1, rows: 1, x0: -1, y0: -1 });
    const turned = pagesOf(sheet(250, 180), "A4");
    expect([turned.columns, turned.rows]).toEqual([1, 1]);
  });

  it("lie on pages that overlap, which hold every millimetre of them", () => {
    for (const [wide, high] of [
      [600, 180],
      [1200, 400],
      [191, 262],
    ] as const)
      for (const paper of ["A4", "Letter"] as const) {
        const p = pagesOf(sheet(wide, high), paper);
        const xs = p.template.outline.map((o) => o[0]);
        const ys = p.template.outline.map((o) => o[1]);
        expect(p.x0 + p.columns * p.width - (p.columns - 1) * OVERLAP).toBeGreaterThanOrEqual(
          Math.max(...xs),
        );
        expect(p.y0 + p.rows * p.height - (p.rows - 1) * OVERLAP).toBeGreaterThanOrEqual(Math.max(...ys));
        expect(p.x0).toBeLessThanOrEqual(Math.min(...xs));
        const fewer = (p.columns - 1) * (p.width - OVERLAP) + OVERLAP;
        expect(fewer).toBeLessThan(Math.max(...xs) - Math.min(...xs) + 2 + OVERLAP);
      }
  });

  it("fit the paper with its margins: 190 mm wide on A4, 243.4 mm high on Letter", () => {
    expect(pagesOf(sheet(10, 10), "A4").width).toBe(190);
    expect(pagesOf(sheet(10, 10), "Letter").height).toBeCloseTo(243.4);
  });

  it("keep the size of sections, their spars where they are, the upper face up", () => {
    const cut = {
      chord_mm: 150,
      outline: [
        [0, 0],
        [150, 0],
        [75, 20],
      ],
      holes: [
        {
          points: [
            [10, 1],
            [20, 1],
            [20, 5],
          ],
        },
      ],
      bars: [
        { shape: "round", x_mm: 45, z_mm: 15, width_mm: 6, height_mm: 6 },
        { shape: "flat", x_mm: 60, z_mm: 10, width_mm: 2, height_mm: 8 },
      ],
    } as unknown as Schemas["Cut"];
    const t = sectionOf("Root", cut, "");
    expect(t.outline[2]).toEqual([75, -20]);
    expect(t.circles).toEqual([{ at: [45, -15], radius: 3 }]);
    const flat = t.lines.at(-1)!.points;
    expect([Math.min(...flat.map((p) => p[0])), Math.max(...flat.map((p) => p[0]))]).toEqual([59, 61]);
    expect(Math.max(...flat.map((p) => p[1])) - Math.min(...flat.map((p) => p[1]))).toBe(8);
    expect(t.lines[1]!.points.at(-1)).toEqual([10, -1]);
  });

  it("lay pieces with their length across and number their lines", () => {
    const piece = {
      name: "Panel",
      count: 2,
      outline: [
        [0, 0],
        [180, 0],
        [180, 600],
        [0, 600],
      ],
      lines: [
        {
          kind: "cut",
          says: "cut here",
          points: [
            [1, 2],
            [3, 4],
          ],
        },
        {
          kind: "score",
          says: "score",
          points: [
            [1, 2],
            [3, 4],
          ],
        },
      ],
    } as unknown as Schemas["Piece"];
    const t = templateOf(piece);
    expect(t.name).toBe("2 × Panel");
    expect(Math.max(...t.outline.map((p) => p[0]))).toBe(600);
    expect(t.lines.map((l) => l.dash)).toEqual([false, true]);
    expect(t.lines.map((l) => l.says)).toEqual(["cut here", "score"]);
  });
});
