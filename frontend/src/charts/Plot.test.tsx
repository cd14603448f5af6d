import { fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { csvOf } from "./save";
import { Plot, type Series } from "./Plot";
import { leaving } from "./PlotSheet";
import { spanOf, withRoom } from "./scales";

vi.mock("./useWidth", () => ({ useWidth: () => [() => {}, 400] }));

const bend: Series = { label: "Bend", values: [0, 5, null, 20], line: "full", tone: "ink" };

function shown(series: Series[], more: { most?: number; cursor?: number } = {}) {
  const setCursor = vi.fn<(x: number) => void>();
  render(
    <Plot
      title="Bend along the part"
      unit="mm"
      written={(v) => v.toFixed(1)}
      x={[0, 100, 200, 300]}
      xTitle="from the root"
      xWritten={(v) => `${v} mm`}
      cursor={100}
      fileName="bend"
      {...{ series, setCursor, ...more }}
    />,
  );
  const slider = screen.getByRole("slider");
  return {
    setCursor,
    slider,
    paths: () => [...slider.querySelectorAll("path")].map((p) => p.getAttribute("d")),
  };
}

afterEach(() => document.body.replaceChildren());

describe("a plot", () => {
  it("tells the values at its cursor in its legend and to those who do not see it", () => {
    const { slider } = shown([bend]);
    expect(screen.getByText("5.0", { selector: "li span" })).toBeTruthy();
    expect(slider.getAttribute("aria-valuetext")).toBe("100 mm: Bend 5.0");
    expect(slider.getAttribute("aria-valuemax")).toBe("300");
  });

  it("says none where a value is not known", () => {
    const { slider } = shown([bend], { cursor: 200 });
    expect(slider.getAttribute("aria-valuetext")).toBe("200 mm: Bend none");
  });

  it("names no curve as leaving that stays in the picture", () => {
    const { slider } = shown([bend], { most: 30 });
    expect(slider.textContent).not.toContain("up to");
    expect(leaving([bend], 19.9)).toEqual([{ label: "Bend", most: 20, at: 3 }]);
    expect(leaving([bend], 20)).toEqual([]);
  });

  it("breaks the curve where a value is not known", () => {
    const { paths } = shown([bend]);
    const curve = paths().find((d) => d?.startsWith("M62,"))!;
    // 400 wide: 62 to 384 for 0 to 300; 172 to 12 high for 0 to 20
    expect(curve).toBe("M62,172L169.3,132M384,12Z");
  });

  it("goes no higher than it is told: what is higher leaves the picture", () => {
    const { paths, slider } = shown([bend], { most: 10, cursor: 300 });
    expect(paths()).toContain("M62,172L169.3,92M384,-148Z");
    expect(slider.textContent).toContain("↑ Bend: up to 20.0");
    const frame = slider.querySelector("clipPath rect")!;
    expect([frame.getAttribute("y"), frame.getAttribute("height")]).toEqual(["11", "162"]);
    expect(slider.querySelectorAll("circle")).toHaveLength(0);
  });

  it("draws a band between its low and its high", () => {
    const values = [0, 10];
    const { paths } = shown([{ ...bend, values, band: { low: [0, 5], high: [0, 20] } }]);
    expect(paths()).toContain("M62,172L169.3,12L169.3,132L62,172Z");
  });

  it.each([
    ["ArrowRight", false, 101],
    ["ArrowLeft", true, 90],
    ["PageDown", false, 90],
    ["PageUp", true, 200],
  ])("moves its cursor by %s", (key, shiftKey, to) => {
    const { slider, setCursor } = shown([bend]);
    fireEvent.keyDown(slider, { key, shiftKey });
    expect(setCursor).toHaveBeenCalledExactlyOnceWith(to);
  });

  it("leaves other keys alone and stays on the part", () => {
    const { slider, setCursor } = shown([bend], { cursor: 300 });
    fireEvent.keyDown(slider, { key: "Enter" });
    expect(setCursor).not.toHaveBeenCalled();
    fireEvent.keyDown(slider, { key: "ArrowRight" });
    expect(setCursor).toHaveBeenCalledWith(300);
  });

  it("puts its cursor where it is pressed, not beyond the part", () => {
    const { slider, setCursor } = shown([bend]);
    fireEvent.pointerDown(slider, { clientX: 223 });
    fireEvent.pointerMove(slider, { clientX: 900 });
    expect(setCursor.mock.calls).toEqual([[150], [300]]);
  });

  it("has its values in a table behind it", () => {
    shown([bend]);
    const table = screen.getByRole("table", { name: "Bend along the part, mm" });
    expect(
      within(table)
        .getAllByRole("columnheader")
        .map((h) => h.textContent),
    ).toEqual(["from the root", "Bend (mm)"]);
    const last = within(table)
      .getAllByRole("row")
      .slice(-2)
      .map((r) => r.textContent);
    expect(last).toEqual(["200 mm–", "300 mm20.0"]);
  });
});

describe("what an axis spans", () => {
  it("is zero to the highest value that is known, no higher than asked, never nothing", () => {
    expect(spanOf([3, null, 7])).toEqual([0, 7]);
    expect(spanOf([3, -2], 2)).toEqual([-2, 2]);
    expect(spanOf([null])).toEqual([0, 1e-9]);
  });

  it("has room on both sides, for a single value too", () => {
    expect(withRoom([10, 20])).toEqual([8.8, 21.2]);
    expect(withRoom([50])).toEqual([49, 51]);
    expect(withRoom([0])).toEqual([-1e-6, 1e-6]);
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
