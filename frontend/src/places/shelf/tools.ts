import type { Schemas } from "../../api/client";

/** Tools that not every bench has, and what they are called. */
export const TOOLS: [Schemas["WishIn"]["tools"][number], string][] = [
  ["iron", "Film iron"],
  ["hot_wire", "Hot-wire cutter"],
  ["resin", "Resin kit (scales, gloves)"],
  ["vacuum", "Vacuum pump and bag"],
];
