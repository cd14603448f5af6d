import type { Part } from "../api/client";

interface Props {
  part: Part;
  /** The colour of the marks; those that are being mended have another than those that are open. */
  colour?: string;
  px: (y: number) => number;
  /** Nose and chord of the part at a place, mm. */
  nose: (y: number) => number;
  chord: (y: number) => number;
  pz: (x: number) => number;
}

/** Marks of damage on the plan, in the colour of failure and each in a shape of its own. */
export function PlanDamage({ part, px, nose, chord, pz, colour = "var(--fail)" }: Props) {
  const place = (y: number, percent: number) => pz(nose(y) + (percent / 100) * chord(y));
  return (
    <g fill="none" stroke={colour} strokeWidth={2.2} pointerEvents="none">
      {(part.damage ?? []).map((m) => {
        if (m.kind === "opened") {
          const c = m.edge === "front" ? 0 : 100;
          const ends = [m.start_mm, m.end_mm].map((y) => `${px(y)} ${place(y, c)}`);
          return <path key={m.id} d={`M${ends.join("L")}`} strokeWidth={4} strokeDasharray="6 3" />;
        }
        if (m.kind === "bent" && m.at_mm != null) {
          const [x, from, to] = [px(m.at_mm), place(m.at_mm, 0), place(m.at_mm, 100)];
          return <path key={m.id} d={`M${x - 5} ${from}L${x + 5} ${0.5 * (from + to)}L${x - 5} ${to}`} />;
        }
        if (m.kind === "crease") {
          const span = edgeSpan({ ...m, depth_mm: 0.05 * chord(m.at_mm) }, chord(m.at_mm));
          const [from, to] = [place(m.at_mm, span[0]), place(m.at_mm, span[1])];
          return (
            <path key={m.id} d={`M${px(m.at_mm)} ${from}V${to}`} strokeDasharray="2 3" strokeWidth={3} />
          );
        }
        if (m.kind === "crack" || m.kind === "break") {
          const span = m.kind === "break" ? [0, 100] : edgeSpan(m, chord(m.at_mm));
          const [from, to] = [place(m.at_mm, span[0]!), place(m.at_mm, span[1]!)];
          return (
            <path
              key={m.id}
              d={jagged(px(m.at_mm), from, to)}
              strokeDasharray={m.kind === "crack" ? "7 2" : undefined}
            />
          );
        }
        if (m.kind === "crush" || m.kind === "missing") {
          const span = edgeSpan(m, chord(m.start_mm));
          const corners = [
            [m.start_mm, span[0]],
            [m.end_mm, span[0]],
            [m.end_mm, span[1]],
            [m.start_mm, span[1]],
          ] as const;
          return (
            <polygon
              key={m.id}
              points={corners.map(([y, c]) => `${px(y)},${place(y, c)}`).join(" ")}
              fill={m.kind === "missing" ? "var(--sheet)" : "none"}
              strokeDasharray="3 3"
            />
          );
        }
        if (m.kind === "bar") {
          const bar = part.layers.find((l) => l.id === m.of);
          const c = bar && "root_percent" in bar ? bar.root_percent : 50;
          const [x, y] = [px(m.at_mm), place(m.at_mm, c)];
          return <path key={m.id} d={`M${x - 6} ${y - 6}l12 12M${x - 6} ${y + 6}l12 -12`} />;
        }
        if (m.kind === "peeled") {
          const of = part.layers.find((l) => l.id === m.of);
          const half = of?.type === "strip" ? (50 * of.width_mm) / chord(m.start_mm) : 47;
          const middle = of?.type === "strip" ? of.root_percent : 50;
          const edges = [middle - half, middle + half].map(
            (c) => `M${px(m.start_mm)} ${place(m.start_mm, c)}L${px(m.end_mm)} ${place(m.end_mm, c)}`,
          );
          return <path key={m.id} d={edges.join("")} strokeDasharray="1 4" />;
        }
        return null;
      })}
    </g>
  );
}

/** From where to where behind the nose a mark reaches, per cent; from an edge by its depth. */
export function edgeSpan(
  m: { face: string; from_percent: number; to_percent: number; depth_mm: number },
  chord: number,
): [number, number] {
  const deep = Math.min(100, (100 * m.depth_mm) / chord);
  if (m.face === "front") return [0, deep];
  if (m.face === "rear") return [100 - deep, 100];
  return [m.from_percent, m.to_percent];
}

function jagged(x: number, from: number, to: number): string {
  const steps = Math.max(2, Math.round(Math.abs(to - from) / 9));
  const step = (to - from) / steps;
  return `M${x} ${from}${Array.from({ length: steps }, (_, n) => `l${n % 2 ? -5 : 5} ${step}`).join("")}`;
}
