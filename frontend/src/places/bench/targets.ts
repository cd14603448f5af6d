import type { Schemas } from "../../api/client";
import { graded } from "../../words/grades";
import { bare, type Quantity } from "../../forms/units";

type Target = Schemas["TargetResult"];

/** What each target is called, and in which quantity it is. */
export const TARGET_FIGURES: Record<string, { label: string; quantity: Quantity }> = {
  bend: { label: "Deflection", quantity: "length" },
  twist: { label: "Twist, either way", quantity: "angle" },
  margin: { label: "Lowest margin", quantity: "plain" },
  added: { label: "Added mass", quantity: "mass" },
  toughness: { label: "Energy to first break", quantity: "work" },
  bow: { label: "Built-in bow, either way", quantity: "length" },
  balance: { label: "CG aft of root leading edge", quantity: "length" },
};

/** The wanted range in short. */
export function rangeOf(target: Target): string {
  const quantity = TARGET_FIGURES[target.figure]!.quantity;
  const { low, high } = target;
  if (low == null) return `at most ${bare(high ?? 0, quantity)}`;
  if (high == null) return `at least ${bare(low, quantity)}`;
  return `${bare(low, quantity)} to ${bare(high, quantity)}`;
}

/** Whether a target is met, in words. */
export function targetWords(target: Target): string {
  return `${graded(target.met)}: ${target.side ? `${target.side}, ` : ""}target ${rangeOf(target)}`;
}
