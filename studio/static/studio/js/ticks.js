// A list to tick off while it goes in: ticks are kept on this device until the bowl changes, whatever is swapped meanwhile.
// Binds by data-ticks (the bowl as it is) and data-tick (a thing and its amount).

/** @returns {() => void} stops watching */
export function startTicks(root) {
  const name = (box) => `tick ${box.closest("[data-ticks]").dataset.ticks} ${box.dataset.tick}`;
  const show = () =>
    root.querySelectorAll("[data-tick]").forEach((box) => {
      box.checked = sessionStorage.getItem(name(box)) === "in";
    });
  const onChange = ({ target }) => {
    if (!target.matches?.("[data-tick]")) return;
    if (target.checked) sessionStorage.setItem(name(target), "in");
    else sessionStorage.removeItem(name(target));
  };
  show();
  root.addEventListener("change", onChange);
  const homes = root.querySelectorAll('[data-live-part="put_in"]');
  const watch = new MutationObserver(show);
  homes.forEach((home) => watch.observe(home, { childList: true }));
  return () => {
    root.removeEventListener("change", onChange);
    watch.disconnect();
  };
}
