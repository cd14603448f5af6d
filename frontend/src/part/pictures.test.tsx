import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { CutSketch, cutWith } from "./CutSketch";
import { FailureSketch } from "./FailureSketch";

const cut = (y_mm: number, bars: string[]) =>
  ({
    y_mm,
    chord_mm: 100,
    thickness_mm: 20,
    setback_mm: 0,
    hollow: false,
    outline: [
      [0, 0],
      [100, 0],
      [50, 20],
    ],
    skins: [{ line_id: "film", face: "upper", wall: false, thickness_mm: 0.1, points: [[0, 0]] }],
    bars: bars.map((line_id) => ({ line_id, shape: "round", x_mm: 30, z_mm: 8, width_mm: 3, height_mm: 3 })),
    holes: [],
    cords: [],
    things: [],
  }) as unknown as Schemas["Cut"];

const stretch = (root_side: Schemas["Cut"], tip_side: Schemas["Cut"]) => ({ root_side, tip_side });

describe("a cross-section with one item of the lay-up", () => {
  const stretches = [
    stretch(cut(0, ["rod", "joiner"]), cut(100, ["rod", "joiner"])),
    stretch(cut(100, ["rod"]), cut(400, ["rod"])),
    stretch(cut(400, []), cut(600, [])),
  ];

  it("is where the item is, as near as can be to a quarter of the span", () => {
    expect(cutWith(stretches, "rod")!.y_mm).toBe(100);
    expect(cutWith(stretches, "joiner")!.y_mm).toBe(100);
    expect(cutWith(stretches, "film")!.y_mm).toBe(100);
    expect(cutWith(stretches, "seam")).toBeNull();
  });

  it("makes it stand out and the rest faint", () => {
    const { container } = render(<CutSketch cut={cut(0, ["rod", "other"])} only="rod" />);
    const [rod, other] = [...container.querySelectorAll("circle")];
    expect([rod!.getAttribute("fill"), rod!.getAttribute("opacity")]).toEqual(["var(--pick)", "1"]);
    expect([other!.getAttribute("fill"), other!.getAttribute("opacity")]).toEqual(["var(--ink)", "0.25"]);
    expect(container.querySelector("polyline")!.getAttribute("opacity")).toBe("0.25");
  });

  it("shows all alike where none is picked", () => {
    const { container } = render(<CutSketch cut={cut(0, ["rod"])} />);
    expect(container.querySelector("circle")!.getAttribute("fill")).toBe("var(--ink)");
    expect(container.querySelector("polyline")!.getAttribute("opacity")).toBe("1");
  });
});

describe("a drawn failure", () => {
  const drawn = (kind: string, where?: string) =>
    render(<FailureSketch kind={kind} {...(where && { where })} />).container.querySelector("svg");

  it("looks like what happens, and like nothing where nothing does", () => {
    expect(drawn("skin_wrinkling")!.dataset.look).toBe("wrinkle");
    expect(drawn("bar_bond")!.dataset.look).toBe("slide");
    expect(drawn("nothing")).toBeNull();
  });

  it("stands on its head on the lower face", () => {
    expect(drawn("foam_tension", "lower")!.querySelector("g")!.getAttribute("transform")).toContain("-1");
    expect(drawn("foam_tension", "upper")!.querySelector("g")!.hasAttribute("transform")).toBe(false);
  });
});
