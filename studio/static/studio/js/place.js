// The one place that swaps rendered parts: what says the same is left alone, since a finger may be on it; the focus, the
// cursor in a field and what slides stay where they were. Binds by data-live-part (a role) and data-pin (what slides).

const placed = new WeakMap(); // what each part says
const FOCUSABLE = "a[href], button, input, select, textarea, summary, [tabindex]";

/**
 * @param {ParentNode} root holds the parts
 * @param {Record<string, string>} parts rendered, by role
 * @param {(home: Element) => boolean} wanted whether a part may be swapped now
 */
export function place(root, parts, wanted = () => true) {
  for (const [role, html] of Object.entries(parts)) {
    const home = root.querySelector(`[data-live-part="${role}"]`);
    if (!home || !wanted(home)) continue;
    if (placed.get(home) === html || home.innerHTML === html) continue;
    placed.set(home, html);
    const held = focusIn(home);
    const before = pins(home);
    home.innerHTML = html;
    home.dispatchEvent(new Event("placed", { bubbles: true }));
    giveBack(home, held);
    slide(home, before);
  }
}

// Where the focus is within a part: by its id, its name and value, or as the how-manieth thing that can have it.
function focusIn(home) {
  const one = document.activeElement;
  if (!one || one === home || !home.contains(one)) return null;
  return {
    id: one.id,
    name: one.getAttribute("name"),
    value: one.getAttribute("value"),
    at: [...home.querySelectorAll(FOCUSABLE)].indexOf(one),
    cursor: "selectionStart" in one && one.type === "text" ? [one.selectionStart, one.selectionEnd] : null,
  };
}

function giveBack(home, held) {
  if (!held) return;
  const all = [...home.querySelectorAll(FOCUSABLE)];
  const one =
    all.find((each) => held.id && each.id === held.id) ??
    all.find(
      (each) => held.name && each.getAttribute("name") === held.name && each.getAttribute("value") === held.value,
    ) ??
    all[held.at];
  one?.focus({ preventScroll: true });
  if (one && held.cursor && one.type === "text") one.setSelectionRange(...held.cursor);
}

const pins = (home) => new Map([...home.querySelectorAll("[data-pin]")].map((pin) => [pin.dataset.pin, centre(pin)]));

const centre = (pin) => {
  const box = pin.querySelector("circle").getBoundingClientRect();
  return box.left + box.width / 2;
};

// A pin slides from where it hung before.
function slide(home, before) {
  if (matchMedia("(prefers-reduced-motion: reduce)").matches) return;
  for (const pin of home.querySelectorAll("[data-pin]")) {
    const old = before.get(pin.dataset.pin);
    const moved = old === undefined ? 0 : old - centre(pin);
    if (Math.abs(moved) > 1) {
      pin.animate([{ transform: `translateX(${moved}px)` }, { transform: "none" }], {
        duration: 220,
        easing: "ease-out",
      });
    }
  }
}
