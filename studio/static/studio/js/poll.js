// Asks how far something is that takes its time, and puts the parts of the answer in place, until it is over. What the
// maker has typed since stays: then only how far it is, is put in place. Binds by data-poll (address), data-live-part (where
// parts go) and data-poll-own (a part that nobody types for).

import { place } from "./place.js";

const EVERY_MS = 1500;

/** @returns {() => void} stops asking */
export function startPoll(root) {
  const home = root.querySelector("[data-poll]");
  let timer = 0;
  let typed = false;
  const onInput = () => (typed = true);
  const ask = async () => {
    const answer = await fetch(home.dataset.poll, { headers: { Accept: "application/json" } })
      .then((response) => (response.ok ? response.json() : null))
      .catch(() => null); // no connection: ask again
    place(root, answer?.parts ?? {}, (home) => !typed || home.hasAttribute("data-poll-own"));
    if (!answer?.over) timer = setTimeout(ask, EVERY_MS);
  };
  if (home) {
    timer = setTimeout(ask, EVERY_MS);
    root.addEventListener("input", onInput);
  }
  return () => {
    clearTimeout(timer);
    root.removeEventListener("input", onInput);
  };
}
