import { act, renderHook } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { useTyped } from "./useTyped";

interface Form {
  grams: number;
  note: string;
}
const FIRST: Form = { grams: 0, note: "" };
const open = () => renderHook(() => useTyped<Form>("form", FIRST));

describe("what is typed", () => {
  beforeEach(() => {
    window.localStorage.clear();
    vi.restoreAllMocks();
  });
  it("is there again after a reload, with what the form has since gained", () => {
    const page = open();
    act(() => page.result.current[1]((now) => ({ ...now, grams: 5 })));
    page.unmount();
    expect(open().result.current[0]).toEqual({ grams: 5, note: "" });
    window.localStorage.setItem("form", `{"note":"dry"}`);
    expect(open().result.current[0]).toEqual({ grams: 0, note: "dry" });
  });
  it("begins anew where the browser kept nothing that can be read", () => {
    window.localStorage.setItem("form", "{");
    expect(open().result.current[0]).toEqual(FIRST);
  });
  it("goes on where the browser keeps nothing", () => {
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new Error("full");
    });
    const page = open();
    act(() => page.result.current[1]((now) => ({ ...now, grams: 7 })));
    expect(page.result.current[0].grams).toBe(7);
  });
});
