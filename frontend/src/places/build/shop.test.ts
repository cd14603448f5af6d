import { expect, test } from "vitest";
import { byDay, byPiece, cautionsOnce, minutesBetween, type Plan } from "./shop";

const step = (key: string, piece: string, cautions: string[] = []) => ({
  key,
  piece,
  cautions: cautions.map((c) => ({ key: c })),
});
const plan = {
  operations: [step("a", "Wing", ["knife"]), step("b", "", ["knife", "fumes"]), step("c", "Wing")],
  planned: [
    { key: "a", begins: "2026-06-01T18:00:00Z", ends: "2026-06-01T18:30:00Z" },
    { key: "b", begins: "2026-06-01T18:30:00Z", ends: "2026-06-01T18:40:00Z" },
    { key: "c", begins: "2026-06-02T18:00:00Z", ends: "2026-06-02T18:05:00Z" },
  ],
} as unknown as Plan;

test("steps stand in the row of their piece, others in that of the whole airframe", () => {
  expect(byPiece(plan).map((r) => [r.piece, r.steps.map((s) => s.o.key)])).toEqual([
    ["Wing", ["a", "c"]],
    ["Whole airframe", ["b"]],
  ]);
});

test("steps stand under the day on which they begin", () => {
  expect(byDay(plan).map((d) => d.steps.map((s) => s.p.key))).toEqual([["a", "b"], ["c"]]);
  expect(byDay(plan)[0]!.day).toContain("1 Jun");
});

test("a caution is told at the first step that has it", () => {
  const told = cautionsOnce(plan);
  expect([...told].map(([key, cs]) => [key, cs.map((c) => c.key)])).toEqual([
    ["a", ["knife"]],
    ["b", ["fumes"]],
    ["c", []],
  ]);
});

test("minutes between two moments", () => {
  expect(minutesBetween("2026-06-01T18:00:00Z", "2026-06-01T19:30:00Z")).toBe(90);
});
