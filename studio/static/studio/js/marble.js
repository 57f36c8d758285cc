// Passes of a skewer are drawn on the slab: from where it is pressed to where it is let go. Binds by data-marble (the
// picture, which is put in anew), data-marble-back, data-marble-clear and the fields strokes, width_mm, height_mm.

const SHORTEST_PX = 6;

/** @returns {() => void} stops listening */
export function startMarble(root) {
  const tools = root.querySelector("[data-marble-tools]");
  if (!tools) return () => {};
  const form = tools.closest("form");
  const field = form.elements.strokes;
  let from = null;

  const drawn = () => {
    try {
      return JSON.parse(field.value || "[]");
    } catch {
      return [];
    }
  };
  const put = (strokes) => {
    field.value = strokes.length ? JSON.stringify(strokes) : "";
    form.elements.after.value = form.elements.after.max;
    form.dispatchEvent(new Event("input", { bubbles: true }));
  };
  // Places are shares of the picture: the server knows how large the slab is.
  const share = (picture, event) => {
    const box = picture.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height].map((v) => Number(v.toFixed(4)));
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
    if (Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < SHORTEST_PX) return;
    put([...drawn(), [...at, ...share(picture, event)]]);
  };
  const onBack = () => put(drawn().slice(0, -1));
  const onClear = () => put([]);
  const heard = [
    [root, "pointerdown", onDown], [root, "pointerup", onUp],
    [tools.querySelector("[data-marble-back]"), "click", onBack],
    [tools.querySelector("[data-marble-clear]"), "click", onClear],
  ];
  for (const [what, name, act] of heard) what.addEventListener(name, act);
  return () => {
    for (const [what, name, act] of heard) what.removeEventListener(name, act);
  };
}
