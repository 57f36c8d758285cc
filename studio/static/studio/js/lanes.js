// The day in lanes: a line for now, and steps that are moved, by dragging or by keys. What a move costs is said before
// it is kept. Binds by data-lanes (address), data-lane-step, data-lane-start, data-lane-hand, data-lane-moved.

import { place } from "./place.js";

const EVERY_MS = 15000;
const NUDGE_S = 60;
const FAR_S = 300;
const WAIT_MS = 350;
const SLOP_PX = 4;

/** @returns {() => void} stops listening */
export function startLanes(root) {
  const home = root.querySelector("[data-lanes]");
  const form = root.querySelector("[data-day-form]");
  if (!home || !form) return () => {};
  const figure = home.querySelector(".lanes");
  const hand = home.querySelector("[data-lane-hand]");
  const said = home.querySelector("[data-lane-moved]");
  const begun = Date.now();
  let chosen = null; // {step, start, to}
  let drag = null;
  let timer = 0;

  const bars = () => [...figure.querySelectorAll("[data-lane-step]")];
  const barOf = (step) => bars().find((bar) => bar.dataset.laneStep === step);
  const scale = (bar) => Number(bar.closest("svg").dataset.laneSecond);

  const now = () => {
    for (const picture of figure.querySelectorAll("svg")) {
      const at = Number(picture.dataset.laneNow) + (Date.now() - begun) / 1000;
      const wide = picture.viewBox.baseVal.width;
      const x = Number(picture.dataset.laneLeft) + at * Number(picture.dataset.laneSecond);
      const line = picture.querySelector(".lane-now");
      line.setAttribute("visibility", at >= 0 && x <= wide ? "visible" : "hidden");
      line.setAttribute("x1", x);
      line.setAttribute("x2", x);
    }
  };

  // One of the bars can be reached by Tab; the arrows do the rest.
  const reach = () => {
    const all = bars();
    const one = (chosen && barOf(chosen.step)) ?? all[0];
    all.forEach((bar) => {
      bar.setAttribute("tabindex", bar === one ? "0" : "-1");
      bar.classList.toggle("lane-chosen-bar", chosen?.step === bar.dataset.laneStep);
    });
    now();
  };

  const choose = (bar) => {
    if (chosen?.step !== bar.dataset.laneStep) {
      if (chosen && chosen.to !== chosen.start) back(false);
      chosen = { step: bar.dataset.laneStep, start: Number(bar.dataset.laneStart), to: Number(bar.dataset.laneStart) };
    }
    hand.hidden = false;
    hand.querySelector("[data-lane-chosen]").textContent = `${bar.getAttribute("aria-label")}.`;
    reach();
  };

  const ask = async (keep) => {
    clearTimeout(timer);
    const fields = new FormData(form);
    if (chosen && chosen.to !== chosen.start) {
      fields.set("step", chosen.step);
      fields.set("to_s", String(chosen.to));
      if (keep) fields.set("keep", "on");
    }
    const held = root.activeElement?.closest?.("[data-lane-step]") !== null && chosen;
    const answer = await fetch(home.dataset.lanes, {
      method: "POST",
      body: new URLSearchParams(fields),
      headers: { Accept: "application/json" },
    })
      .then((response) => response.json())
      .catch(() => ({ message: "No connection: nothing was moved." }));
    if (answer.kept) return window.location.reload();
    if (answer.message) {
      said.textContent = answer.message;
      return undefined;
    }
    place(root, answer.parts ?? {});
    reach();
    const bar = chosen && barOf(chosen.step);
    if (bar) hand.querySelector("[data-lane-chosen]").textContent = `${bar.getAttribute("aria-label")}.`;
    if (bar && held) bar.focus();
    return undefined;
  };

  const by = (seconds) => {
    if (!chosen) return;
    chosen.to = Math.max(0, Math.round((chosen.to + seconds) / 10) * 10);
    clearTimeout(timer);
    timer = setTimeout(() => ask(false), WAIT_MS);
    const bar = barOf(chosen.step);
    const shown = Number(bar.dataset.laneStart);
    bar.setAttribute("transform", `translate(${(chosen.to - shown) * scale(bar)} 0)`);
  };

  const back = (anew = true) => {
    clearTimeout(timer);
    if (chosen) chosen.to = chosen.start;
    said.replaceChildren();
    if (anew) ask(false);
  };

  const onDown = (event) => {
    const bar = event.target.closest?.("[data-lane-step]");
    if (!bar || event.button > 0) return;
    choose(bar);
    if (event.pointerType === "touch") return; // a finger scrolls; it moves a step by the buttons
    const picture = bar.closest("svg");
    const px = picture.getBoundingClientRect().width / picture.viewBox.baseVal.width;
    drag = { bar, x: event.clientX, from: chosen.to, second: scale(bar) * px, moved: false };
    bar.setPointerCapture?.(event.pointerId);
    event.preventDefault();
    bar.focus();
  };
  const onMove = (event) => {
    if (!drag) return;
    const px = event.clientX - drag.x;
    drag.moved ||= Math.abs(px) > SLOP_PX;
    if (!drag.moved) return;
    chosen.to = Math.max(0, Math.round((drag.from + px / drag.second) / 60) * 60);
    drag.bar.setAttribute(
      "transform",
      `translate(${(chosen.to - Number(drag.bar.dataset.laneStart)) * scale(drag.bar)} 0)`,
    );
  };
  const onUp = () => {
    if (drag?.moved) ask(false);
    drag = null;
  };
  const onKey = (event) => {
    const bar = event.target.closest?.("[data-lane-step]");
    if (!bar || event.ctrlKey || event.altKey || event.metaKey) return;
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const along = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (step) {
      choose(bar);
      by(step * (event.shiftKey ? FAR_S : NUDGE_S));
    } else if (along) {
      const all = bars().sort((a, b) => Number(a.dataset.laneStart) - Number(b.dataset.laneStart));
      all[Math.min(all.length - 1, Math.max(0, all.indexOf(bar) + along))].focus();
    } else if (event.key === "Escape" && chosen) back();
    else if (event.key === "Enter" || event.key === " ") {
      if (chosen && chosen.to !== chosen.start && said.querySelector("[data-lane-keep]")) ask(true);
      else choose(bar);
    } else return;
    event.preventDefault();
  };
  const onFocus = (event) => {
    const bar = event.target.closest?.("[data-lane-step]");
    if (bar) choose(bar);
  };
  const onClick = (event) => {
    const nudge = event.target.closest?.("[data-lane-by]");
    if (nudge) by(Number(nudge.dataset.laneBy));
    else if (event.target.closest?.("[data-lane-keep]")) ask(true);
    else if (event.target.closest?.("[data-lane-back]")) back();
  };
  const onInput = () => {
    chosen = null;
    hand.hidden = true;
    said.replaceChildren();
  };

  const stop = new AbortController();
  const on = (where, what, act) => where.addEventListener(what, act, { signal: stop.signal });
  on(figure, "pointerdown", onDown);
  on(figure, "pointermove", onMove);
  on(root, "pointerup", onUp);
  on(figure, "keydown", onKey);
  on(figure, "focusin", onFocus);
  on(home, "click", onClick);
  on(form, "input", onInput);
  const seen = new MutationObserver(reach); // parts are put in anew by others too
  seen.observe(figure, { childList: true });
  const every = setInterval(now, EVERY_MS);
  reach();
  return () => {
    clearInterval(every);
    clearTimeout(timer);
    seen.disconnect();
    stop.abort();
  };
}
