/** What the bench needs to open while the server is away, kept on this device until somebody signs out. */

const PREFIX = "fletcher.bench.";

export function keepForBench(name: string, value: unknown): void {
  try {
    window.localStorage.setItem(PREFIX + name, JSON.stringify(value));
  } catch {
    // full or blocked: the bench then opens with the server only
  }
}

export function keptForBench<T>(name: string): T | null {
  try {
    return JSON.parse(window.localStorage.getItem(PREFIX + name) ?? "null") as T | null;
  } catch {
    return null;
  }
}

/** Forgets it: the next one at this device must not find it. */
export function forgetBench(): void {
  try {
    for (const key of Object.keys(window.localStorage))
      if (key.startsWith(PREFIX) || key.startsWith("fletcher.plan.")) window.localStorage.removeItem(key);
  } catch {
    // blocked: nothing was kept
  }
}

/** Whether an address is that of a bench. */
export const atBench = (path: string) => /^\/build\/[^/]+\/run\/?$/.test(path);

/** The page's own files are kept from now on, so that it opens without the server. */
export function keepPage(): void {
  if (!("serviceWorker" in navigator)) return;
  navigator.serviceWorker
    .register("/sw.js", { scope: "/build/" })
    .then(async (there) => {
      const worker = there.active ?? there.waiting ?? there.installing;
      const files = performance
        .getEntriesByType("resource")
        .map((e) => e.name)
        .filter((name) => new URL(name).pathname.startsWith("/static/"));
      worker?.postMessage([...new Set(files)]);
    })
    .catch(() => {
      // refused, as on a plain http address of another machine: it then opens with the server only
    });
}
