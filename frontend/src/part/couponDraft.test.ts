import { beforeEach, expect, test, vi } from "vitest";
import type { Catalogue, Part } from "../api/client";
import { COUPON_DRAFT, gluedWith, startCoupon } from "./couponDraft";

const catalogue = {
  adhesives: [
    { key: "contact", name: "Contact glue" },
    { key: "contact_safe", name: "Contact glue foam-safe, clear" },
    { key: "hot", name: "Hot-melt glue (low temperature)" },
  ],
  sides: [{ key: "epp_30" }],
} as unknown as Catalogue;
const part = { foam: "epp_30", layers: [] } as unknown as Part;
const kept = () => JSON.parse(localStorage.getItem(COUPON_DRAFT)!) as Record<string, string>;

beforeEach(() => localStorage.clear());

test("the glue that a text names is found, the longest name first, in any letters", () => {
  expect(gluedWith("tried the CONTACT GLUE foam-safe on the tail", catalogue)).toBe("contact_safe");
  expect(gluedWith("contact glue again", catalogue)).toBe("contact");
  expect(gluedWith("hot-melt glue held", catalogue)).toBe("hot");
  expect(gluedWith("something white", catalogue)).toBeUndefined();
});

test("a glue test begins with the material, the glue and the words of an entry", () => {
  startCoupon("Hot-melt glue came off in the cold", part, catalogue);
  expect(kept()).toEqual({
    one: "epp_30",
    other: "epp_30",
    adhesive: "hot",
    note: "Hot-melt glue came off in the cold",
  });
  startCoupon("x".repeat(600), undefined, catalogue);
  expect(kept()).toEqual({ note: "x".repeat(400) });
});

test("a blocked storage stops nothing", () => {
  const blocked = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new Error("blocked");
  });
  expect(() => startCoupon("a", part, catalogue)).not.toThrow();
  blocked.mockRestore();
});
