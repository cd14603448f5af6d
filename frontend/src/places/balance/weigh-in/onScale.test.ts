import { describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { expected, linesOn, netOf, piecesOf, readAs, stagesOf, type Weighing } from "./onScale";

const band = (typ: number) => ({ low: typ, typ, high: typ, causes: [] });
const piece = (key: string, stages: [string, string[]][]) =>
  ({
    key,
    name: key,
    stages: stages.map(([stage, lines]) => ({ stage, lines, grams: band(1) })),
  }) as Schemas["PieceAt"];
const WING = piece("wing/right", [
  ["bare", ["w/core"]],
  ["glued", ["w/core", "w/spar"]],
  ["skinned", ["w/core", "w/spar", "w/film"]],
]);
const MOTOR = piece("item/motor/one", [["finished", ["m"]]]);
const ALL = [WING, MOTOR];
const scale: Weighing = {
  id: "w",
  stage: "bare",
  lines: ["w/core"],
  reading: { kind: "scale", grams: 40 },
  step_g: 1,
  taken_off: "",
  trusted: false,
  note: "",
};

describe("what lies on the scale", () => {
  it("is what was laid up to the stage and no more", () => {
    expect(linesOn([WING], ALL, "glued")).toEqual(["w/core", "w/spar"]);
    expect(linesOn([WING], ALL, "painted")).toEqual(["w/core", "w/spar", "w/film"]);
    expect(linesOn([MOTOR], ALL, "bare")).toEqual([]);
  });
  it("has what no line tells only with every piece finished", () => {
    expect(linesOn(ALL, ALL, "finished")).toEqual(["w/core", "w/spar", "w/film", "m", "not-listed"]);
    expect(linesOn(ALL, ALL, "skinned")).not.toContain("not-listed");
    expect(linesOn([WING], ALL, "finished")).not.toContain("not-listed");
  });
  it("has the stages of its pieces, in order", () => {
    expect(stagesOf([MOTOR, WING])).toEqual(["bare", "glued", "skinned", "finished"]);
  });
  it("is expected to weigh what its lines do", () => {
    const sheet = {
      lines: [
        { key: "w/core", grams: band(40) },
        { key: "w/spar", grams: band(12) },
        { key: "m", grams: band(55) },
      ],
    };
    expect(expected(sheet, ["w/core", "w/spar"])).toBe(52);
  });
  it("tells its pieces", () => {
    expect(piecesOf(ALL, ["w/film"])).toEqual([WING]);
  });
});

describe("a reading", () => {
  it("keeps its grams from one scale to two supports and back", () => {
    const two = readAs("supports", scale);
    expect(netOf(two)).toBe(40);
    expect(two.reading.kind).toBe("supports");
    const back = readAs("scale", two);
    expect(back.reading).toEqual({ kind: "scale", grams: 40 });
    expect(readAs("scale", back)).toBe(back);
  });
  it("has its cradles taken off", () => {
    const on = { ...readAs("supports", scale) };
    on.reading = {
      kind: "supports",
      first_g: 402,
      second_g: 531,
      first_cradle_g: 12,
      second_cradle_g: 12,
      first_mm: 120,
      second_mm: 420,
    } as Weighing["reading"];
    expect(netOf(on)).toBe(909);
  });
});
