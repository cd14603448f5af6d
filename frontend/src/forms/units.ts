/** Reading what people type ("7/32in", "1.2 m", "3 oz") and writing figures with their unit, per person. */

export type Quantity =
  | "length"
  | "mass"
  | "speed"
  | "percent"
  | "angle"
  | "force"
  | "couple"
  | "moment"
  | "stiffness"
  | "warmth"
  | "work"
  | "plain";

/** What a unit is worth in the base unit. Warmth is apart: its scales have different zeros. */
const TO_BASE: Record<Quantity, Record<string, number>> = {
  length: { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4, inch: 25.4, ft: 304.8, "'": 304.8 },
  mass: { g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237 },
  speed: { "m/s": 1, "km/h": 1 / 3.6, kmh: 1 / 3.6, mph: 0.44704, kn: 0.514444, kt: 0.514444 },
  percent: { "%": 1 },
  angle: { "°": 1, deg: 1 },
  force: { n: 1, kgf: 9.80665, gf: 0.00980665, lbf: 4.448222, ozf: 0.2780139 },
  couple: { "n·mm": 1, "n*mm": 1, nmm: 1, "n·cm": 10, ncm: 10, "n·m": 1000, nm: 1000, "in·lbf": 112.984829 },
  moment: { "n·m": 1, nm: 1, "in·lbf": 0.112984829 },
  stiffness: { "n·m²": 1, "lbf·in²": 0.0028698 },
  warmth: { "°c": 1, c: 1, "°f": 1, f: 1 },
  work: { mj: 1, "n·mm": 1, j: 1000, "n·m": 1000, "in·lbf": 112.984829 },
  plain: { "×": 1, x: 1 },
};

export type System = "metric" | "inch";

const UNIT: Record<System, Record<Quantity, string>> = {
  metric: {
    length: "mm",
    mass: "g",
    speed: "m/s",
    percent: "%",
    angle: "°",
    force: "N",
    couple: "N·mm",
    moment: "N·m",
    stiffness: "N·m²",
    warmth: "°C",
    work: "J",
    plain: "",
  },
  inch: {
    length: "in",
    mass: "oz",
    speed: "mph",
    percent: "%",
    angle: "°",
    force: "lbf",
    couple: "in·lbf",
    moment: "in·lbf",
    stiffness: "lbf·in²",
    warmth: "°F",
    work: "in·lbf",
    plain: "",
  },
};

let system: System = "metric";

/** Choose the units in which this person reads and types; the page is drawn anew by whoever calls it. */
export function setUnits(wanted: System): void {
  system = wanted;
}

/** The unit in which a quantity is shown. */
export function unitOf(quantity: Quantity): string {
  return UNIT[system][quantity];
}

const NUMBER = /^([+-]?)(?:(\d+)\s+)?(?:(\d+)\/(\d+)|(\d+(?:[.,]\d*)?|[.,]\d+)(?:e([+-]?\d+))?)\s*(.*)$/i;

function fromShown(value: number, quantity: Quantity, unit: string): number | null {
  if (quantity === "warmth") return unit.endsWith("f") ? ((value - 32) * 5) / 9 : value;
  const factor = TO_BASE[quantity][unit];
  return factor === undefined ? null : value * factor;
}

/**
 * Parse a typed quantity into its base unit (mm, g, m/s, %). A bare number is in the unit that is shown.
 * Returns null for anything that is not a number with a known unit.
 */
export function parseQuantity(text: string, quantity: Quantity): number | null {
  const match = NUMBER.exec(text.trim().replace("−", "-"));
  if (!match) return null;
  const [, sign, whole, over, under, decimal, exponent, rest] = match;
  if (whole !== undefined && decimal !== undefined) return null;
  let value = over !== undefined ? Number(over) / Number(under) : Number(decimal!.replace(",", "."));
  if (whole !== undefined) value += Number(whole);
  if (exponent !== undefined) value *= 10 ** Number(exponent);
  const unit = rest!.trim().toLowerCase();
  if (quantity === "warmth" && unit !== "" && !(unit in TO_BASE.warmth)) return null;
  const signed = sign === "-" ? -value : value;
  const known = unit === "" ? UNIT[system][quantity].toLowerCase() : unit;
  const result = known === "" ? signed : fromShown(signed, quantity, known);
  return result !== null && Number.isFinite(result) ? Math.round(result * 1e9) / 1e9 : null;
}

/** A number with at most `digits` significant digits and no needless zeros. */
export function plain(value: number, digits = 3): string {
  if (!Number.isFinite(value)) return "–";
  if (value === 0) return "0";
  const decimals = Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value))));
  return String(Number(value.toFixed(Math.min(decimals, 6)))).replace("-", "−");
}

/** A base value in the unit that is shown. */
export function shownValue(value: number, quantity: Quantity): number {
  if (quantity === "warmth") return system === "inch" ? (value * 9) / 5 + 32 : value;
  return value / (TO_BASE[quantity][UNIT[system][quantity].toLowerCase()] ?? 1);
}

/** Inches as a fraction down to 1/64 where that says the same, else as a decimal. */
function inches(value: number): string {
  const size = Math.abs(value);
  const parts = Math.round(size * 64);
  if (Math.abs(parts / 64 - size) > 0.0026 || parts === 0 || size > 60) return plain(value, 4);
  const whole = Math.floor(parts / 64);
  let [over, under] = [parts % 64, 64];
  while (over && over % 2 === 0) [over, under] = [over / 2, under / 2];
  const text = over ? `${whole ? `${whole} ` : ""}${over}/${under}` : String(whole);
  return value < 0 ? `−${text}` : text;
}

/** The number of a figure in the unit that is shown; dimensions in inches as fractions. */
export function bare(value: number, quantity: Quantity, digits = 3): string {
  const shown = shownValue(value, quantity);
  if (system === "inch" && quantity === "length" && digits >= 4) return inches(shown);
  return plain(shown, digits);
}

/** A figure with its unit. Lengths with four digits or more are dimensions: fractions in inches. */
export function show(value: number, quantity: Quantity, digits = 3): string {
  const unit = unitOf(quantity);
  if (unit === "J" && Math.abs(value) < 100) return `${plain(value, digits)} mJ`;
  const tight = unit === "°" || unit === "";
  return `${bare(value, quantity, digits)}${tight ? "" : " "}${unit}`;
}

/** A place along the part in words. */
export function place(mm: number): string {
  return mm < 0.5 ? "at the root" : `${show(Math.round(mm), "length", 4)} from the root`;
}

/** What a field shows for a value in its base unit. */
export function writeQuantity(value: number, quantity: Quantity): string {
  const unit = unitOf(quantity);
  const shown = shownValue(value, quantity);
  const number = unit === "in" ? inches(shown) : String(Math.round(shown * 1000) / 1000).replace("-", "−");
  return unit ? `${number} ${unit}` : number;
}

/** Step of a field in its base unit: that of the metric field, or the nearest binary fraction of an inch. */
export function stepOf(quantity: Quantity, step: number): number {
  if (system !== "inch") return step;
  if (quantity === "length") return 25.4 * 2 ** Math.max(-6, Math.round(Math.log2(step / 25.4)));
  return step;
}
