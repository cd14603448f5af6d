import type { Part } from "../../../api/client";
import { Grip } from "../../../part/Grip";
import { show } from "../../../forms/units";
import type { SheetLayout } from "./sheetLayout";
import { alongTargets, clamp, snapped } from "./snapping";

interface Props {
  part: Part;
  layout: SheetLayout;
  change: (edit: (part: Part) => Part) => void;
}

const SURFACES = [
  ["control", "the control surface"],
  ["second_control", "the flap"],
] as const;
const ENDS = [
  ["start_mm", "Start"],
  ["end_mm", "End"],
] as const;

/** Control surfaces in dashes, with grips on their ends at the rear edge of their wing or tail. */
export function ControlGrips({ part, layout, change }: Props) {
  const { x0, scale, plan } = layout;
  /** Height on the sheet of a share of the chord behind the nose. */
  const at = (y: number, share: number) => {
    const t = y / part.span_mm;
    const chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * t;
    return plan.nose + (part.tip_setback_mm * t + share * chord) * scale;
  };
  return SURFACES.flatMap(([which, name]) => {
    const control = part[which];
    if (!control) return [];
    const [from, to] = [control.start_mm, control.end_mm];
    const hinge = 1 - control.chord_percent / 100;
    const corners = [[from, 1], [from, hinge], [to, hinge], [to, 1]] as const; // prettier-ignore
    const outline = (
      <polyline
        key={which}
        points={corners.map(([y, share]) => `${x0 + y * scale},${at(y, share)}`).join(" ")}
        fill="none"
        stroke="var(--pick)"
        strokeDasharray="5 3"
        pointerEvents="none"
      />
    );
    const grips = ENDS.map(([key, end]) => {
      const put = (v: number) =>
        change((p) => {
          const now = p[which];
          if (!now) return p;
          const place =
            key === "start_mm" ? clamp(v, 0, now.end_mm - 5) : clamp(v, now.start_mm + 5, p.span_mm);
          return { ...p, [which]: { ...now, [key]: place } };
        });
      return (
        <Grip
          key={which + key}
          at={{ x: x0 + control[key] * scale, y: at(control[key], 1) }}
          label={`${end} of ${name}`}
          value={control[key]}
          most={part.span_mm}
          text={show(control[key], "length", 4)}
          shape="load"
          onDrag={(x) => put(snapped((x - x0) / scale, alongTargets(part, ""), 6 / scale, 1))}
          onStep={(right, down) => put(control[key] + right - down)}
        />
      );
    });
    return [outline, ...grips];
  });
}
