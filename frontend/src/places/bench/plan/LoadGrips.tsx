import type { Estimate, LoadCase, Part } from "../../../api/client";
import { Grip } from "../../../part/Grip";
import { readAt } from "../../../charts/interpolate";
import { show } from "../../../forms/units";
import { withCase } from "../../../part/edits";
import type { SheetLayout } from "./sheetLayout";
import { alongTargets, clamp, snapped } from "./snapping";

interface Props {
  part: Part;
  chosen: LoadCase;
  estimate: Estimate;
  layout: SheetLayout;
  change: (edit: (part: Part) => Part) => void;
}

interface Place {
  key: string;
  label: string;
  value: number;
  low: number;
  high: number;
}

/** Places of the load that can be moved: pegs, a hung weight, a hand, a pole, straps, a horn. */
function placesOf(chosen: LoadCase, part: Part, estimate: Estimate): Place[] {
  const span = part.span_mm;
  if (chosen.type === "three_point")
    return [
      {
        key: "first_support_mm",
        label: "First support at",
        value: chosen.first_support_mm,
        low: 0,
        high: chosen.second_support_mm - 20,
      },
      {
        key: "second_support_mm",
        label: "Second support at",
        value: chosen.second_support_mm,
        low: chosen.first_support_mm + 20,
        high: span,
      },
    ];
  if (chosen.type === "deflected")
    return [
      {
        key: "horn_mm",
        label: "Control horn position",
        value: estimate.control?.horn_mm ?? span / 2,
        low: 0,
        high: span,
      },
    ];
  if ("at_mm" in chosen && estimate.acts_at_mm != null)
    return [{ key: "at_mm", label: "Load position", value: estimate.acts_at_mm, low: 10, high: span }];
  return [];
}

/** Grips on where the load acts and where the part rests. */
export function LoadGrips({ part, chosen, estimate, layout, change }: Props) {
  const { x0, scale, exaggeration, front } = layout;
  const { curves } = estimate;
  return placesOf(chosen, part, estimate).map((p) => {
    const put = (value: number) =>
      change((old) => withCase(old, chosen.id, (c) => ({ ...c, [p.key]: clamp(value, p.low, p.high) })));
    const bent = p.key.endsWith("support_mm") ? 0 : (readAt(curves.y_mm, curves.deflection_mm, p.value) ?? 0);
    return (
      <Grip
        key={p.key}
        at={{ x: x0 + p.value * scale, y: front.rest - bent * scale * exaggeration }}
        label={p.label}
        value={p.value}
        most={part.span_mm}
        text={show(p.value, "length", 4)}
        shape="load"
        onDrag={(x) => put(snapped((x - x0) / scale, alongTargets(part, ""), 6 / scale, 1))}
        onStep={(right, down) => put(p.value + right - down)}
      />
    );
  });
}
