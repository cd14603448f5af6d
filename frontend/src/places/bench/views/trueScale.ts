import type { Schemas } from "../../../api/client";

type Point = [number, number];

/** Something to be drawn as large as it is, mm: an outline, and lines with how they are drawn. */
export interface Template {
  name: string;
  outline: Point[];
  /** A line that is worked on says what is done there; it is numbered on the paper. */
  lines: { points: Point[]; dash: boolean; says?: string }[];
  circles: { at: Point; radius: number }[];
  note: string;
}

export const PAPERS = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
} as const;
export type Paper = keyof typeof PAPERS;

/** What no printer reaches, at every edge; the strip for check bar and title; what pages have in common. All mm. */
const MARGIN = 10;
export const STRIP = 16;
export const OVERLAP = 10;

export interface Pages {
  template: Template;
  /** What a page shows, mm. */
  width: number;
  height: number;
  columns: number;
  rows: number;
  /** Where the drawing begins. */
  x0: number;
  y0: number;
}

const extent = (values: number[]) => [Math.min(...values), Math.max(...values)] as const;

/** The template on pages of a paper, laid the way that takes fewer of them. */
export function pagesOf(template: Template, paper: Paper): Pages {
  const width = PAPERS[paper].width - 2 * MARGIN;
  const height = PAPERS[paper].height - 2 * MARGIN - STRIP;
  const laid = [template, aslant(template)].map((t) => {
    const all = [
      ...t.outline,
      ...t.lines.flatMap((l) => l.points),
      ...t.circles.flatMap((c): Point[] => [
        [c.at[0] - c.radius, c.at[1] - c.radius],
        [c.at[0] + c.radius, c.at[1] + c.radius],
      ]),
    ];
    const [x0, x1] = extent(all.map((p) => p[0]));
    const [y0, y1] = extent(all.map((p) => p[1]));
    const count = (size: number, page: number) =>
      Math.max(1, Math.ceil((size + 2 - OVERLAP) / (page - OVERLAP)));
    const [columns, rows] = [count(x1 - x0, width), count(y1 - y0, height)];
    return { template: t, width, height, columns, rows, x0: x0 - 1, y0: y0 - 1 };
  });
  return laid.reduce((a, b) => (b.columns * b.rows < a.columns * a.rows ? b : a));
}

/** A quarter turn. */
function aslant(t: Template): Template {
  const turn = ([x, y]: Point): Point => [-y, x];
  return {
    ...t,
    outline: t.outline.map(turn),
    lines: t.lines.map((l) => ({ ...l, points: l.points.map(turn) })),
    circles: t.circles.map((c) => ({ ...c, at: turn(c.at) })),
  };
}

/** A piece of sheet with its lines; drawn as it lies on the screen. */
export function templateOf(piece: Schemas["Piece"]): Template {
  const laid = (points: readonly (readonly number[])[]) => points.map(([x, y]): Point => [y!, x!]);
  return {
    name: `${piece.count} × ${piece.name}`,
    outline: laid(piece.outline),
    lines: piece.lines.map((l) => ({ points: laid(l.points), dash: l.kind !== "cut", says: l.says })),
    circles: [],
    note: "",
  };
}

/** The outline of a cross-section with the spars in it, front to the left. */
export function sectionOf(name: string, cut: Schemas["Cut"], note: string): Template {
  const up = (points: readonly (readonly number[])[]) => points.map(([x, z]): Point => [x!, -z!]);
  const box = (x: number, z: number, w: number, h: number): Point[] => [
    [x - w / 2, -z - h / 2],
    [x + w / 2, -z - h / 2],
    [x + w / 2, -z + h / 2],
    [x - w / 2, -z + h / 2],
    [x - w / 2, -z - h / 2],
  ];
  return {
    name,
    outline: up(cut.outline),
    lines: [
      {
        points: [
          [0, 0],
          [cut.chord_mm, 0],
        ],
        dash: true,
      },
      ...cut.holes.map((h) => ({ points: up([...h.points, h.points[0]!]), dash: false })),
      ...cut.bars
        .filter((b) => b.shape === "flat")
        .map((b) => ({ points: box(b.x_mm, b.z_mm, b.width_mm, b.height_mm), dash: false })),
    ],
    circles: cut.bars
      .filter((b) => b.shape !== "flat")
      .map((b) => ({ at: [b.x_mm, -b.z_mm], radius: b.width_mm / 2 })),
    note,
  };
}
