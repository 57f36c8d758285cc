// Has the bench kept for when there is no connection, where the browser can: on this machine or over HTTPS. A page that
// nobody is logged in on has what was kept forgotten. Binds by data-worker (the address of the worker, at the bench).

const PAGES = "olive-ribbon-bench-pages";
const SETTLED_MS = 3000; // the page at hand comes first

export function startOffline(root) {
  if (!window.isSecureContext || !navigator.serviceWorker) return;
  const home = root.querySelector("[data-worker]");
  const keep = () =>
    navigator.serviceWorker
      .register(home.dataset.worker, { scope: "/day/" })
      .then(() => keepThisPage())
      .catch(() => {}); // private windows refuse: the bench works as long as there is a connection
  if (home) setTimeout(keep, SETTLED_MS);
  if (!root.body.classList.contains("has-bar")) window.caches?.delete(PAGES);
}

// The page at hand was fetched before the worker was there.
async function keepThisPage() {
  await navigator.serviceWorker.ready;
  const pages = await caches.open(PAGES);
  await pages.add(window.location.href);
  const parts = await caches.open("olive-ribbon-bench-parts");
  const wanted = performance.getEntriesByType("resource").map((one) => one.name);
  await parts.addAll(wanted.filter((name) => new URL(name).pathname.startsWith("/static/")));
}
