import type { Schemas } from "../../api/client";
import { show } from "../../forms/units";
import { box, type Drawn } from "./scaled";

/** An opening from above with the patch that goes over it; the root is to the left. */
export function patchShapes(opening: Schemas["Opening"], patch: Schemas["Patch"]): Drawn {
  const [long, wide] = opening.size_mm;
  const lap = patch.lap_mm;
  const [x, z] = [long / 2, wide / 2];
  const below = -z - lap - 0.1 * (long + 2 * lap);
  return {
    shapes: [
      { tone: "skin", points: box(-x - lap, -z - lap, x + lap, z + lap), faint: true },
      { tone: "thing", points: box(-x, -z, x, z) },
    ],
    measures: [{ from: [x, below], to: [x + lap, below], label: `${show(lap, "length")} lap` }],
    pushes: [],
    says: `Patch of ${patch.name} over the cut-out, ${show(lap, "length")} beyond it on every side`,
  };
}
