import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { madeOf, ownLengths, ownSheets, thingOf } from "./ownLengths";

type Thing = Schemas["ThingOut"];

const thing = (item: Partial<Thing["item"]>, reserved_for: string | null = null): Thing =>
  ({
    id: `${item.key} ${item.length_mm}`,
    item: { kind: "bar", key: "rod", count: 1, origin: "bought", ...item },
    reserved_for,
  }) as Thing;

const ROD = thing({ length_mm: 1000, count: 2 });
const OFFCUT = thing({ length_mm: 620, origin: "offcut" });
const HERS = thing({ length_mm: 500 }, "mine");
const OTHERS = thing({ length_mm: 400 }, "other");
const BLOCK = thing({ kind: "block", key: "foam", length_mm: 900, width_mm: 600, count: 2 });
const SCRAP = thing({ kind: "block", key: "foam", length_mm: 200, width_mm: 80, origin: "scrap" });
const ALL = [ROD, OFFCUT, HERS, OTHERS, BLOCK, SCRAP];

it("offers every length once, what is reserved only to its airframe, and nothing from a scrapped part", () => {
  expect(ownLengths(ALL, "mine")).toEqual([{ stock: "rod", mm: [1000, 1000, 620, 500] }]);
  expect(ownLengths(ALL, "other")).toEqual([{ stock: "rod", mm: [1000, 1000, 620, 400] }]);
  expect(ownSheets(ALL, "mine")).toEqual([
    {
      stock: "foam",
      mm: [
        [900, 600],
        [900, 600],
      ],
    },
  ]);
});

it("finds the thing that a length stands for", () => {
  expect(thingOf(ALL, "rod", 620, "mine")).toBe(OFFCUT);
  expect(thingOf(ALL, "rod", 400, "mine")).toBeUndefined();
  expect(thingOf(ALL, "tube", 620, "mine")).toBeUndefined();
});

it("tells what was cut by what it was cut from", () => {
  const cuts = [
    { key: "rod", pieces_mm: [470, 470], sheets: [] },
    { key: "foam", pieces_mm: [], sheets: [{ long_mm: 600, wide_mm: 180 }] },
    { key: "rod", pieces_mm: [200], sheets: [] },
  ];
  expect(madeOf(cuts)).toEqual({
    made: [{ stock: "rod", mm: [470, 470, 200] }],
    made_sheets: [{ stock: "foam", mm: [[600, 180]] }],
  });
  expect(madeOf([])).toEqual({ made: [], made_sheets: [] });
});
