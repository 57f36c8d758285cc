// Layers are dragged by their handle; dropping presses the button that moves them. Binds by data-stack, data-place.

/** @returns {() => void} stops listening */
export function startStack(root) {
  const list = root.querySelector("[data-stack]");
  if (!list) return () => {};
  const form = list.closest("form");
  let from = null;

  const placeOf = (event) => event.target.closest("[data-place]")?.dataset.place ?? null;
  const onStart = (event) => {
    from = placeOf(event);
    event.dataTransfer.effectAllowed = "move";
  };
  const onOver = (event) => {
    if (from !== null) event.preventDefault();
  };
  const onDrop = (event) => {
    event.preventDefault();
    const to = placeOf(event);
    if (from === null || to === null || from === to) return;
    const press = Object.assign(document.createElement("button"), {
      name: "do",
      value: `move:${from}:${to}`,
      hidden: true,
    });
    form.append(press);
    form.requestSubmit(press);
  };
  list.addEventListener("dragstart", onStart);
  list.addEventListener("dragover", onOver);
  list.addEventListener("drop", onDrop);
  return () => {
    list.removeEventListener("dragstart", onStart);
    list.removeEventListener("dragover", onOver);
    list.removeEventListener("drop", onDrop);
  };
}
