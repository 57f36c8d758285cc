// Asks before a page is left on which something was refused, so that it is not lost without a word. Binds by data-guard
// inside the form.

/** @returns {() => void} lets go */
export function startGuard(root) {
  const form = root.querySelector("[data-guard]")?.closest("form");
  if (!form) return () => {};
  const onLeave = (event) => event.preventDefault();
  const onSubmit = () => window.removeEventListener("beforeunload", onLeave);
  window.addEventListener("beforeunload", onLeave);
  form.addEventListener("submit", onSubmit);
  return () => {
    onSubmit();
    form.removeEventListener("submit", onSubmit);
  };
}
