import { afterEach, describe, expect, it } from "vitest";
import { parseQuantity, plain, setUnits, show, stepOf, writeQuantity } from "./units";

describe("parseQuantity", () => {
  it.each([
    ["600", "length", 600],
    ["600 mm", "length", 600],
    ["60cm", "length", 600],
    ["0,6 m", "length", 600],
    ["7/32in", "length", 5.55625],
    ["1 1/2 in", "length", 38.1],
    ["2ft", "length", 609.6],
    ["3 oz", "mass", 85.048569375],
    ["1.2 kg", "mass", 1200],
    ["36 km/h", "speed", 10],
    ["-20 mm", "length", -20],
    ["−20 mm", "length", -20],
    ["30 %", "percent", 30],
    ["1.5 ×", "plain", 1.5],
  ] as const)("reads %s", (text, quantity, value) => {
    expect(parseQuantity(text, quantity)).toBeCloseTo(value, 6);
  });

  it.each(["", "mm", "12 g", "NaN", "1/0", "1e999", "12 mm thick", "1..2"])(
    "refuses %s as a length",
    (text) => {
      expect(parseQuantity(text, "length")).toBeNull();
    },
  );

  it("reads back what it writes", () => {
    for (const value of [0.5, 12.25, -40, 1200]) {
      expect(parseQuantity(writeQuantity(value, "length"), "length")).toBe(value);
    }
  });
});

describe("plain", () => {
  it("keeps significant digits and drops zeros", () => {
    expect([plain(1234.5), plain(31.04), plain(0.0456), plain(2)]).toEqual(["1235", "31", "0.0456", "2"]);
  });
});

describe("loads and angles", () => {
  it.each([
    ["60°", "angle", 60],
    ["45 deg", "angle", 45],
    ["-30", "angle", -30],
    ["10 N", "force", 10],
    ["1 kgf", "force", 9.80665],
    ["2 N·cm", "couple", 20],
    ["0.2 N·m", "couple", 200],
    ["200 N*mm", "couple", 200],
  ] as const)("reads %s", (text, quantity, value) => {
    expect(parseQuantity(text, quantity)).toBeCloseTo(value, 6);
  });
  it.each([
    ["10 mm", "force"],
    ["5 N", "couple"],
    ["12 g", "angle"],
  ] as const)("refuses %s as a %s", (text, quantity) => {
    expect(parseQuantity(text, quantity)).toBeNull();
  });
  it("writes them with their unit", () => {
    expect(writeQuantity(60, "angle")).toBe("60 °");
    expect(writeQuantity(200, "couple")).toBe("200 N·mm");
  });
});

describe("inch fractions, ounces and pounds", () => {
  afterEach(() => setUnits("metric"));
  it("are shown as fractions where that says the same, else as decimals", () => {
    setUnits("inch");
    expect(show(25.4 * (7 / 32), "length", 4)).toBe("7/32 in");
    expect(show(25.4 * 18.5, "length", 4)).toBe("18 1/2 in");
    expect(show(25.4 * 2, "length", 4)).toBe("2 in");
    expect(show(0.1, "length", 4)).toBe("0.003937 in");
    expect(show(28.349523125, "mass")).toBe("1 oz");
    expect(show(4.448222, "force")).toBe("1 lbf");
    expect(show(100, "warmth")).toBe("212 °F");
  });
  it("are what a bare number means, while any unit may be typed", () => {
    setUnits("inch");
    expect(parseQuantity("1 1/2", "length")).toBeCloseTo(38.1);
    expect(parseQuantity("38.1 mm", "length")).toBeCloseTo(38.1);
    expect(parseQuantity("2", "mass")).toBeCloseTo(56.699, 3);
    expect(parseQuantity("68", "warmth")).toBeCloseTo(20);
    expect(parseQuantity("20 °C", "warmth")).toBe(20);
  });
  it.each(["length", "mass", "speed", "force", "couple", "warmth"] as const)("round-trip: %s", (quantity) => {
    setUnits("inch");
    for (const value of [1, 12.7, 180, 470]) {
      const back = parseQuantity(writeQuantity(value, quantity), quantity)!;
      expect(Math.abs(back - value)).toBeLessThan(0.002 * value + 0.07);
    }
  });
});

describe("steps of a field", () => {
  it.each([
    [1, 25.4 / 32],
    [10, 25.4 / 2],
    [0.1, 25.4 / 64],
  ])("of %d mm is the nearest binary fraction of an inch, no finer than a 64th", (metric, inch) => {
    setUnits("inch");
    expect(stepOf("length", metric)).toBeCloseTo(inch, 6);
    expect(stepOf("mass", metric)).toBe(metric);
    setUnits("metric");
    expect(stepOf("length", metric)).toBe(metric);
  });
});

describe("show", () => {
  it("tells small energies in mJ, larger ones in J", () => {
    setUnits("metric");
    expect(show(0.75, "work", 2)).toBe("0.75 mJ");
    expect(show(99, "work")).toBe("99 mJ");
    expect(show(360, "work")).toBe("0.36 J");
  });
});
