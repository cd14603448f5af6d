import { isSeen, middleOf, normalOf, turned, type Face, type Spot } from "./spaceModel";

export const HEIGHT = 330;

/** What is drawn over what lies at the same depth, mm: skins upon the foam, spars through everything. */
const NEARER: Record<Face["tone"], number> = {
  foam: 0,
  wall: 0,
  skin: 20,
  hinge: 30,
  damage: 2e4,
  spar: 1e4,
};
const BASE: Record<Face["tone"], string> = {
  foam: "--foam",
  wall: "--foam",
  skin: "--skin",
  spar: "--ink",
  hinge: "--ink",
  damage: "--fail",
};
/** How thick lines are, px. */
const LINES: Partial<Record<Face["tone"], number>> = { spar: 1.6, hinge: 1, damage: 2.4 };

/** All faces, the farthest first, shaded by how they lie to the light. */
export function drawSpace(
  canvas: HTMLCanvasElement,
  faces: Face[],
  width: number,
  turn: number,
  tilt: number,
) {
  const context = canvas.getContext("2d");
  if (!context) return;
  const dots = window.devicePixelRatio || 1;
  canvas.width = width * dots;
  canvas.height = HEIGHT * dots;
  context.setTransform(dots, 0, 0, dots, 0, 0);
  context.clearRect(0, 0, width, HEIGHT);
  const style = getComputedStyle(canvas);
  const tones = Object.fromEntries(Object.entries(BASE).map(([k, v]) => [k, style.getPropertyValue(v)]));
  const edge = style.getPropertyValue("--foam-edge");
  const placed = faces.map((f) => ({
    tone: f.tone,
    spots: f.spots.map((s) => turned(s, turn, tilt)),
    inside: f.inside && turned(f.inside, turn, tilt),
  }));
  const all = placed.flatMap((f) => f.spots);
  if (!all.length) return;
  const middle = (i: 0 | 1) => {
    const values = all.map((s) => s[i]);
    const [low, high] = [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))];
    return [(low + high) / 2, high - low] as const;
  };
  const [[cx, wide], [cy, high]] = [middle(0), middle(1)];
  const scale = Math.min((width - 40) / (wide || 1), (HEIGHT - 30) / (high || 1));
  const to = ([x, y]: Spot) => [width / 2 + (x - cx) * scale, HEIGHT / 2 - (y - cy) * scale] as const;
  const depth = (f: Face) => middleOf(f.spots)[2] + NEARER[f.tone];
  context.lineJoin = "round";
  for (const face of placed.filter(isSeen).sort((a, b) => depth(a) - depth(b))) {
    context.beginPath();
    face.spots.forEach((s, i) => (i ? context.lineTo(...to(s)) : context.moveTo(...to(s))));
    const line = LINES[face.tone];
    if (line !== undefined) {
      context.strokeStyle = tones[face.tone]!;
      context.lineWidth = line;
      context.stroke();
      continue;
    }
    context.closePath();
    context.globalAlpha = face.tone === "skin" ? 0.4 : 1;
    context.fillStyle = tones[face.tone]!;
    context.fill();
    context.globalAlpha = 0.5 * (1 - light(face.spots)) * (face.tone === "skin" ? 0 : 1);
    context.fillStyle = "#000";
    context.fill();
    context.globalAlpha = face.spots.length > 4 ? 1 : 0.25;
    context.strokeStyle = edge;
    context.lineWidth = face.spots.length > 4 ? 1 : 0.4;
    context.stroke();
    context.globalAlpha = 1;
  }
}

/** How bright a face is, 0 to 1: the light comes from above and the left. */
function light(spots: Spot[]): number {
  const [x, y, z] = normalOf(spots);
  return 0.4 + 0.6 * Math.abs(-0.35 * x + 0.75 * y + 0.55 * z);
}
