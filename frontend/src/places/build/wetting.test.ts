import { expect, it } from "vitest";
import { cupNow, cupSays } from "./wetting";

it("tells the worked check: pot life 26.97 min, thin for 18.88, 15 of 36 dm² after 14 min", () => {
  const cup = cupNow(0.7 * 26.97, 36, 15, 14);
  expect(cup.left).toBeCloseTo(4.88, 2);
  expect(cup.needs).toBeCloseTo(19.6, 2);
  expect(cupSays(cup)).toContain("does not reach");
});

it("reaches, thickens, or does not know yet", () => {
  expect(cupSays(cupNow(20, 36, 30, 10))).toBe("This cup reaches.");
  expect(cupSays(cupNow(20, 36, 36, 19))).toBe("This cup reaches.");
  expect(cupSays(cupNow(20, 36, 30, 21))).toContain("thickens");
  expect(cupNow(20, 36, 0, 5).needs).toBeNull();
  expect(cupSays(cupNow(20, 36, 0, 5))).toContain("how much is wet");
  expect(cupNow(20, 36, 0, 0).needs).toBeNull();
});
