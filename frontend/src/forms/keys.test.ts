import { describe, expect, it } from "vitest";
import { comboOf } from "./keys";

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
