import type { Part } from "../../../api/client";

type Case = Part["cases"][number];

const round = (value: number) => Number(value.toPrecision(4));
const flown = (speed: number) => round(Math.min(120, Math.max(1, speed)));

/**
 * What gives a case in the air the wanted load factor, from the one that it has now: more speed in a pull-up (lift grows
 * with its square), more bank in a turn (n = 1 / cos φ), a harder gust in a gust (n − 1 grows with it; Pratt and Walker,
 * NACA TR 1206). Null where it cannot be had, or the case has none.
 */
export function forFactor(now: Case, has: number, wanted: number): Partial<Case> | null {
  if (now.type === "pull_up")
    return wanted > 0 && has > 0
      ? { speed_m_s: flown((now.speed_m_s ?? 16) * Math.sqrt(wanted / has)) }
      : null;
  if (now.type === "turn")
    return wanted >= 1 ? { bank_deg: round((Math.acos(1 / wanted) * 180) / Math.PI) } : null;
  if (now.type === "gust") {
    const share = (wanted - 1) / (has - 1);
    return Number.isFinite(share) && share > 0 ? { gust_m_s: round((now.gust_m_s ?? 5) * share) } : null;
  }
  return null;
}

/** What is changed to have it. */
export const BY_FACTOR: Partial<Record<Case["type"], string>> = {
  pull_up: "sets the speed that gives it",
  turn: "sets the bank angle that gives it",
  gust: "sets the gust speed that gives it",
};
