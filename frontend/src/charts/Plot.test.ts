import { describe, expect, it } from "vitest";
import { ticks } from "./Plot";
import { csvOf } from "./save";

describe("ticks of an axis", () => {
  it("are round numbers within the range", () => {
    expect(ticks(0, 10)).toEqual([0, 2, 4, 6, 8, 10]);
    expect(ticks(0, 600, 6)).toEqual([0, 100, 200, 300, 400, 500, 600]);
    expect(ticks(-0.3, 0.4)).toEqual([-0.2, 0, 0.2, 0.4]);
    expect(ticks(0, 0.00012)).toEqual([0, 0.00005, 0.0001]);
  });
  it("are never many", () => {
    for (const high of [1e-9, 0.37, 1, 7.3, 99, 12345]) expect(ticks(0, high).length).toBeLessThan(8);
  });
});

describe("comma-separated values", () => {
  it("quote what would break a row, and leave unknown values empty", () => {
    expect(
      csvOf(
        ["y, mm", 'a "b"'],
        [
          [1, null],
          [2.5, "x\ny"],
        ],
      ),
    ).toBe('"y, mm","a ""b"""\n1,\n2.5,"x\ny"\n');
  });
});
