// A tap on a photo marks the colour wanted or the card; arrow keys move the mark. Binds by data-photo,
// data-photo-picture and the fields x, y, card_x, card_y and mark of the form.

const STEP = 0.005;
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** @returns {() => void} stops listening */
export function startPhoto(root) {
  const form = root.querySelector("form[data-photo]");
  if (!form) return () => {};
  const picture = form.querySelector("[data-photo-picture]");

  const marked = () => (form.elements.mark.value === "card" ? ["card_x", "card_y"] : ["x", "y"]);
  const put = (x, y) => {
    const [across, down] = marked();
    form.elements[across].value = Math.min(1, Math.max(0, x)).toFixed(4);
    form.elements[down].value = Math.min(1, Math.max(0, y)).toFixed(4);
    form.dispatchEvent(new Event("input", { bubbles: true }));
  };
  const onClick = (event) => {
    event.preventDefault();
    if (event.detail === 0) return;
    const box = picture.getBoundingClientRect();
    put((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  const onKey = (event) => {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const [across, down] = marked().map((name) => Number(form.elements[name].value || 0.5));
    put(across + way[0] * STEP, down + way[1] * STEP);
  };
  picture.addEventListener("click", onClick);
  picture.addEventListener("keydown", onKey);
  return () => {
    picture.removeEventListener("click", onClick);
    picture.removeEventListener("keydown", onKey);
  };
}
