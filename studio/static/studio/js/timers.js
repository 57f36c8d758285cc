// Timers tick down from what the server said was left, and ring: a word, a sound, the page's title, and, where a maker
// wants it and the browser can, a voice.
// They go by the wall clock: other clocks of a browser stand still while a tablet sleeps.
// Binds by data-timer (seconds left), data-timer-left (where they show), data-timer-rings (what is read out),
// data-timer-aloud (a box to tick for the voice); in a ring data-timer-of (seconds in all), data-timer-ring (what
// shortens), data-timer-number, data-timer-unit, data-timer-says (what is said at its end; nothing: it ends silently).

const TICK_MS = 250;
const SECONDS_UNDER_S = 120;
const ALOUD = "olive-aloud";

/** @returns {() => void} stops ticking */
export function startTimers(root) {
  const begun = Date.now();
  const loud = root.querySelector("[data-timer-rings]");
  const timers = [...root.querySelectorAll("[data-timer]")].map((home) => {
    const left = Number(home.dataset.timer);
    return { home, left, rung: left <= 0 || home.dataset.timerSays === "" };
  });
  const title = root.title;
  const quiet = loudly(root);
  const tick = () => {
    const gone = (Date.now() - begun) / 1000;
    for (const timer of timers) {
      const left = Math.max(0, Math.ceil(timer.left - gone));
      showLeft(timer.home, left);
      timer.home.classList.toggle("timer-rings", left === 0);
      if (left === 0 && !timer.rung) {
        timer.rung = true;
        const says = timer.home.dataset.timerSays ?? timer.home.querySelector("span").textContent;
        if (loud) loud.textContent = `Now: ${says}`;
        root.title = `Now: ${says}`;
        ring();
        say(`Now: ${says}`);
      }
    }
    const loudOnes = timers.filter((timer) => timer.home.dataset.timerSays !== "");
    if (loudOnes.length && loudOnes.every((timer) => timer.rung) && root.title === title)
      root.title = `Now · ${title}`;
  };
  const every = timers.length ? setInterval(tick, TICK_MS) : 0;
  return () => {
    clearInterval(every);
    quiet();
    root.title = title;
  };
}

function showLeft(home, left) {
  const shown = home.querySelector("[data-timer-left]");
  if (shown) {
    put(shown, timeLeft(left));
    return;
  }
  const minutes = left >= SECONDS_UNDER_S;
  put(home.querySelector("[data-timer-number]"), String(minutes ? Math.ceil(left / 60) : left));
  put(home.querySelector("[data-timer-unit]"), minutes ? "min" : "s");
  const share = Math.min(100, (100 * left) / Number(home.dataset.timerOf));
  home.querySelector("[data-timer-ring]").setAttribute("stroke-dasharray", `${share.toFixed(1)} 100`);
}

function put(home, text) {
  if (home.textContent !== text) home.textContent = text;
}

/** As the page says it: minutes, and seconds only under two of them. */
export function timeLeft(seconds) {
  if (seconds >= SECONDS_UNDER_S) return `${Math.ceil(seconds / 60)} min`;
  const minutes = seconds >= 60 ? `${Math.floor(seconds / 60)} min` : "";
  const rest = seconds % 60 ? `${seconds % 60} s` : "";
  return `${minutes} ${rest}`.trim() || "now";
}

// The box shows where the browser has a voice; what was ticked holds on this device.
function loudly(root) {
  const box = root.querySelector("[data-timer-aloud]");
  const tick = box?.querySelector("input");
  if (!tick || !window.speechSynthesis) return () => {};
  box.hidden = false;
  tick.checked = remembered();
  const onChange = () => {
    try {
      if (tick.checked) localStorage.setItem(ALOUD, "1");
      else localStorage.removeItem(ALOUD);
    } catch {
      // Nothing to do: it holds for this page.
    }
    if (tick.checked) say("Timers are said aloud.");
    else window.speechSynthesis.cancel();
  };
  tick.addEventListener("change", onChange);
  return () => tick.removeEventListener("change", onChange);
}

function remembered() {
  try {
    return localStorage.getItem(ALOUD) === "1";
  } catch {
    return false;
  }
}

// Several that ring at once are said one after the other.
function say(words) {
  if (remembered() && window.speechSynthesis) window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

// Three short tones. A browser that wants a touch first stays silent; the words show all the same.
function ring() {
  const Sound = window.AudioContext;
  if (!Sound || navigator.userActivation?.hasBeenActive === false) return;
  const sound = new Sound();
  for (const at of [0, 0.35, 0.7]) {
    const tone = sound.createOscillator();
    const loudness = sound.createGain();
    loudness.gain.value = 0.15;
    tone.frequency.value = 740;
    tone.connect(loudness).connect(sound.destination);
    tone.start(sound.currentTime + at);
    tone.stop(sound.currentTime + at + 0.22);
  }
  setTimeout(() => sound.close(), 1500);
}
