import { describe, expect, it } from "vitest";
import type { Airframe, Catalogue, Part } from "../api/client";
import {
  acrossLine,
  duplicated,
  lineName,
  moved,
  problemAt,
  withCase,
  withLayer,
  withPart,
  withSpan,
} from "./edits";

const line = (id: string, more: object = {}) => ({
  id,
  name: "",
  enabled: true,
  start_mm: 0,
  end_mm: null,
  type: "film",
  skin: "paper",
  face: "both",
  plies: 1,
  ...more,
});

const part = {
  id: "wing",
  span_mm: 600,
  layers: [line("a", { start_mm: 60, end_mm: 300 }), line("b"), line("c")],
  cases: [
    { id: "pegs", type: "three_point", first_support_mm: 60, second_support_mm: 540 },
    { id: "hand", type: "handling", at_mm: 500 },
    { id: "tip", type: "tip_weight", at_mm: null },
    { id: "turn", type: "turn" },
  ],
} as unknown as Part;

describe("a new span", () => {
  const longer = withSpan(part, 900);
  it("carries lines, supports and loads along in proportion", () => {
    expect(longer.layers[0]).toMatchObject({ start_mm: 90, end_mm: 450 });
    expect(longer.cases[0]).toMatchObject({ first_support_mm: 90, second_support_mm: 810 });
    expect(longer.cases[1]).toMatchObject({ at_mm: 750 });
  });
  it("leaves what runs to the end, and what has no place", () => {
    expect(longer.layers[1]).toMatchObject({ end_mm: null });
    expect(longer.cases[2]).toMatchObject({ at_mm: null });
    expect(longer.cases[3]).toEqual(part.cases[3]);
  });
  it("goes back to where it was", () => {
    expect(withSpan(longer, 600)).toEqual(part);
  });
});

describe("lines and cases", () => {
  it("move by one place and stop at the ends", () => {
    expect(moved(part, "a", 1).layers.map((l) => l.id)).toEqual(["b", "a", "c"]);
    expect(moved(part, "a", -1)).toBe(part);
    expect(moved(part, "c", 1)).toBe(part);
  });
  it("are changed or taken out without touching the others", () => {
    expect(withLayer(part, "b", () => null).layers.map((l) => l.id)).toEqual(["a", "c"]);
    const named = withCase(part, "turn", (c) => ({ ...c, name: "steep" }));
    expect(named.cases[3]).toMatchObject({ name: "steep" });
    expect(named.cases[0]).toBe(part.cases[0]);
  });
  it("change only the part that is meant", () => {
    const other = { ...part, id: "tail" };
    const document = { parts: [part, other] } as unknown as Airframe;
    const changed = withPart(document, "tail", (p) => ({ ...p, name: "tail plane" }));
    expect(changed.parts?.[0]).toBe(part);
    expect(changed.parts?.[1]).toMatchObject({ name: "tail plane" });
  });
});

describe("problems", () => {
  const problems = [{ path: "parts[0].layers[1].skin.plies[0].cloth", message: "?" }];
  it("are found at their field and at what holds it", () => {
    expect(problemAt(problems, "parts[0].layers[1].skin.plies[0].cloth")).toBeDefined();
    expect(problemAt(problems, "parts[0].layers[1].skin")).toBeDefined();
  });
  it("are not found at a field whose name merely begins alike", () => {
    expect(problemAt(problems, "parts[0].layers[1].sk")).toBeUndefined();
    expect(problemAt(problems, "parts[0].layers[10]")).toBeUndefined();
  });
});

describe("the name of a line", () => {
  const catalogue = {
    skins: [{ key: "paper", name: "Kraft paper" }],
    sheets: [{ key: "ply", name: "Birch plywood" }],
    bars: [],
    cloths: [{ key: "g", name: "Glass 49" }],
  } as unknown as Catalogue;
  const named = (more: object) => lineName(line("x", more) as unknown as Part["layers"][number], catalogue);
  it("is the builder's own, or its material's, or tells the cloths", () => {
    expect(named({ name: "nose wrap" })).toBe("nose wrap");
    expect(named({})).toBe("Kraft paper");
    expect(named({ skin: "ply" })).toBe("Birch plywood");
    expect(named({ skin: { plies: [{ cloth: "g" }] } })).toBe("Glass 49 in resin");
    expect(named({ skin: { plies: [{ cloth: "g" }, { cloth: "g" }] } })).toBe("2 plies of cloth");
    expect(named({ skin: "nothing" })).toBe("unknown material");
  });
});

describe("a copy of a line", () => {
  const bars = {
    ...part,
    layers: [
      line("film"),
      line("rod", { type: "bar", root_percent: 30, tip_percent: 30 }),
      line("web", { type: "wall", face: "web", root_percent: 45, tip_percent: 45 }),
    ],
  } as unknown as Part;

  it("lies right after it, a bar at the next free place across", () => {
    const copied = duplicated(bars, "rod", "rod2");
    expect(copied.layers.map((l) => l.id)).toEqual(["film", "rod", "rod2", "web"]);
    expect(copied.layers[2]).toMatchObject({ root_percent: 60, tip_percent: 60 });
    expect(duplicated(bars, "film", "film2").layers[1]).toMatchObject({ id: "film2", face: "both" });
  });

  it("is none of a line that is not there", () => {
    expect(duplicated(bars, "nothing", "x")).toBe(bars);
  });

  it.each([
    ["web", true],
    ["level", true],
    ["upper", false],
  ])("knows whether a wall's %s lies at a place across", (face, across) => {
    expect(acrossLine(line("w", { type: "wall", face }) as unknown as Part["layers"][number])).toBe(across);
  });
});
