import { describe, expect, it } from "vitest";
import type { Airframe } from "../../api/client";
import type { Item } from "./sideShapes";
import { withItems } from "./Tables";

const item = (id: string, what: Item["what"]) => ({ id, what, x_mm: 0 }) as Item;
const here = { name: "A", equipment: [item("servo", "servo"), item("rod", "other")] } as unknown as Airframe;

describe("items of a table", () => {
  const read = [item("item-1", "servo"), item("item-2", "battery")];
  it("replace what was there", () => {
    expect(withItems(here, read, true).equipment?.map((e) => e.id)).toEqual(["servo", "battery"]);
  });
  it("come to what is there under ids of their own", () => {
    expect(withItems(here, read, false).equipment?.map((e) => e.id)).toEqual([
      "servo",
      "rod",
      "servo-2",
      "battery",
    ]);
    expect(here.equipment).toHaveLength(2);
  });
});
