import { afterEach, expect, test, vi } from "vitest";
import { atBench, forgetBench, keepForBench, keepPage, keptForBench } from "./benchShelf";

afterEach(() => {
  window.localStorage.clear();
  vi.restoreAllMocks();
});

test("what is kept is read again and forgotten when somebody signs out", () => {
  keepForBench("session", { user: "ann" });
  window.localStorage.setItem("fletcher.plan.a", "{}");
  window.localStorage.setItem("fletcher.presses.a", "[]");
  expect(keptForBench("session")).toEqual({ user: "ann" });
  expect(keptForBench("other")).toBeNull();
  forgetBench();
  expect(keptForBench("session")).toBeNull();
  expect(window.localStorage.getItem("fletcher.plan.a")).toBeNull();
  expect(window.localStorage.getItem("fletcher.presses.a")).toBe("[]"); // work that was not sent is not thrown away
});

test("broken or blocked storage stops nothing", () => {
  window.localStorage.setItem("fletcher.bench.session", "{");
  expect(keptForBench("session")).toBeNull();
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new Error("full");
  });
  keepForBench("session", 1);
  keepPage(); // nothing of the kind here
});

test("only a bench opens without the server", () => {
  expect(atBench("/build/1f0c/run")).toBe(true);
  expect(atBench("/build/1f0c/run/")).toBe(true);
  expect(["/", "/build/1f0c", "/build/1f0c/trace", "/bench/a/b"].map(atBench)).toEqual([
    false,
    false,
    false,
    false,
  ]);
});
