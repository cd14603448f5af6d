/* Keeps the page itself, never anybody's data: at the bench it opens while the server is away. */
const PAGE = "fletcher-page";
const SHOWN = "/build/";

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

/** The newest page, kept for when there is none; with it goes what an older one was made of. */
async function page(request) {
  const kept = await caches.open(PAGE);
  try {
    const fresh = await fetch(request);
    if (fresh.ok) await kept.put(SHOWN, fresh.clone());
    return fresh;
  } catch (away) {
    const last = await kept.match(SHOWN);
    if (last) return last;
    throw away;
  }
}

/** Files carry a sum of their content in their names: what is kept is right for ever. */
async function file(request) {
  const kept = await caches.open(PAGE);
  const last = await kept.match(request);
  if (last) return last;
  const fresh = await fetch(request);
  if (fresh.ok) await kept.put(request, fresh.clone());
  return fresh;
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(page(request));
  else if (url.pathname.startsWith("/static/")) event.respondWith(file(request));
});

/** The page tells which files it has loaded before this was here; what it is no longer made of is dropped. */
self.addEventListener("message", (event) => {
  const wanted = event.data;
  if (!Array.isArray(wanted)) return;
  event.waitUntil(
    caches.open(PAGE).then(async (kept) => {
      const there = await kept.keys();
      const names = new Set(wanted);
      const old = there.filter((r) => !names.has(r.url) && new URL(r.url).pathname.startsWith("/static/"));
      if (there.length > 200) await Promise.all(old.map((r) => kept.delete(r)));
      await Promise.all(wanted.map(async (url) => (await kept.match(url)) ?? kept.add(url).catch(() => {})));
      if (!(await kept.match(SHOWN))) await kept.add(SHOWN).catch(() => {});
      event.source?.postMessage("kept");
    }),
  );
});
