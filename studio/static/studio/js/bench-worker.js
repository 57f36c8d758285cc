// Opens the bench without a connection: its page as it was last seen, and what that page is drawn with. Everything else
// goes to the network as if this were not here. Whoever logs out leaves no page behind.

const PAGES = "olive-ribbon-bench-pages";
const PARTS = "olive-ribbon-bench-parts";
const BENCH = /^\/day\/\d+\/bench\/$/;
const STATIC = /^\/static\//;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate" && BENCH.test(pathname)) event.respondWith(freshOr(request, PAGES));
  else if (STATIC.test(pathname)) event.respondWith(freshOr(request, PARTS));
});

// From the network, and kept; what was kept where there is none. A page that led elsewhere, as to logging in, is not
// kept, and what was kept of it is forgotten.
async function freshOr(request, name) {
  const kept = await caches.open(name);
  try {
    const answer = await fetch(request);
    if (answer.ok && !answer.redirected) await kept.put(request, answer.clone());
    else if (answer.type === "opaqueredirect" || answer.redirected) await kept.delete(request);
    return answer;
  } catch (lost) {
    const old = await kept.match(request);
    if (old) return old;
    throw lost;
  }
}
