/** How a cup of resin fares while cloth is wetted: counted at the bench, for it goes on without the server. */
export interface Cup {
  /** Minutes for which it stays thin from now on; below 0: it has thickened. */
  left: number;
  /** Minutes that the whole area takes at the pace so far; null until something is wet. */
  takes: number | null;
  /** Whether the area is wet before the cup thickens; null until something is wet. */
  reaches: boolean | null;
}

/** Of a cup that stays `thin` minutes and was mixed `gone` minutes ago; `done` of the `area` was wet after `told`. */
export function cupNow(thin: number, area: number, done: number, told: number, gone: number): Cup {
  const takes = done > 0 ? (Math.max(told, 0) * area) / done : null;
  return { left: thin - gone, takes, reaches: takes === null ? null : takes <= thin };
}

/** What to do next with it. */
export function cupSays(cup: Cup): string {
  if (cup.left <= 0) return "It thickens: leave the cup, finish this edge of cloth, mix the next.";
  if (cup.reaches === null) return "Tell how much is wet, and it says whether this cup reaches.";
  return cup.reaches
    ? "This cup reaches."
    : "This cup does not reach: finish this edge of cloth and mix the next before it thickens.";
}
