// A tap on a photo marks the colour wanted or the card, a stroke draws a patch, arrow keys move the mark. Binds by
// data-photo, data-photo-picture and the fields x, y, card_x, card_y, mark, half and drawn of the form.

const STEP = 0.005;
const STROKE_PX = 8;
const WIDEST = 0.25;
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** @returns {() => void} stops listening */
export function startPhoto(root) {
  const form = root.querySelector("form[data-photo]");
  if (!form) return () => {};
  const picture = form.querySelector("[data-photo-picture]");
  const fields = form.elements;
  let from = null;

  const onCard = () => fields.mark.value === "card";
  const put = (x, y, drawn = "") => {
    const [across, down] = onCard() ? ["card_x", "card_y"] : ["x", "y"];
    fields[across].value = Math.min(1, Math.max(0, x)).toFixed(4);
    fields[down].value = Math.min(1, Math.max(0, y)).toFixed(4);
    if (!onCard()) fields.drawn.value = drawn;
    form.dispatchEvent(new Event("input", { bubbles: true }));
  };
  const onDown = (event) => {
    from = { x: event.clientX, y: event.clientY };
  };
  const onClick = (event) => {
    event.preventDefault();
    if (event.detail === 0) return;
    const box = picture.getBoundingClientRect();
    const start = from ?? { x: event.clientX, y: event.clientY };
    const [wide, high] = [event.clientX - start.x, event.clientY - start.y];
    const drawn = Math.max(Math.abs(wide), Math.abs(high));
    const half = Math.min(WIDEST, drawn / 2 / Math.max(box.width, box.height)).toFixed(4);
    put(
      (start.x + wide / 2 - box.left) / box.width,
      (start.y + high / 2 - box.top) / box.height,
      drawn > STROKE_PX ? half : "",
    );
    from = null;
  };
  const onKey = (event) => {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const [across, down] = (onCard() ? ["card_x", "card_y"] : ["x", "y"]).map((n) => Number(fields[n].value || 0.5));
    put(across + way[0] * STEP, down + way[1] * STEP, fields.drawn.value);
  };
  const onSize = (event) => {
    if (event.target.name === "half") fields.drawn.value = "";
  };
  const heard = [
    [picture, "pointerdown", onDown],
    [picture, "click", onClick],
    [picture, "keydown", onKey],
  ];
  for (const [what, name, act] of heard) what.addEventListener(name, act);
  form.addEventListener("input", onSize, true);
  picture.draggable = false;
  return () => {
    for (const [what, name, act] of heard) what.removeEventListener(name, act);
    form.removeEventListener("input", onSize, true);
  };
}
