import type { Schemas } from "../../api/client";
import { plain, show } from "../../forms/units";
import { box, type Drawn, type Point, type Shape } from "./scaled";

type Sort = "pin" | "magnet" | "strap" | "pad";

const SORTS: Record<string, Sort> = {
  pin_in_foam: "pin",
  pin_in_plate: "pin",
  magnet_6x3: "magnet",
  magnet_10x3: "magnet",
  strap_hook_20: "strap",
  band_loop: "strap",
  "tie_2.5": "strap",
  hook_loop_pad: "pad",
  foam_tape: "pad",
};

/** What is to be held on its tray, seen from the left with the nose to the left, and one way that holds it. */
export function holdShapes(
  need: Schemas["HoldNeed"],
  answer: Schemas["HeldIn"],
  way: Schemas["HoldChoice"],
): Drawn {
  const [long, high] = [need.long_mm, need.high_mm];
  const up = need.hangs ? -1 : 1;
  const tray = Math.max(6, 0.25 * high);
  const half = 0.8 * long;
  const pad = 2;
  const [z0, z1] = [up * pad, up * (pad + high)];
  const stop: Shape[] = need.stop
    ? [{ tone: "foam", points: box(-long / 2 - 12, 0, -long / 2, up * 0.6 * high) }]
    : [];
  return {
    shapes: [
      { tone: "foam", points: box(-half - 12, -up * tray, half, 0) },
      ...stop,
      { tone: "thing", points: box(-long / 2, z0, long / 2, z1) },
      ...held(SORTS[way.key], need, { up, pad, tray }),
    ],
    measures: [
      { from: [-long / 2, Math.min(-tray, -up * tray, z1) - 8], to: [long / 2, Math.min(-tray, -up * tray, z1) - 8], label: show(long, "length") },
    ],
    pushes: [
      { at: [-long / 2, (z0 + z1) / 2], towards: [-1.6, 0], label: `${plain(answer.along_asked_g, 2)} × gravity` },
      { at: [0.25 * long, z1], towards: [0, up], label: `${plain(answer.off_asked_g, 2)} × gravity` },
    ],
    says: `From the side, nose to the left: ${need.what} on its tray${need.stop ? " behind a foam stop" : ""}, held by ${way.name}`,
  }; // prettier-ignore
}

interface Lie {
  up: number;
  pad: number;
  tray: number;
}

/** What holds it: around it, under it, or into the tray at both ends. */
function held(sort: Sort | undefined, need: Schemas["HoldNeed"], { up, pad, tray }: Lie): Shape[] {
  const [long, high] = [need.long_mm, need.high_mm];
  const ends = need.pieces > 1 ? [-0.28 * long, 0.28 * long] : [0];
  switch (sort) {
    case "strap":
      return ends.map((x): Shape => ({
        tone: "skin",
        points: box(
          x - Math.min(10, long / 6),
          -up * tray,
          x + Math.min(10, long / 6),
          up * (pad + high + 1),
        ),
        faint: true,
      }));
    case "pad": {
      const wide = (long * need.pad_percent) / 100 / 2;
      return [-1, 1].map((side): Shape => {
        const inner = side * (long / 2 - wide);
        return { tone: "skin", points: box(inner, 0, side * (long / 2), up * pad) };
      });
    }
    case "magnet":
      return ends.map((x): Shape => ({ tone: "bar", points: box(x - 3, -up * 3, x + 3, up * pad) }));
    case "pin":
      return ends.map((x): Shape => {
        const points: Point[] = [[x, up * (pad + 0.5 * high)], [x, -up * tray]]; // prettier-ignore
        return { tone: "bar", line: 1, points };
      });
    default:
      return [];
  }
}
