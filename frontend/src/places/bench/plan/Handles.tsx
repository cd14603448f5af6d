import { useRef } from "react";
import type { Layer, Part } from "../../../api/client";
import { Grip } from "../../../part/Grip";
import { show } from "../../../forms/units";
import { acrossLine, withLayer } from "../../../part/edits";
import type { SheetLayout } from "./sheetLayout";
import { asLongAsItIs, acrossTargets, alongTargets, clamp, slid, snapped } from "./snapping";

interface Props {
  part: Part;
  layer: Layer;
  layout: SheetLayout;
  change: (edit: (part: Part) => Part) => void;
}

const SNAP_PX = 7;
const SNAP_PERCENT = 0.8;

/** Where the grips of a line stand that has no place of its own across the chord: on its edge, or in the middle. */
function edgePercent(layer: Layer): number {
  if (layer.type !== "cord" && layer.type !== "wall") return 50;
  return layer.face === "front" ? 0 : layer.face === "rear" ? 100 : 50;
}

const tenth = (v: number) => Math.round(v * 10) / 10;

/** Grips on the chosen line: its ends along the part, and the line itself, across and along. */
export function Handles({ part, layer, layout, change }: Props) {
  const { x0, scale, plan } = layout;
  const start = layer.start_mm;
  const end = layer.end_mm ?? part.span_mm;
  const own = asLongAsItIs(layer);
  const whole = !own && start === 0 && end === part.span_mm;
  /** Where the pointer took hold of the line along the part, mm from its start. */
  const held = useRef<number | null>(null);
  const chordAt = (y: number) =>
    part.root_chord_mm + ((part.tip_chord_mm - part.root_chord_mm) * y) / part.span_mm;
  const percentAt = (y: number) =>
    acrossLine(layer)
      ? layer.root_percent + ((layer.tip_percent - layer.root_percent) * y) / part.span_mm
      : edgePercent(layer);
  const noseAt = (y: number) => plan.nose + ((part.tip_setback_mm * y) / part.span_mm) * scale;
  const spot = (y: number) => ({
    x: x0 + y * scale,
    y: noseAt(y) + ((chordAt(y) * percentAt(y)) / 100) * scale,
  });
  const edit = (make: (l: Layer) => Layer) => change((p) => withLayer(p, layer.id, make));
  const setStart = (v: number) => edit((l) => ({ ...l, start_mm: clamp(v, 0, end - 5) }));
  const setEnd = (v: number) =>
    edit((l) => {
      const to = clamp(v, start + 5, part.span_mm);
      return { ...l, end_mm: to === part.span_mm ? null : to };
    });
  const across = (l: Layer, value: number): Layer => {
    if (!acrossLine(l)) return l;
    const by = value - l.root_percent;
    return { ...l, root_percent: tenth(value), tip_percent: tenth(clamp(l.tip_percent + by, 0, 100)) };
  };
  const along = (x: number) =>
    snapped(clamp((x - x0) / scale, 0, part.span_mm), alongTargets(part, layer.id), SNAP_PX / scale, 1);
  // a thing from stock is taken hold of beside its place
  const middle = own ? Math.min(start + 34 / scale, part.span_mm) : (start + end) / 2;
  const moveBoth = (x: number, y: number) => {
    const here = (100 * (y - noseAt(middle))) / (chordAt(middle) * scale);
    const root = snapped(
      clamp(here - (percentAt(middle) - percentAt(0)), 0, 100),
      acrossTargets(part, layer.id),
      SNAP_PERCENT,
      0.5,
    );
    const at = (x - x0) / scale;
    held.current ??= at - start;
    const by = at - held.current - start;
    edit((l) => {
      const next = acrossLine(l) ? across(l, root) : l;
      return whole ? next : slid(next, part, by, alongTargets(part, l.id), SNAP_PX / scale);
    });
  };
  const first = spot(start);
  return (
    <g>
      <Grip
        at={{ ...first, x: Math.min(first.x, spot(end).x - 13) }}
        label="Start of this item"
        value={start}
        most={part.span_mm}
        text={show(start, "length", 4)}
        shape="end"
        onDrag={(x) => setStart(along(x))}
        onStep={(right, down) => setStart(start + right - down)}
      />
      {!own && (
        <Grip
          at={spot(end)}
          label="End of this item"
          value={end}
          most={part.span_mm}
          text={show(end, "length", 4)}
          shape="end"
          onDrag={(x) => setEnd(along(x))}
          onStep={(right, down) => setEnd(end + right - down)}
        />
      )}
      {(acrossLine(layer) || !whole) && (
        <Grip
          at={spot(middle)}
          label="Position along the chord"
          value={acrossLine(layer) ? layer.root_percent : start}
          most={acrossLine(layer) ? 100 : part.span_mm}
          text={
            acrossLine(layer)
              ? `${layer.root_percent} %, ${show((chordAt(middle) * percentAt(middle)) / 100, "length", 4)}`
              : show(start, "length", 4)
          }
          shape="across"
          onDrag={moveBoth}
          onStep={(right, down) =>
            edit((l) => {
              const next = acrossLine(l) ? across(l, clamp(l.root_percent + 0.5 * down, 0, 100)) : l;
              return whole || !right ? next : slid(next, part, right, [], 0);
            })
          }
          onHold={() => (held.current = null)}
        />
      )}
    </g>
  );
}
