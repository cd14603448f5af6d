import { describe, expect, it } from "vitest";
import type { Airframe, Part, Schemas } from "../../api/client";
import { withRemedy } from "./Remedies";
import { centreNow, extentOf, firstPlace, leanOf, sideOf, weightsOn, type Item } from "./sideShapes";

const part = (of: object) =>
  ({
    kind: "wing",
    span_mm: 600,
    root_chord_mm: 180,
    tip_chord_mm: 140,
    tip_setback_mm: 20,
    root_thickness_mm: 20,
    tip_thickness_mm: 16,
    place: { x_mm: 220, y_mm: 25, z_mm: 40, dihedral_deg: 0 },
    ...of,
  }) as unknown as Part;
const line = (grams: number, x_mm: number, item_id: string | null = null, part_id: string | null = "w") =>
  ({ grams: { typ: grams }, x_mm, item_id, part_id }) as unknown as Schemas["LedgerLine"];
const item = (id: string, x_mm: number, of = {}) => ({ id, x_mm, z_mm: 0, ...of }) as unknown as Item;

describe("an airframe from the side", () => {
  it("shows a wing by its section, and how it rises", () => {
    expect(sideOf(part({}))).toEqual([[220, 30], [400, 30], [380, 48], [240, 48]]); // prettier-ignore
    const fin = sideOf(part({ kind: "tail", place: { x_mm: 800, y_mm: 0, z_mm: 30, dihedral_deg: 90 } }));
    expect(fin[2]![1]).toBeCloseTo(630);
    expect(fin[0]![1]).toBeCloseTo(30); // seen edge on it has no thickness upwards
  });

  it("shows a fuselage along its length", () => {
    const boom = part({ kind: "fuselage", place: { x_mm: 390, y_mm: 0, z_mm: 20, dihedral_deg: 0 } });
    expect(sideOf(boom)).toEqual([[390, 10], [990, 12], [990, 28], [390, 30]]); // prettier-ignore
  });

  it("has room for parts and items, and a place where there is nothing", () => {
    expect(extentOf([part({})], [item("b", 50, { z_mm: -30 })])).toEqual([50, 400, -30, 48]);
    expect(extentOf([part({ kind: "plank" })], [])).toEqual([0, 100, -20, 20]);
  });
});

describe("a beam with its weights", () => {
  const lines = [line(100, 300), line(50, 100, "battery", null), line(50, 310)];

  it("balances where its masses do, an item that is dragged where it is now", () => {
    expect(centreNow(lines, [])).toBeCloseTo((30000 + 5000 + 15500) / 200);
    expect(centreNow(lines, [item("battery", 200)]) - centreNow(lines, [])).toBeCloseTo((50 * 100) / 200);
  });

  it("hangs every part and every item at its own centre", () => {
    const hung = weightsOn(lines, [item("battery", 140)]);
    expect(hung.map((w) => [w.key, w.grams, Math.round(w.x)])).toEqual([
      ["part w", 150, 303],
      ["battery", 50, 140],
    ]);
  });

  it("leans with the centre, tail down where it lies behind, and not farther than can be drawn", () => {
    expect(leanOf(300, 300, [0, 1000])).toBe(0);
    expect(leanOf(350, 300, [0, 1000])).toBeCloseTo(2.5);
    expect([leanOf(700, 300, [0, 1000]), leanOf(0, 300, [0, 1000])]).toEqual([5, -5]);
  });
});

describe("new equipment", () => {
  it("is put where it usually is, and what is moved to balance may move", () => {
    const parts = [
      part({}),
      part({ kind: "plank", place: { x_mm: -900, y_mm: 0, z_mm: 0, dihedral_deg: 0 } }),
    ];
    expect(firstPlace("motor", parts)).toEqual({ x_mm: 235, from_mm: null, to_mm: null });
    expect(firstPlace("battery", parts)).toEqual({ x_mm: 330, from_mm: 220, to_mm: 400 });
    expect(firstPlace("servo", parts).x_mm).toBe(310);
    expect(firstPlace("other", []).x_mm).toBe(0);
  });
});

describe("a remedy that is taken", () => {
  const d = { equipment: [item("battery", 300, { stock: "small", mass_g: 90 })] } as unknown as Airframe;
  const remedy = (of: object) => ({ grams: 0, item_id: "battery", to_mm: null, stock: null, ...of }) as unknown as Schemas["RemedyAt"]; // prettier-ignore

  it("moves, exchanges or adds, and leaves a nose to the builder", () => {
    expect(withRemedy(d, remedy({ kind: "move", to_mm: 250 })).equipment[0]!.x_mm).toBe(250);
    expect(withRemedy(d, remedy({ kind: "swap", stock: "large" })).equipment[0]).toMatchObject({ stock: "large", mass_g: null }); // prettier-ignore
    const more = withRemedy(d, remedy({ kind: "ballast", grams: 12, to_mm: 40, item_id: null })).equipment;
    expect(more[1]).toMatchObject({ what: "ballast", mass_g: 12, x_mm: 40 });
    expect(withRemedy(d, remedy({ kind: "rebuild" }))).toBe(d);
  });
});
