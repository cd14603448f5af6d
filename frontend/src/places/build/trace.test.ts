import { expect, test } from "vitest";
import { asked, crossMoved, NOTHING_TRACED, withoutLast, withPoint, type Growing } from "./trace";

const grown = (): Growing => {
  let now = NOTHING_TRACED;
  for (const at of [
    [0, 0],
    [200, 0],
  ] as const)
    now = withPoint(now, "scale", [...at]);
  for (const at of [
    [0, 0],
    [50, 0],
    [50, 50],
  ] as const)
    now = withPoint(now, "outline", [...at]);
  return now;
};

test("nothing is asked before scale and three corners are there", () => {
  expect(asked(NOTHING_TRACED)).toBeNull();
  expect(asked(withoutLast(grown(), "outline"))).toBeNull();
  expect(asked(withoutLast(grown(), "scale"))).toBeNull();
  expect(asked({ ...grown(), name: "  " })).toBeNull();
  expect(asked(grown())).toEqual({
    name: "Piece",
    scale: { first: [0, 0], second: [200, 0], mm: 100 },
    check: null,
    outline: [
      [0, 0],
      [50, 0],
      [50, 50],
    ],
  });
});

test("a second distance counts once it has both points", () => {
  const one = withPoint(grown(), "check", [1, 1]);
  expect(asked(one)!.check).toBeNull();
  expect(asked(withPoint(one, "check", [1, 90]))!.check).toEqual({ first: [1, 1], second: [1, 90], mm: 100 });
});

test("a third point of a pair begins it again", () => {
  const again = withPoint(grown(), "scale", [9, 9]);
  expect(again.scale).toEqual([[9, 9]]);
  expect(again.outline).toHaveLength(3);
});

test("the cross moves by keys and stays in the picture", () => {
  expect(crossMoved([10, 10], "ArrowRight", false, [100, 50])).toEqual([12, 10]);
  expect(crossMoved([10, 10], "ArrowUp", true, [100, 50])).toEqual([10, 0]);
  expect(crossMoved([95, 45], "ArrowDown", true, [100, 50])).toEqual([95, 50]);
  expect(crossMoved([95, 45], "ArrowLeft", true, [100, 50])).toEqual([75, 45]);
  expect(crossMoved([10, 10], "x", false, [100, 50])).toBeNull();
});
