import { useState } from "react";

function kept<T>(key: string, first: T): T {
  try {
    const found = JSON.parse(window.localStorage.getItem(key) ?? "null") as Partial<T> | null;
    return found === null ? first : { ...first, ...found };
  } catch {
    return first;
  }
}

/** What is typed into a form before it is sent, kept in the browser so that a reload loses nothing. */
export function useTyped<T>(key: string, first: T): [T, (edit: (now: T) => T) => void] {
  const [typed, setTyped] = useState<T>(() => kept(key, first));
  const write = (edit: (now: T) => T) =>
    setTyped((now) => {
      const next = edit(now);
      try {
        window.localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // a full or blocked storage stops no typing
      }
      return next;
    });
  return [typed, write];
}
