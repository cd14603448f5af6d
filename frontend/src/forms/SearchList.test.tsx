import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Choice } from "./fields";
import { found } from "./finding";

const options = [
  { value: "none", label: "None" },
  { value: "rod3", label: "Carbon rod 3 mm", group: "Rods" },
  { value: "rod4", label: "Carbon rod 4 mm", group: "Rods" },
  { value: "tube", label: "Carbon tube 6/4", group: "Tubes" },
  { value: "glass", label: "Glass rod 3 mm", group: "Rods" },
  { value: "spruce", label: "Spruce 5 × 3", group: "Strips" },
  ...Array.from({ length: 10 }, (_, i) => ({ value: `b${i}`, label: `Bambú ${i}`, group: "Skewers" })),
];

beforeEach(() => window.localStorage.clear());
afterEach(cleanup);

describe("what is found in a long list", () => {
  const labels = (typed: string) => found(options, typed).map((o) => o.value);

  it("has every word typed, in any order, in its name or its group", () => {
    expect(labels("3 rod")).toEqual(["rod3", "glass"]);
    expect(labels("tubes car")).toEqual(["tube"]);
    expect(labels("steel")).toEqual([]);
  });

  it("begins with what was typed, if anything does", () => {
    expect(labels("r").slice(0, 2)).toEqual(["rod3", "rod4"]);
    expect(found([...options, { value: "x", label: "Rod ends" }], "rod")[0]!.value).toBe("x");
  });

  it("needs neither capitals nor accents, and tells nothing twice", () => {
    expect(labels("BAMBU 7")).toEqual(["b7"]);
    const twice = [{ value: "rod3", label: "Carbon rod 3 mm", group: "Used last" }, ...options];
    expect(found(twice, "carbon rod 3").map((o) => o.group)).toEqual(["Used last"]);
    expect(labels("")).toHaveLength(options.length);
  });
});

describe("the search beside a long list", () => {
  it("is there only where the list is long and grouped", () => {
    render(<Choice<string> label="Foam" value="none" options={options.slice(0, 5)} onChange={vi.fn()} />);
    expect(screen.queryByRole("button", { name: "Search in Foam" })).toBeNull();
    cleanup();
    render(<Choice<string> label="Spar" value="none" options={options} onChange={vi.fn()} />);
    expect(screen.getByRole("button", { name: "Search in Spar" })).toBeTruthy();
  });

  it("takes by keys what fits, keeps it on top from then on, and closes", async () => {
    const user = userEvent.setup();
    const chosen = vi.fn();
    render(<Choice<string> label="Spar" value="tube" options={options} onChange={chosen} />);
    await user.click(screen.getByRole("button", { name: "Search in Spar" }));
    await user.keyboard("carb{ArrowDown}{ArrowDown}{ArrowUp}{Enter}");
    expect(chosen).toHaveBeenCalledExactlyOnceWith("rod4");
    expect(screen.queryByRole("listbox")).toBeNull();
    expect(JSON.parse(window.localStorage.getItem("fletcher-recent")!)).toEqual(["rod4"]);
  });

  it("closes in a browser that answers a scroll with a promise", async () => {
    const scroll = vi.fn(() => Promise.resolve());
    Object.assign(Element.prototype, { scrollIntoView: scroll });
    const user = userEvent.setup();
    render(<Choice<string> label="Spar" value="tube" options={options} onChange={vi.fn()} />);
    await user.click(screen.getByRole("button", { name: "Search in Spar" }));
    await user.keyboard("carb{ArrowDown}{Enter}");
    expect(scroll).toHaveBeenCalled();
    expect(screen.queryByRole("listbox")).toBeNull();
    Reflect.deleteProperty(Element.prototype, "scrollIntoView");
  });

  it("marks what is chosen, says when nothing fits, and takes nothing then", async () => {
    const user = userEvent.setup();
    const chosen = vi.fn();
    render(<Choice<string> label="Spar" value="tube" options={options} onChange={chosen} />);
    await user.click(screen.getByRole("button", { name: "Search in Spar" }));
    expect(within(screen.getByRole("listbox")).getByRole("option", { selected: true }).textContent).toContain(
      "✓ Carbon tube 6/4",
    );
    await user.keyboard("steel{Enter}{ArrowDown}{Enter}");
    expect(screen.getByText("Nothing has “steel” in its name.")).toBeTruthy();
    expect(chosen).not.toHaveBeenCalled();
  });
});
