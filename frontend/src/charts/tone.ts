/** Fill for a share of strength used: lightness carries it, a pattern marks more than all of it. */
export function toneOf(use: number): string {
  if (use > 1) return "url(#over)";
  return `color-mix(in oklab, var(--use-1) ${Math.round(92 * Math.max(0, use))}%, var(--use-0))`;
}
