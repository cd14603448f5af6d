/** A sketch in millimetres: x to the right, z up. A thin thing is drawn as a line at least as wide as can be seen. */

export type Point = readonly [number, number];

export type Tone = "foam" | "skin" | "bar" | "sheet" | "glue" | "thing" | "edge";

/** An area by its corners, or a line of a thickness in mm. */
export interface Shape {
  tone: Tone;
  points: Point[];
  line?: number;
  faint?: boolean;
}

/** A measure from one point to another: along x, or along z. */
export interface Measured {
  from: Point;
  to: Point;
  label: string;
}

/** A force at a point, towards x or z. */
export interface Push {
  at: Point;
  towards: Point;
  label: string;
}

export interface Drawn {
  shapes: Shape[];
  measures: Measured[];
  pushes: Push[];
  /** What is seen, for those who do not see it. */
  says: string;
}

export const box = (x0: number, z0: number, x1: number, z1: number): Point[] => [
  [x0, z0],
  [x1, z0],
  [x1, z1],
  [x0, z1],
];

/** Left, bottom, right and top of all that is drawn. */
export function extent(drawn: Drawn): [number, number, number, number] {
  const points = [
    ...drawn.shapes.flatMap((s) => s.points),
    ...drawn.measures.flatMap((m) => [m.from, m.to]),
    ...drawn.pushes.map((p) => p.at),
  ];
  const [xs, zs] = [points.map((p) => p[0]), points.map((p) => p[1])];
  return [Math.min(...xs), Math.min(...zs), Math.max(...xs), Math.max(...zs)];
}

/** A round length of up to a third of a width, both in mm: 1, 2 or 5 times a power of ten, or an inch halved or doubled. */
export function roundLength(width: number, inches = false): number {
  const most = width / 3;
  if (inches) return 25.4 * 2 ** Math.floor(Math.log2(most / 25.4));
  const power = 10 ** Math.floor(Math.log10(most));
  return [5, 2, 1].find((n) => n * power <= most)! * power;
}
