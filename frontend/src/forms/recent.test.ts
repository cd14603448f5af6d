import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { LONG, recent, remember, withRecent } from "./recent";

const list = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    value: `rod_${i}`,
    label: `Rod ${i}`,
    group: i % 2 ? "Glass" : "Carbon",
  }));

beforeEach(() => window.localStorage.clear());
afterEach(() => vi.restoreAllMocks());

describe("what was used last", () => {
  it("stands on top of a long list, the last first, at most four, and still at its usual place", () => {
    for (const i of [1, 2, 3, 4, 5, 4]) remember(`rod_${i}`);
    const options = withRecent(list(LONG + 1));
    expect(options.slice(0, 4).map((o) => [o.value, o.group])).toEqual([
      ["rod_4", "Used last"],
      ["rod_5", "Used last"],
      ["rod_3", "Used last"],
      ["rod_2", "Used last"],
    ]);
    expect(options).toHaveLength(LONG + 1 + 4);
    expect(options.slice(4)).toEqual(list(LONG + 1));
  });

  it("comes before what is in the field box, which is named once", () => {
    window.localStorage.setItem("fletcher-field-box", JSON.stringify(["rod_7", "rod_1", "glue"]));
    remember("rod_7");
    remember("rod_9");
    const options = withRecent(list(LONG + 1));
    expect(options.slice(0, 3).map((o) => [o.value, o.group])).toEqual([
      ["rod_9", "Used last"],
      ["rod_7", "In your field box"],
      ["rod_1", "In your field box"],
    ]);
  });

  it("leaves short lists and lists without groups alone, and what stands before all groups first", () => {
    remember("rod_3");
    expect(withRecent(list(LONG))).toEqual(list(LONG));
    const plain = list(LONG + 4).map(({ value, label }) => ({ value, label }));
    expect(withRecent(plain)).toEqual(plain);
    const none = { value: "", label: "none" };
    expect(
      withRecent([none, ...list(LONG + 1)])
        .slice(0, 2)
        .map((o) => o.value),
    ).toEqual(["", "rod_3"]);
  });

  it("keeps its order while one steps through it, and takes up the new one when asked again", () => {
    remember("rod_3");
    const top = recent();
    remember("rod_8");
    expect(withRecent(list(LONG + 1), top)[0]!.value).toBe("rod_3");
    expect(withRecent(list(LONG + 1))[0]!.value).toBe("rod_8");
  });

  it("does without a store that is blocked or torn", () => {
    window.localStorage.setItem("fletcher-recent", "{torn");
    expect(withRecent(list(LONG + 1))).toHaveLength(LONG + 1);
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new Error("full");
    });
    expect(() => remember("rod_1")).not.toThrow();
  });
});
