import type { Catalogue, Part } from "../api/client";
import { bodyOf } from "./gluing";

/** Under which a glue test result is kept while it is typed. */
export const COUPON_DRAFT = "fletcher.coupon";

/** The glue that a text names: that with the longest name in it. */
export function gluedWith(text: string, catalogue: Catalogue): string | undefined {
  const said = text.toLowerCase();
  const named = catalogue.adhesives
    .map((a) => ({ key: a.key, name: a.name.split(/[,(]/)[0]!.trim().toLowerCase() }))
    .filter((a) => said.includes(a.name))
    .sort((a, b) => b.name.length - a.name.length);
  return named[0]?.key;
}

/** Begins a glue test result with what a log entry tells: the part's material, the glue that it names, its words. */
export function startCoupon(says: string, part: Part | undefined, catalogue: Catalogue) {
  const side = part ? bodyOf(part, catalogue) : null;
  const adhesive = gluedWith(says, catalogue);
  const draft = {
    ...(side ? { one: side, other: side } : {}),
    ...(adhesive ? { adhesive } : {}),
    note: says.slice(0, 400),
  };
  try {
    window.localStorage.setItem(COUPON_DRAFT, JSON.stringify(draft));
  } catch {
    // a full or blocked storage: the form opens empty
  }
}
