import { useId } from "react";
import { useWidth } from "../../charts/useWidth";
import { show, unitOf } from "../../forms/units";
import {
  extent,
  roundLength,
  type Drawn,
  type Measured,
  type Point,
  type Push,
  type Shape,
  type Tone,
} from "./scaled";

const LOOK: Record<Tone, { fill: string; stroke: string }> = {
  foam: { fill: "var(--foam)", stroke: "var(--foam-edge)" },
  skin: { fill: "var(--skin)", stroke: "var(--skin)" },
  bar: { fill: "var(--ink)", stroke: "var(--ink)" },
  sheet: { fill: "var(--rule)", stroke: "var(--ink)" },
  glue: { fill: "var(--pick)", stroke: "var(--pick)" },
  thing: { fill: "var(--raised)", stroke: "var(--ink)" },
  edge: { fill: "none", stroke: "var(--foam-edge)" },
};

/** Words that can be read across a line. */
const HALO = {
  fontSize: 12,
  stroke: "var(--ground)",
  strokeWidth: 4,
  paintOrder: "stroke",
  style: { fill: "var(--ink)" },
};

/** Room around the drawing for measures, px. */
const [SIDE, ABOVE, BELOW] = [14, 12, 46];

/** A sketch with one scale in both directions, its measures written on it and a bar of a round length under it. */
export function ScaledSketch({ drawn, tallest = 220 }: { drawn: Drawn; tallest?: number }) {
  const [ref, full] = useWidth<HTMLDivElement>();
  const id = useId();
  const [left, low, right, top] = extent(drawn);
  const room = Math.min(full, 620) - 2 * SIDE;
  const k = Math.min(room / (right - left || 1), tallest / (top - low || 1));
  const above = ABOVE + (drawn.pushes.some((p) => p.towards[1] > 0) ? REACH + 8 : 0);
  const below = BELOW + (drawn.pushes.some((p) => p.towards[1] < 0) ? REACH : 0);
  const height = (top - low) * k + above + below;
  const x = (mm: number) => SIDE + (room - (right - left) * k) / 2 + (mm - left) * k;
  const y = (mm: number) => above + (top - mm) * k;
  const bar = roundLength(right - left, unitOf("length") === "in");
  const at = ([px, pz]: Point) => `${x(px).toFixed(1)},${y(pz).toFixed(1)}`;
  return (
    <div ref={ref}>
      {full > 0 && (
        <svg
          width={room + 2 * SIDE}
          height={height}
          className="block max-w-full"
          role="img"
          aria-label={drawn.says}
        >
          <defs>
            <Arrow id={`${id}a`} fill="var(--ink)" />
            <Arrow id={`${id}f`} fill="var(--fail)" />
          </defs>
          {drawn.shapes.map((s, i) => (
            <Piece key={i} shape={s} path={s.points.map(at).join(" ")} k={k} />
          ))}
          {drawn.measures.map((m) => (
            <Measure key={m.label} measured={m} {...{ x, y }} arrow={`url(#${id}a)`} end={room + 2 * SIDE} />
          ))}
          {drawn.pushes.map((p) => (
            <Force key={p.label} push={p} {...{ x, y }} arrow={`url(#${id}f)`} />
          ))}
          <g transform={`translate(${x(left)},${height - 8})`}>
            <path d={`M0 -6V0H${bar * k}V-6`} fill="none" stroke="var(--ink)" />
            <text x={bar * k + 6} fontSize={12} style={{ fill: "var(--soft)" }}>
              {show(bar, "length")}
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}

function Arrow({ id, fill }: { id: string; fill: string }) {
  const size = { markerWidth: 10, markerHeight: 10, markerUnits: "userSpaceOnUse" };
  return (
    <marker id={id} viewBox="0 0 8 8" refX={7} refY={4} orient="auto-start-reverse" {...size}>
      <path d="M0 1L8 4L0 7z" fill={fill} />
    </marker>
  );
}

/** One shape by its path in px, `k` px to the millimetre; `stroke` in place of its own colour. */
export function Piece(props: { shape: Shape; path: string; k: number; stroke?: string }) {
  const { shape: s, path, k } = props;
  const look = LOOK[s.tone];
  const opacity = s.faint ? 0.35 : 1;
  if (s.line !== undefined) {
    const width = Math.max(2.5, s.line * k);
    return <polyline points={path} fill="none" stroke={look.stroke} strokeWidth={width} opacity={opacity} />;
  }
  const edge = props.stroke
    ? { stroke: props.stroke, strokeWidth: 3 }
    : { stroke: look.stroke, strokeWidth: 1.2 };
  return <polygon points={path} fill={look.fill} opacity={opacity} {...edge} />;
}

interface Scales {
  x: (mm: number) => number;
  y: (mm: number) => number;
  arrow: string;
}

/** About how wide a letter of a label is, px. */
const LETTER = 6;

function Measure({ measured: m, x, y, arrow, end }: Scales & { measured: Measured; end: number }) {
  const [x0, y0, x1, y1] = [x(m.from[0]), y(m.from[1]), x(m.to[0]), y(m.to[1])];
  const flat = m.from[1] === m.to[1];
  // a label stays within the picture
  const half = (m.label.length * LETTER) / 2;
  const middle = Math.min(Math.max((x0 + x1) / 2, half), end - half);
  return (
    <g>
      <line
        {...{ x1: x0, y1: y0, x2: x1, y2: y1 }}
        stroke="var(--ink)"
        markerStart={arrow}
        markerEnd={arrow}
      />
      <text
        x={flat ? middle : x1 + 6}
        y={flat ? y0 + 14 : (y0 + y1) / 2 + 4}
        textAnchor={flat ? "middle" : "start"}
        {...HALO}
      >
        {m.label}
      </text>
    </g>
  );
}

const REACH = 26;

function Force({ push: p, x, y, arrow }: Scales & { push: Push }) {
  const [x0, y0] = [x(p.at[0]), y(p.at[1])];
  const [dx, dy] = [p.towards[0] * REACH, -p.towards[1] * REACH];
  return (
    <g>
      <line
        x1={x0}
        y1={y0}
        x2={x0 + dx}
        y2={y0 + dy}
        stroke="var(--fail)"
        strokeWidth={2}
        markerEnd={arrow}
      />
      <text x={x0 + dx + (dx < 0 ? -6 : 6)} y={y0 + dy + 4} textAnchor={dx < 0 ? "end" : "start"} {...HALO}>
        {p.label}
      </text>
    </g>
  );
}
