import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render } from "@testing-library/react";
import { createElement } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Session } from "../api/client";
import { comboOf, useShortcuts } from "./keys";
import { WithPreferences } from "./preferences";

afterEach(cleanup);

const press = (
  key: string,
  held: Partial<Record<"ctrlKey" | "metaKey" | "altKey" | "shiftKey", boolean>> = {},
) => comboOf({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });

describe("how a key press is written", () => {
  it.each([
    ["z", { ctrlKey: true }, "Ctrl+Z"],
    ["z", { metaKey: true }, "Ctrl+Z"],
    ["Z", { ctrlKey: true, shiftKey: true }, "Ctrl+Shift+Z"],
    ["ArrowUp", { altKey: true }, "Alt+↑"],
    ["?", { shiftKey: true }, "?"],
    ["+", { shiftKey: true }, "+"],
    ["j", {}, "J"],
    ["Backspace", {}, "Del"],
    ["Escape", {}, "Esc"],
  ])("%s with %o is %s", (key, held, combo) => {
    expect(press(key, held)).toBe(combo);
  });
});

describe("a place that listens for keys", () => {
  const runs = { J: vi.fn(), "↑": vi.fn(), "Ctrl+Z": vi.fn(), "?": vi.fn() };

  /** A place with something of every kind that may have the focus. */
  function shown(single_keys = true) {
    Object.values(runs).forEach((run) => run.mockClear());
    const session = { preferences: { units: "metric", colours: "light", single_keys } } as unknown as Session;
    const Place = () => {
      useShortcuts(Object.entries(runs).map(([combo, run]) => ({ combo, run, says: combo })));
      return createElement(
        "div",
        null,
        createElement("p", { id: "text" }),
        createElement("input", { id: "input" }),
        createElement("select", { id: "select" }),
        createElement("div", { role: "dialog" }, createElement("p", { id: "in-dialog" })),
        createElement("div", { role: "slider", id: "slider" }),
        createElement("div", { role: "tablist" }, createElement("p", { id: "tab" })),
      );
    };
    const children = createElement(Place);
    const inside = createElement(WithPreferences, { session, children });
    const client = new QueryClient();
    render(createElement(QueryClientProvider, { client }, inside));
    return (id: string) => document.getElementById(id)!;
  }

  const ran = () =>
    Object.entries(runs)
      .filter(([, run]) => run.mock.calls.length > 0)
      .map(([combo]) => combo);
  const pressAll = (target: EventTarget) => {
    for (const held of [{ key: "j" }, { key: "ArrowUp" }, { key: "z", ctrlKey: true }, { key: "?" }])
      target.dispatchEvent(new KeyboardEvent("keydown", { ...held, bubbles: true, cancelable: true }));
  };

  it("does what they say, wherever nothing else takes them", () => {
    const at = shown();
    pressAll(at("text"));
    expect(ran()).toEqual(["J", "↑", "Ctrl+Z", "?"]);
    shown();
    pressAll(window);
    expect(ran()).toEqual(["J", "↑", "Ctrl+Z", "?"]);
  });

  it.each(["input", "select", "in-dialog"])("leaves them all to %s", (id) => {
    const at = shown();
    pressAll(at(id));
    expect(ran()).toEqual([]);
  });

  it.each(["slider", "tab"])("leaves arrows alone to a %s", (id) => {
    const at = shown();
    pressAll(at(id));
    expect(ran()).toEqual(["J", "Ctrl+Z", "?"]);
  });

  it("heeds single keys only where they are wanted", () => {
    const at = shown(false);
    pressAll(at("text"));
    expect(ran()).toEqual(["Ctrl+Z", "?"]);
  });

  it("keeps the browser from doing something else with a key that it took", () => {
    const at = shown();
    expect(fireEvent.keyDown(at("text"), { key: "j" })).toBe(false);
    expect(fireEvent.keyDown(at("text"), { key: "q" })).toBe(true);
  });
});
