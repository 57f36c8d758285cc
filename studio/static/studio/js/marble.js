// Passes of a skewer are drawn on the slab, from where it is pressed to where it is let go; a tap pours a blob where blobs
// are poured by tapping. Binds by data-marble (the picture, which is put in anew), data-marble-back, data-marble-clear and
// the fields strokes, placed, poured and after.

const SHORTEST_PX = 6;

/** @returns {() => void} stops listening */
export function startMarble(root) {
  const tools = root.querySelector("[data-marble-tools]");
  if (!tools) return () => {};
  const form = tools.closest("form");
  const { strokes, placed } = form.elements;
  let from = null;

  const drawn = (field) => {
    try {
      return JSON.parse(field.value || "[]");
    } catch {
      return [];
    }
  };
  const put = (field, all) => {
    field.value = all.length ? JSON.stringify(all) : "";
    form.elements.after.value = form.elements.after.max;
    form.dispatchEvent(new Event("input", { bubbles: true }));
  };
  // Places are shares of the picture: the server knows how large the slab is.
  const share = (picture, event) => {
    const box = picture.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height].map((v) =>
      Number(v.toFixed(4)),
    );
  };
  const onDown = (event) => {
    const picture = event.target.closest("[data-marble]");
    if (!picture) return;
    event.preventDefault();
    from = { picture, event, at: share(picture, event) };
  };
  const onUp = (event) => {
    if (!from) return;
    const { picture, event: start, at } = from;
    from = null;
    if (Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) >= SHORTEST_PX) {
      put(strokes, [...drawn(strokes), [...at, ...share(picture, event)]]);
    } else if (form.elements.poured.value === "placed") {
      put(placed, [...drawn(placed), at]);
    }
  };
  const last = () => (strokes.value ? strokes : placed);
  const onBack = () => put(last(), drawn(last()).slice(0, -1));
  const onClear = () => {
    placed.value = "";
    put(strokes, []);
  };
  const heard = [
    [root, "pointerdown", onDown],
    [root, "pointerup", onUp],
    [tools.querySelector("[data-marble-back]"), "click", onBack],
    [tools.querySelector("[data-marble-clear]"), "click", onClear],
  ];
  for (const [what, name, act] of heard) what.addEventListener(name, act);
  return () => {
    for (const [what, name, act] of heard) what.removeEventListener(name, act);
  };
}
