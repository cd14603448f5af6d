import { plain } from "./units";

/** Minutes as a builder says them. */
export function minutesText(minutes: number): string {
  if (minutes < 90) return `${Math.round(minutes)} min`;
  if (minutes < 2880) return `${plain(minutes / 60, 2)} h`;
  return `${plain(minutes / 1440, 2)} days`;
}
