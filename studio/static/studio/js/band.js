// Lets the band tick: reads the curve the server sent and interpolates. Binds by data-band and data-curve.

const TICK_MS = 5000;

/** @returns {() => void} stops ticking */
export function startBand(root) {
  const begun = Date.now();
  const bowls = [...root.querySelectorAll("[data-band] [data-curve]")].map((home) => ({
    home,
    curve: JSON.parse(home.dataset.curve),
    left: home.dataset.left === "" ? null : Number(home.dataset.left),
  }));
  root.querySelectorAll("[data-band-open]").forEach(fold);
  const tick = () => bowls.forEach((bowl) => show(bowl, (Date.now() - begun) / 1000));
  const timer = bowls.length ? setInterval(tick, TICK_MS) : 0;
  return () => clearInterval(timer);
}

/** A phone shows one bowl of the band until the button opens it. */
function fold(button) {
  const band = button.closest("[data-band]");
  const open = (all) => {
    band.classList.toggle("band-folds", !all);
    band.classList.toggle("band-unfolded", all);
    button.setAttribute("aria-expanded", String(all));
  };
  button.hidden = false;
  open(false);
  button.addEventListener("click", () => open(band.classList.contains("band-folds")));
}

function show({ home, curve, left }, elapsed) {
  const put = (name, text) => {
    const part = home.querySelector(`[data-band-${name}]`);
    if (part && text !== null && part.textContent !== text) part.textContent = text;
  };
  put("word", curve.w.filter(([from]) => from <= elapsed).at(-1)[1]);
  if (left !== null) put("left", minutes(left - elapsed));
  const degrees = home.querySelector("[data-degrees]")?.dataset.degrees;
  if (degrees) put("warmth", `${Math.round(temperature(curve, elapsed))} ${degrees}`);
}

function temperature({ t, step }, elapsed) {
  const place = Math.min(elapsed / step, t.length - 1);
  const low = Math.floor(place);
  const high = Math.min(low + 1, t.length - 1);
  return t[low] + (t[high] - t[low]) * (place - low);
}

function minutes(seconds) {
  if (seconds <= 0) return "rewarm it";
  return seconds < 60 ? "under a minute" : `${Math.round(seconds / 60)} min`;
}
