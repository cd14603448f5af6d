/** Reading what people type ("7/32in", "1.2 m", "3 oz") and writing figures with their unit. */

export type Quantity = "length" | "mass" | "speed" | "percent" | "angle" | "force" | "couple" | "plain";

const TO_BASE: Record<Quantity, Record<string, number>> = {
  length: { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4, inch: 25.4, ft: 304.8, "'": 304.8 },
  mass: { g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237 },
  speed: { "m/s": 1, "km/h": 1 / 3.6, kmh: 1 / 3.6, mph: 0.44704, kn: 0.514444, kt: 0.514444 },
  percent: { "%": 1 },
  angle: { "°": 1, deg: 1 },
  force: { n: 1, kgf: 9.80665, gf: 0.00980665, lbf: 4.448222 },
  couple: { "n·mm": 1, "n*mm": 1, nmm: 1, "n·cm": 10, ncm: 10, "n·m": 1000, nm: 1000 },
  plain: { "×": 1, x: 1 },
};

export const BASE_UNIT: Record<Quantity, string> = {
  length: "mm",
  mass: "g",
  speed: "m/s",
  percent: "%",
  angle: "°",
  force: "N",
  couple: "N·mm",
  plain: "",
};

const NUMBER = /^([+-]?)(?:(\d+)\s+)?(?:(\d+)\/(\d+)|(\d+(?:[.,]\d*)?|[.,]\d+)(?:e([+-]?\d+))?)\s*(.*)$/i;

/**
 * Parse a typed quantity into its base unit (mm, g, m/s, %). A bare number is in the base unit.
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
  const factor = unit === "" ? 1 : TO_BASE[quantity][unit];
  if (factor === undefined) return null;
  const result = (sign === "-" ? -value : value) * factor;
  return Number.isFinite(result) ? Math.round(result * 1e9) / 1e9 : null;
}

/** A number with at most `digits` significant digits and no needless zeros. */
export function plain(value: number, digits = 3): string {
  if (!Number.isFinite(value)) return "–";
  if (value === 0) return "0";
  const decimals = Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value))));
  return String(Number(value.toFixed(Math.min(decimals, 6)))).replace("-", "−");
}

/** A place along the part in words. */
export function place(mm: number): string {
  return mm < 0.5 ? "at the root" : `${Math.round(mm)} mm from the root`;
}

/** What a field shows for a value in its base unit. */
export function writeQuantity(value: number, quantity: Quantity): string {
  const unit = BASE_UNIT[quantity];
  const number = String(Math.round(value * 1000) / 1000).replace("-", "−");
  return unit ? `${number} ${unit}` : number;
}
