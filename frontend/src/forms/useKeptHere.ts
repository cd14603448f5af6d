import { useState } from "react";

/**
 * Something typed that is kept on this machine under a name; where the browser keeps nothing, for as long as the page
 * is open. `read` makes what was kept into a value again, or tells that it cannot be used.
 */
export function useKeptHere<T>(name: string, first: T, read: (kept: unknown) => T | null) {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = window.localStorage.getItem(name);
      return (kept === null ? null : read(JSON.parse(kept))) ?? first;
    } catch {
      return first;
    }
  });
  const set = (next: T) => {
    try {
      window.localStorage.setItem(name, JSON.stringify(next));
    } catch {
      // full or blocked: it stays on the screen
    }
    setValue(next);
  };
  return [value, set] as const;
}

/** Names that were kept; anything else is left out. */
export function namesIn(kept: unknown): string[] | null {
  return Array.isArray(kept) ? kept.filter((k): k is string => typeof k === "string") : null;
}
