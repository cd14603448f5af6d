import type { Layer, Part, Schemas } from "../../../api/client";
import { Grip } from "../../../part/Grip";
import { show } from "../../../forms/units";
import { acrossLine, withLayer } from "../../../part/edits";
import { acrossTargets, clamp, snapped } from "../plan/snapping";

type Cut = Schemas["Cut"];

interface Props {
  cut: Cut;
  part: Part;
  selected: string | null;
  change: (edit: (part: Part) => Part) => void;
  px: (x: number) => number;
  pz: (z: number) => number;
  scale: number;
  x0: number;
  /** The chord line, px. */
  top: number;
}

/** Height of the outline's upper or lower face at a place of the chord. */
export function faceAt(outline: readonly (readonly number[])[], x: number, upper: boolean): number {
  let best: number | null = null;
  outline.forEach((p, i) => {
    const q = outline[(i + 1) % outline.length]!;
    const [low, high] = [Math.min(p[0]!, q[0]!), Math.max(p[0]!, q[0]!)];
    if (x < low || x > high) return;
    const t = q[0] === p[0] ? 0 : (x - p[0]!) / (q[0]! - p[0]!);
    const z = p[1]! + t * (q[1]! - p[1]!);
    if (best === null || (upper ? z > best : z < best)) best = z;
  });
  return best ?? 0;
}

const tenth = (v: number) => Math.round(v * 10) / 10;

/** A line moved to another place across the chord, its taper kept. */
function across(l: Layer, by: number): Layer {
  if (!acrossLine(l)) return l;
  return {
    ...l,
    root_percent: tenth(clamp(l.root_percent + by, 0, 100)),
    tip_percent: tenth(clamp(l.tip_percent + by, 0, 100)),
  };
}

/** Grips on the chosen line in the cut: how far behind the nose, and how deep a bar or a pocket lies. */
export function CutGrips({ cut, part, selected, change, px, pz, scale, x0, top }: Props) {
  const layer = part.layers.find((l) => l.id === selected);
  if (!layer || layer.enabled === false || !acrossLine(layer)) return null;
  const bar = cut.bars.find((b) => b.line_id === layer.id);
  const hole = cut.holes.find((h) => h.line_id === layer.id);
  const level = layer.type === "wall" && layer.face === "level";
  if (level) return null;
  const along = part.span_mm > 0 ? cut.y_mm / part.span_mm : 0;
  const percent = layer.root_percent + (layer.tip_percent - layer.root_percent) * along;
  const x = (cut.chord_mm * percent) / 100;
  const z = bar
    ? bar.z_mm
    : layer.type === "wall"
      ? 0
      : faceAt(
          cut.outline,
          clamp(x, 0.01, cut.chord_mm - 0.01),
          !("face" in layer && layer.face === "lower"),
        );
  const edit = (make: (l: Layer) => Layer) => change((p) => withLayer(p, layer.id, make));
  const deep = layer.type === "bar" && layer.place !== "middle" && bar;
  const cover = (to: number) =>
    edit((l) => (l.type === "bar" ? { ...l, cover_mm: tenth(clamp(to, 0, cut.thickness_mm / 2)) } : l));
  const coverAt = (height: number) => {
    const upper = bar!.side !== "lower";
    const face = faceAt(cut.outline, clamp(x, 0.01, cut.chord_mm - 0.01), upper);
    return Math.abs(face - height) - bar!.height_mm / 2;
  };
  const depthText = deep ? `, ${show(layer.cover_mm, "length", 3)} deep` : "";
  return (
    <g>
      <Grip
        at={{ x: px(x), y: pz(z) }}
        label={deep ? "Position and depth in the cross-section" : "Position in the cross-section"}
        value={layer.root_percent}
        most={100}
        text={`${show(x, "length", 4)}${depthText}`}
        shape="across"
        onDrag={(atX, atY) => {
          const want = (100 * (atX - x0)) / scale / cut.chord_mm - (percent - layer.root_percent);
          const to = snapped(
            clamp(want, 0, 100),
            acrossTargets(part, layer.id),
            60 / (scale * cut.chord_mm),
            0.5,
          );
          const depth = deep ? coverAt((top - atY) / scale) : 0;
          edit((l) => {
            const next = across(l, to - layer.root_percent);
            return next.type === "bar" && deep
              ? { ...next, cover_mm: tenth(clamp(depth, 0, cut.thickness_mm / 2)) }
              : next;
          });
        }}
        onStep={(right, down) => {
          if (right) edit((l) => across(l, 0.5 * right));
          if (down && deep) cover(layer.cover_mm + 0.1 * down * (bar.side === "lower" ? -1 : 1));
        }}
      />
      {hole && layer.type === "cut" && (layer.face === "upper" || layer.face === "lower") && (
        <Grip
          at={{
            x: px(x),
            y: pz(z + (layer.face === "upper" ? -1 : 1) * layer.depth_mm),
          }}
          label="Cut-out depth"
          value={layer.depth_mm}
          most={cut.thickness_mm}
          text={show(layer.depth_mm, "length", 4)}
          shape="end"
          onDrag={(_, atY) => {
            const depth = Math.abs(z - (top - atY) / scale);
            edit((l) =>
              l.type === "cut" ? { ...l, depth_mm: tenth(clamp(depth, 0, cut.thickness_mm)) } : l,
            );
          }}
          onStep={(_, down) =>
            edit((l) =>
              l.type === "cut"
                ? { ...l, depth_mm: tenth(clamp(l.depth_mm + 0.5 * down, 0, cut.thickness_mm)) }
                : l,
            )
          }
        />
      )}
    </g>
  );
}
