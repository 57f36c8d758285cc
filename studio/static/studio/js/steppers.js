// Minus, plus and preset buttons beside a number field. Binds by data-stepper, data-step, data-set.

/** @returns {() => void} stops listening */
export function startSteppers(root) {
  const onClick = (event) => {
    const button = event.target.closest("[data-step], [data-set]");
    if (!button) return;
    const field = button.dataset.for
      ? root.getElementById(button.dataset.for)
      : button.closest("[data-stepper]").querySelector("input");
    const next = button.dataset.set ?? stepped(field.value, Number(button.dataset.step));
    field.value = next;
    field.dispatchEvent(new Event("input", { bubbles: true }));
  };
  root.addEventListener("click", onClick);
  return () => root.removeEventListener("click", onClick);
}

// Lands on whole numbers and never below nothing; an unreadable field counts as empty.
function stepped(text, step) {
  const value = Number.parseFloat(String(text).replace(",", "."));
  const next = Math.max(0, Math.round(((Number.isFinite(value) ? value : 0) + step) * 10) / 10);
  return next === 0 ? "" : String(next);
}
