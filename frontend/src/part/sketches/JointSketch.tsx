import type { Catalogue, Layer, Part, Schemas } from "../../api/client";
import { show } from "../../forms/units";
import { cutWith } from "../CutSketch";
import type { JointLayer } from "./acrossJoint";
import { hingeShapes } from "./hingeShapes";
import { drawnJoint } from "./jointShapes";
import { ScaledSketch } from "./ScaledSketch";

interface Props {
  layer: JointLayer | Extract<Layer, { type: "hinge" }>;
  part: Part;
  catalogue: Catalogue;
  stretches: Schemas["Stretch"][];
}

/** A joint or hinge of the lay-up seen from the side, to scale, where it lies. */
export function JointSketch({ layer, part, catalogue, stretches }: Props) {
  if (layer.type === "hinge") return <HingeSketch {...{ layer, part }} />;
  const of = "of" in layer.joint ? layer.joint.of : null;
  const cut = (of && cutWith(stretches, of)) || cutAt(stretches, layer.start_mm);
  const drawn = cut && drawnJoint({ layer, part, catalogue, cut });
  return drawn && <ScaledSketch drawn={drawn} />;
}

/** The hinge of a control surface at its front edge. */
function HingeSketch({ layer, part }: { layer: Extract<Layer, { type: "hinge" }>; part: Part }) {
  const at = { ...layer, thickness_mm: part.root_thickness_mm };
  const shapes = hingeShapes(at, layer.method);
  const says = `Hinge from the side, ${show(part.root_thickness_mm, "length")} thick, bevel ${show(layer.bevel_deg, "angle")}`;
  return <ScaledSketch drawn={{ shapes, measures: [], pushes: [], says }} />;
}

/** The cross-section nearest to a place along the part; null where there is none. */
function cutAt(stretches: Schemas["Stretch"][], y_mm: number): Schemas["Cut"] | null {
  const far = (cut: Schemas["Cut"]) => Math.abs(cut.y_mm - y_mm);
  return stretches.flatMap((s) => [s.root_side, s.tip_side]).sort((a, b) => far(a) - far(b))[0] ?? null;
}
