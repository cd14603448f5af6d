import { expect, it } from "vitest";
import { cupNow, cupSays } from "./wetting";

it("tells the worked check: pot life 26.97 min, thin for 18.88, 15 of 36 dm² after 14 min", () => {
  const cup = cupNow(0.7 * 26.97, 36, 15, 14, 14);
  expect(cup.left).toBeCloseTo(4.88, 2);
  expect(cup.takes! - 14).toBeCloseTo(19.6, 2);
  expect(cupSays(cup)).toContain("does not reach");
});

it("reaches, thickens, or does not know yet", () => {
  expect(cupSays(cupNow(20, 36, 30, 10, 10))).toBe("This cup reaches.");
  expect(cupSays(cupNow(20, 36, 36, 19, 19))).toBe("This cup reaches.");
  expect(cupSays(cupNow(20, 36, 30, 10, 20))).toContain("thickens");
  expect(cupSays(cupNow(20, 36, 0, 5, 5))).toContain("how much is wet");
});

it("keeps the pace that was told, however long nothing more is told", () => {
  const then = cupNow(20, 36, 30, 10, 10);
  const later = cupNow(20, 36, 30, 10, 19);
  expect(later.takes).toBe(then.takes);
  expect(later.reaches).toBe(true);
  expect(later.left).toBe(1);
});

it("knows at once what was wet as it was mixed", () => {
  expect(cupSays(cupNow(20, 36, 6, 0, 0))).toBe("This cup reaches.");
});
