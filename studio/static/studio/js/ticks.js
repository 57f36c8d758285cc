// A list to tick off: ticks are kept on this device until the amounts change, whatever is swapped meanwhile; those of a
// list that is carried through a shop for good, the others while the window is open.
// Binds by data-ticks (what the list is of, as it is), data-ticks-stay and data-tick (a thing and its amount).

/** @returns {() => void} stops watching */
export function startTicks(root) {
  const kept = (box) => (box.closest("[data-ticks-stay]") ? localStorage : sessionStorage);
  const name = (box) => `tick ${box.closest("[data-ticks]").dataset.ticks} ${box.dataset.tick}`;
  const show = () =>
    root.querySelectorAll("[data-tick]").forEach((box) => {
      box.checked = kept(box).getItem(name(box)) === "in";
    });
  const onChange = ({ target }) => {
    if (!target.matches?.("[data-tick]")) return;
    if (target.checked) kept(target).setItem(name(target), "in");
    else kept(target).removeItem(name(target));
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
