// The day as a ribbon: which step is now, and steps that are moved, by dragging a knot, by keys or buttons. What a move
// costs is said before it is kept. Binds by data-ribbon (address), data-ribbon-gone, data-knot-row, data-knot-start,
// data-knot-long, data-knot (a step), data-knot-hand, data-knot-chosen, data-knot-by, data-knot-moved.

import { place } from "./place.js";

const EVERY_MS = 15000;
const NUDGE_S = 60;
const FAR_S = 300;
const WAIT_MS = 350;
const SLOP_PX = 4;

/** @returns {() => void} stops listening */
export function startRibbon(root) {
  const home = root.querySelector("[data-ribbon]");
  const form = root.querySelector("[data-day-form]");
  if (!home || !form) return () => {};
  const part = home.querySelector('[data-live-part="ribbon"]');
  const hand = home.querySelector("[data-knot-hand]");
  const said = home.querySelector("[data-knot-moved]");
  const begun = Date.now();
  let chosen = null; // {step, start, to}
  let drag = null;
  let timer = 0;

  const knots = () => [...part.querySelectorAll("[data-knot]")];
  const knotOf = (step) => knots().find((knot) => knot.dataset.knot === step);
  const rowOf = (knot) => knot.closest("[data-knot-row]");
  const startOf = (knot) => Number(rowOf(knot).dataset.knotStart);

  const now = () => {
    const gone = part.querySelector("[data-ribbon-gone]");
    if (!gone) return;
    const at = Number(gone.dataset.ribbonGone) + (Date.now() - begun) / 1000;
    part.querySelectorAll("[data-knot-row]").forEach((row) => {
      const start = Number(row.dataset.knotStart);
      row.classList.toggle("knot-now", start <= at && at < start + Number(row.dataset.knotLong));
    });
  };

  // One of the knots can be reached by Tab; the arrows do the rest.
  const reach = () => {
    const all = knots();
    const one = (chosen && knotOf(chosen.step)) ?? all[0];
    all.forEach((knot) => {
      knot.setAttribute("tabindex", knot === one ? "0" : "-1");
      rowOf(knot).classList.toggle("knot-is-chosen", chosen?.step === knot.dataset.knot);
    });
    now();
  };

  const say = (knot) => {
    const words = rowOf(knot).querySelector(".knot-says").textContent.trim();
    hand.querySelector("[data-knot-chosen]").textContent = `${knot.textContent.trim()}: ${words}`;
  };

  const choose = (knot) => {
    if (chosen?.step !== knot.dataset.knot) {
      if (chosen && chosen.to !== chosen.start) back(false);
      chosen = { step: knot.dataset.knot, start: startOf(knot), to: startOf(knot) };
    }
    hand.hidden = false;
    say(knot);
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
    const held = root.activeElement?.closest?.("[data-knot]") !== null && chosen;
    const answer = await fetch(home.dataset.ribbon, {
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
    const knot = chosen && knotOf(chosen.step);
    if (knot) say(knot);
    if (knot && held) knot.focus({ preventScroll: true });
    return undefined;
  };

  const by = (seconds) => {
    if (!chosen) return;
    chosen.to = Math.max(0, Math.round((chosen.to + seconds) / 10) * 10);
    clearTimeout(timer);
    timer = setTimeout(() => ask(false), WAIT_MS);
  };

  const back = (anew = true) => {
    clearTimeout(timer);
    if (chosen) chosen.to = chosen.start;
    said.replaceChildren();
    if (anew) ask(false);
  };

  // The step at a height of the page: one is dropped where another begins.
  const rowAt = (y) =>
    [...part.querySelectorAll("[data-knot-row]")].find((row) => {
      const box = row.getBoundingClientRect();
      return y >= box.top && y < box.bottom && row !== drag?.row && box.height > 0;
    });

  const onDown = (event) => {
    const knot = event.target.closest?.("[data-knot]");
    if (!knot || event.button > 0) return;
    choose(knot);
    if (event.pointerType === "touch") return; // a finger scrolls; it moves a step by the buttons
    drag = { row: rowOf(knot), y: event.clientY, moved: false };
    knot.setPointerCapture?.(event.pointerId);
    event.preventDefault();
    knot.focus({ preventScroll: true });
  };
  const onMove = (event) => {
    if (!drag) return;
    const px = event.clientY - drag.y;
    drag.moved ||= Math.abs(px) > SLOP_PX;
    if (!drag.moved) return;
    drag.row.querySelector(".knot-words").style.transform = `translateY(${px}px)`;
    part.querySelectorAll(".knot-here").forEach((row) => row.classList.remove("knot-here"));
    rowAt(event.clientY)?.classList.add("knot-here");
  };
  const onUp = (event) => {
    if (drag?.moved) {
      const over = rowAt(event.clientY);
      part.querySelectorAll(".knot-here").forEach((row) => row.classList.remove("knot-here"));
      drag.row.querySelector(".knot-words").style.transform = "";
      if (over) {
        chosen.to = Number(over.dataset.knotStart);
        ask(false);
      }
    }
    drag = null;
  };
  const onKey = (event) => {
    const knot = event.target.closest?.("[data-knot]");
    if (!knot || event.ctrlKey || event.altKey || event.metaKey) return;
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const along = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (step) {
      choose(knot);
      by(step * (event.shiftKey ? FAR_S : NUDGE_S));
    } else if (along) {
      const all = knots();
      all[Math.min(all.length - 1, Math.max(0, all.indexOf(knot) + along))].focus();
    } else if (event.key === "Escape" && chosen) back();
    else if (event.key === "Enter" || event.key === " ") {
      if (chosen && chosen.to !== chosen.start && said.querySelector("[data-knot-keep]")) ask(true);
      else choose(knot);
    } else return;
    event.preventDefault();
  };
  const onFocus = (event) => {
    const knot = event.target.closest?.("[data-knot]");
    if (knot) choose(knot);
  };
  const onClick = (event) => {
    const nudge = event.target.closest?.("[data-knot-by]");
    if (nudge) by(Number(nudge.dataset.knotBy));
    else if (event.target.closest?.("[data-knot-keep]")) ask(true);
    else if (event.target.closest?.("[data-knot-back]")) back();
  };
  const onInput = () => {
    chosen = null;
    hand.hidden = true;
    said.replaceChildren();
  };

  const stop = new AbortController();
  const on = (where, what, act) => where.addEventListener(what, act, { signal: stop.signal });
  on(part, "pointerdown", onDown);
  on(part, "pointermove", onMove);
  on(root, "pointerup", onUp);
  on(part, "keydown", onKey);
  on(part, "focusin", onFocus);
  on(home, "click", onClick);
  on(form, "input", onInput);
  on(root, "placed", (event) => event.target === part && reach()); // parts are put in anew by others too
  const every = setInterval(now, EVERY_MS);
  reach();
  return () => {
    clearInterval(every);
    clearTimeout(timer);
    stop.abort();
  };
}
