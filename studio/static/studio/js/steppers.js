// Minus, plus and preset buttons beside a number field. Binds by data-stepper, data-step, data-unit, data-set.

/** @returns {() => void} stops listening */
export function startSteppers(root) {
  const onClick = (event) => {
    const button = event.target.closest("[data-step], [data-set]");
    if (!button) return;
    const stepper = button.closest("[data-stepper]");
    const field = button.dataset.for ? root.getElementById(button.dataset.for) : stepper.querySelector("input");
    field.value = button.dataset.set ?? stepped(field.value, Number(button.dataset.step), stepper.dataset.unit ?? "");
    field.dispatchEvent(new Event("input", { bubbles: true }));
  };
  root.addEventListener("click", onClick);
  return () => root.removeEventListener("click", onClick);
}

const AMOUNT = /^\s*(?:(\d+)\s+(?=\d+\/))?(?:(\d+)\/(\d+)|(\d*[.,]?\d+))?\s*(.*?)\s*$/;
const QUARTERS = ["", "1/4", "1/2", "3/4"];

// Never below nothing; an unreadable field counts as empty. What was typed in another unit goes up by ones in that.
function stepped(text, step, unit) {
  const [, whole, above, below, plain, rest] = AMOUNT.exec(text) ?? [];
  const value = Number(whole ?? 0) + (above ? above / below : Number((plain ?? "0").replace(",", ".")));
  const said = plain || above ? rest : unit;
  const next = Math.max(0, value + (said === unit ? step : Math.sign(step)));
  if (!(next > 1e-6)) return "";
  return `${step % 1 && unit !== "oz" ? inQuarters(next) : Math.round(next * 10) / 10} ${said}`.trim();
}

function inQuarters(value) {
  const quarters = Math.round(value * 4);
  return [Math.floor(quarters / 4) || "", QUARTERS[quarters % 4]].filter(Boolean).join(" ") || "0";
}
