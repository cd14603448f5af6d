/** Milliseconds to wait before a server that did not answer is asked for the n-th time again: a second, then twice as
 * long each time, half a minute at most. */
export function backOff(n: number): number {
  return Math.min(1000 * 2 ** n, 30_000);
}

/** Calls back as soon as the browser is on-line again; returns how to stop that. */
export function whenOnline(call: () => void): () => void {
  window.addEventListener("online", call);
  return () => window.removeEventListener("online", call);
}
