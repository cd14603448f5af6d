/** How a cup of resin fares while cloth is wetted: counted at the bench, for it goes on without the server. */
export interface Cup {
  /** Minutes since it was mixed. */
  gone: number;
  /** Minutes for which it stays thin from now on; below 0: it has thickened. */
  left: number;
  /** Minutes that the rest of the area takes at this pace; null until something is wet. */
  needs: number | null;
}

export function cupNow(thin: number, area: number, done: number, gone: number): Cup {
  const pace = gone > 0 ? done / gone : 0;
  return { gone, left: thin - gone, needs: pace > 0 ? Math.max(area - done, 0) / pace : null };
}

/** What to do next with it. */
export function cupSays(cup: Cup): string {
  if (cup.left <= 0) return "It thickens: leave the cup, finish this edge of cloth, mix the next.";
  if (cup.needs === null) return "Tell how much is wet, and it says whether this cup reaches.";
  return cup.needs <= cup.left
    ? "This cup reaches."
    : "This cup does not reach: finish this edge of cloth and mix the next before it thickens.";
}
