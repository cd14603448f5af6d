import type { Schemas } from "../api/client";

export type Grade = Schemas["CaseVerdict"]["enough"];

/** The sign of each grade: meaning never by colour alone. */
export const SIGN: Record<Grade, string> = { sure: "✓", likely: "≈", doubtful: "?", no: "✕" };

/** A grade with its sign. */
export function graded(grade: Grade): string {
  return `${SIGN[grade]} ${grade}`;
}
