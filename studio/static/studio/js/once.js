// A form goes off once: a second click while it is on its way is ignored. Works on every form that is posted.

const AGAIN_MS = 4000;

/** @returns {() => void} stops watching */
export function startOnce(root) {
  const gone = new WeakMap();
  const onSubmit = (event) => {
    const last = gone.get(event.target);
    if (last !== undefined && performance.now() - last < AGAIN_MS) event.preventDefault();
    else gone.set(event.target, performance.now());
  };
  const onShow = (event) => event.persisted && root.querySelectorAll("form").forEach((form) => gone.delete(form));
  root.addEventListener("submit", onSubmit);
  window.addEventListener("pageshow", onShow);
  return () => {
    root.removeEventListener("submit", onSubmit);
    window.removeEventListener("pageshow", onShow);
  };
}
