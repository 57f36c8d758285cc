// Counts a burst down in figures that are seen across the kitchen. Nothing is sent: it only shows time.
// Binds by data-countdown (seconds), data-countdown-left, data-countdown-start.

const TICK_MS = 200;

/** @returns {() => void} stops all of them */
export function startCountdowns(root) {
  const stops = [...root.querySelectorAll("[data-countdown]")].map(bind);
  return () => stops.forEach((stop) => stop());
}

function bind(home) {
  const left = home.querySelector("[data-countdown-left]");
  const button = home.querySelector("[data-countdown-start]");
  const whole = Math.round(Number(home.dataset.countdown));
  const says = button.textContent;
  let timer = 0;

  const rest = () => {
    clearInterval(timer);
    timer = 0;
    home.classList.remove("countdown-runs", "countdown-over");
    left.textContent = whole;
    button.textContent = says;
  };
  const run = () => {
    const ends = Date.now() + whole * 1000;
    home.classList.add("countdown-runs");
    button.textContent = "Stop";
    timer = setInterval(() => {
      const seconds = Math.max(0, Math.ceil((ends - Date.now()) / 1000));
      left.textContent = seconds || "Stir";
      home.classList.toggle("countdown-over", seconds === 0);
      if (seconds === 0) clearInterval(timer);
    }, TICK_MS);
  };
  const press = () => (timer ? rest() : run());

  button.hidden = false;
  button.addEventListener("click", press);
  return () => {
    rest();
    button.removeEventListener("click", press);
  };
}
