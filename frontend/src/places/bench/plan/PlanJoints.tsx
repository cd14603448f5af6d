import type { Layer, Part } from "../../../api/client";

interface Props {
  part: Part;
  px: (y: number) => number;
  /** Nose and chord of the part at a place, mm. */
  nose: (y: number) => number;
  chord: (y: number) => number;
  pz: (x: number) => number;
  scale: number;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

type Joint = Extract<Layer, { type: "joint" }>;

/** Joints and hinges on the plan: a parting as a seam across, with its braces; plates, bolts, the hinge line. */
export function PlanJoints({ part, px, nose, chord, pz, scale, selected, setSelected }: Props) {
  return part.layers.map((layer) => {
    if (layer.enabled === false || (layer.type !== "joint" && layer.type !== "hinge")) return null;
    const stroke = selected === layer.id ? "var(--pick)" : "var(--ink)";
    const shared = { stroke, fill: "none", onClick: () => setSelected(layer.id) };
    if (layer.type === "hinge") {
      const end = layer.end_mm ?? part.span_mm;
      const line = `M${px(layer.start_mm)} ${pz(nose(layer.start_mm))}L${px(end)} ${pz(nose(end))}`;
      return <path key={layer.id} d={line} strokeWidth={4} strokeDasharray="2 4" {...shared} />;
    }
    return <g key={layer.id}>{shapes(layer, part, { px, nose, chord, pz, scale, shared })}</g>;
  });
}

interface Pen extends Omit<Props, "part" | "selected" | "setSelected"> {
  shared: { stroke: string; fill: string; onClick: () => void };
}

function shapes(layer: Joint, part: Part, pen: Pen) {
  const { px, nose, chord, pz, scale, shared } = pen;
  const at = layer.start_mm;
  const j = layer.joint;
  const across = nose(at) + (layer.chord_percent / 100) * chord(at);
  if (j.kind === "across" || j.kind === "lap") {
    const [top, low] = [pz(nose(at)), pz(nose(at) + chord(at))];
    const slant =
      j.kind === "across" && j.faces === "scarf" ? (j.slope * part.root_thickness_mm * scale) / 2 : 0;
    const half = j.kind === "lap" ? (j.overlap_mm * scale) / 2 : slant;
    const seam = half
      ? `M${px(at) - half} ${top}V${low}M${px(at) + half} ${top}V${low}`
      : zigzag(px(at), top, low);
    return (
      <>
        <path d={seam} strokeWidth={1.8} strokeDasharray={half ? "5 3" : undefined} {...shared} />
        {j.kind === "across" &&
          j.braces.map((b, n) => {
            const x = pz(across + (n - (j.braces.length - 1) / 2) * 10);
            const from = px(Math.max(0, at - b.each_side_mm));
            return (
              <path
                key={n}
                d={`M${from} ${x}H${px(at + b.each_side_mm)}M${from} ${x - 4}v8M${px(at + b.each_side_mm)} ${x - 4}v8`}
                strokeWidth={2.4}
                strokeDasharray={b.glued ? undefined : "8 3"}
                {...shared}
              />
            );
          })}
      </>
    );
  }
  if (j.kind === "wall") {
    const edge = j.face === "front" ? 0 : 1;
    if (j.along_mm != null) {
      const [y, end] = [pz(nose(at) + edge * chord(at)), at + j.along_mm];
      return (
        <path
          d={`M${px(at)} ${y}L${px(end)} ${pz(nose(end) + edge * chord(end))}`}
          strokeWidth={3}
          strokeDasharray="6 3"
          {...shared}
        />
      );
    }
    const [top, low] = [pz(nose(at)), pz(nose(at) + chord(at))];
    return (
      <>
        <path d={zigzag(px(at), top, low)} strokeWidth={1.8} {...shared} />
        {j.straps.map((s, n) => (
          <path
            key={n}
            d={`M${px(at - s.each_side_mm)} ${top + 6 + 6 * n}H${px(at + s.each_side_mm)}M${px(at - s.each_side_mm)} ${low - 6 - 6 * n}H${px(at + s.each_side_mm)}`}
            strokeWidth={3.2}
            strokeDasharray={s.lies === "inside" || s.lies === "flutes" ? "5 3" : undefined}
            {...shared}
          />
        ))}
      </>
    );
  }
  if (j.kind === "plate")
    return (
      <rect
        x={px(at)}
        y={pz(across) - (j.wide_mm * scale) / 2}
        width={j.long_mm * scale}
        height={j.wide_mm * scale}
        strokeWidth={1.6}
        strokeDasharray={j.face === "lower" ? "5 3" : undefined}
        {...shared}
        fill="var(--raised)"
        fillOpacity={0.6}
      />
    );
  if (j.kind === "bolted")
    return Array.from({ length: j.bolts }, (_, n) => {
      const y = at + (j.bolts > 1 ? (n / (j.bolts - 1)) * j.apart_mm : 0);
      const r = Math.max(3, (j.washer_mm * scale) / 2);
      return (
        <path
          key={n}
          d={`M${px(y) - r} ${pz(across)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0h${2 * r}M${px(y)} ${pz(across) - r}v${2 * r}`}
          strokeWidth={1.4}
          {...shared}
        />
      );
    });
  if (j.kind === "banded") {
    const y = px(at) + 5;
    return (
      <path
        d={`M${y} ${pz(nose(at)) - 5}V${pz(nose(at) + chord(at)) + 5}M${y + 5} ${pz(nose(at)) - 5}V${pz(nose(at) + chord(at)) + 5}`}
        strokeWidth={2}
        {...shared}
      />
    );
  }
  return null;
}

/** A seam seen from above: a line that wavers, so that no rib or dimension is taken for it. */
function zigzag(x: number, top: number, low: number): string {
  const steps = Math.max(4, 2 * Math.round((low - top) / 16));
  const step = (low - top) / steps;
  return `M${x} ${top}${Array.from({ length: steps }, (_, n) => `l${n % 2 ? 3 : -3} ${step / 2}l${n % 2 ? -3 : 3} ${step / 2}`).join("")}`;
}
