// A page that is loaded again, by itself or after a button on it, keeps the place and the focus it had.

const KEPT = "olive-stay";
const FRESH_MS = 8000;
const FOCUSABLE = "a[href], button, input:not([type=hidden]), select, textarea, summary";

/** @returns {() => void} stops remembering */
export function startStay(root) {
  restore(root);
  const remember = () => {
    const one = root.activeElement;
    const all = [...root.querySelectorAll(`main ${FOCUSABLE.replaceAll(", ", ", main ")}`)];
    const kept = {
      path: window.location.pathname,
      at: Date.now(),
      y: window.scrollY,
      id: one?.id ?? "",
      name: one?.getAttribute?.("name") ?? "",
      value: one?.tagName === "BUTTON" ? one.value : "",
      index: all.indexOf(one),
    };
    sessionStorage.setItem(KEPT, JSON.stringify(kept));
  };
  window.addEventListener("pagehide", remember);
  return () => window.removeEventListener("pagehide", remember);
}

function restore(root) {
  const kept = JSON.parse(sessionStorage.getItem(KEPT) ?? "null");
  sessionStorage.removeItem(KEPT);
  if (!kept || kept.path !== window.location.pathname || Date.now() - kept.at > FRESH_MS) return;
  if (window.location.hash || root.querySelector("[autofocus], [aria-invalid=true]")) return;
  const all = [...root.querySelectorAll(`main ${FOCUSABLE.replaceAll(", ", ", main ")}`)];
  const one =
    (kept.id && root.getElementById(kept.id)) ||
    all.find((each) => kept.name && each.getAttribute("name") === kept.name && (each.value ?? "") === kept.value) ||
    (kept.index >= 0 ? all[kept.index] : null);
  if (kept.index >= 0) one?.focus({ preventScroll: true });
  window.scrollTo({ top: kept.y, behavior: "instant" });
}
