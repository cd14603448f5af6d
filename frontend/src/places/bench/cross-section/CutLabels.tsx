import { cutAt } from "../../../charts/interpolate";
import { bare, show } from "../../../forms/units";

interface LabelsProps {
  cut: ReturnType<typeof cutAt>;
  px: (x: number) => number;
  pz: (z: number) => number;
  high: number;
  low: number;
  width: number;
  nameOf: (id: string) => string;
  numbers: string[];
}

/** Each layer's number and true thickness, above the cut for what lies in its upper half, below for the rest. */
export function CutLabels({ cut, px, pz, high, low, width, nameOf, numbers }: LabelsProps) {
  const middle = (z: number) => z >= 0.5 * (high + low);
  const spots = [
    ...cut.bars.map((b) => ({
      id: b.line_id,
      x: b.x_mm,
      z: b.z_mm,
      up: b.side === "upper" || (b.side === "middle" && middle(b.z_mm)),
      text: size(b),
    })),
    ...cut.skins
      .filter((s) => s.face === "upper" || s.face === "lower")
      .map((s) => {
        const whole = s.points.at(-1)![0] - s.points[0]![0] > 0.9 * cut.chord_mm;
        const p = s.points[Math.floor(s.points.length * (whole ? 0.72 : 0.5))]!;
        return {
          id: s.line_id,
          x: p[0],
          z: p[1],
          up: s.face === "upper",
          text: show(s.thickness_mm, "length"),
        };
      }),
  ];
  const row = (up: boolean) => {
    const mine = spots.filter((s) => s.up === up).sort((a, b) => a.x - b.x);
    let edge = 0;
    return mine.map((s) => {
      const text = `${numbers.indexOf(s.id)} · ${s.text}`;
      const w = text.length * 6.2 + 10;
      const left = Math.min(Math.max(edge, px(s.x) - w / 2), width - w);
      edge = left + w + 4;
      const y = up ? 14 : pz(low) + 34;
      return (
        <g key={s.id + String(up)}>
          <title>{nameOf(s.id)}</title>
          <path
            d={`M${left + w / 2} ${up ? y + 4 : y - 11}L${px(s.x)} ${pz(s.z)}`}
            stroke="var(--ink)"
            strokeWidth={0.8}
          />
          <text x={left + w / 2} y={y} fontSize={12} textAnchor="middle">
            {text}
          </text>
        </g>
      );
    });
  };
  return (
    <g pointerEvents="none">
      {row(true)}
      {row(false)}
    </g>
  );
}

function size(bar: { shape: string; width_mm: number; height_mm: number; bore_mm: number }): string {
  if (bar.shape === "flat") return `${bare(bar.width_mm, "length", 4)} × ${show(bar.height_mm, "length", 4)}`;
  return bar.bore_mm > 0
    ? `⌀ ${bare(bar.width_mm, "length", 4)}/${show(bar.bore_mm, "length", 4)}`
    : `⌀ ${show(bar.width_mm, "length", 4)}`;
}
