import type { Schemas } from "../api/client";

export type Kind = Schemas["Event"]["kind"];

/** What an entry of the Log is called. */
export const KIND: Record<Kind, string> = {
  build: "Building step",
  weighing: "Weighing",
  test: "Test",
  flight: "Flight",
  wear: "Wear or change",
  crash: "Crash",
  damage: "Damage",
  repair: "Repair",
  check: "Check",
  note: "Note",
};
