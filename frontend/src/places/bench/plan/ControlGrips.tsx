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

const ENDS = [
  ["start_mm", "Start of the control surface"],
  ["end_mm", "End of the control surface"],
] as const;

/** Grips on the ends of a control surface, at the rear edge of its wing or tail. */
export function ControlGrips({ part, layout, change }: Props) {
  const { control } = part;
  if (!control) return null;
  const { x0, scale, plan } = layout;
  const rear = (y: number) => {
    const t = y / part.span_mm;
    const chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * t;
    return plan.nose + (part.tip_setback_mm * t + chord) * scale;
  };
  return ENDS.map(([key, label]) => {
    const put = (v: number) =>
      change((p) => {
        if (!p.control) return p;
        const { start_mm, end_mm } = p.control;
        const to = key === "start_mm" ? clamp(v, 0, end_mm - 5) : clamp(v, start_mm + 5, p.span_mm);
        return { ...p, control: { ...p.control, [key]: to } };
      });
    return (
      <Grip
        key={key}
        at={{ x: x0 + control[key] * scale, y: rear(control[key]) }}
        label={label}
        value={control[key]}
        most={part.span_mm}
        text={show(control[key], "length", 4)}
        shape="load"
        onDrag={(x) => put(snapped((x - x0) / scale, alongTargets(part, ""), 6 / scale, 1))}
        onStep={(right, down) => put(control[key] + right - down)}
      />
    );
  });
}
