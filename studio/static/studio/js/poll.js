// Asks how far something is that takes its time, and puts the parts of the answer in place, until it is over.
// Binds by data-poll (address) and data-live-part (where parts go).

const EVERY_MS = 1500;

/** @returns {() => void} stops asking */
export function startPoll(root) {
  const home = root.querySelector("[data-poll]");
  let timer = 0;
  const ask = async () => {
    const answer = await fetch(home.dataset.poll, { headers: { Accept: "application/json" } })
      .then((response) => (response.ok ? response.json() : null))
      .catch(() => null); // no connection: ask again
    for (const [role, html] of Object.entries(answer?.parts ?? {})) {
      const part = root.querySelector(`[data-live-part="${role}"]`);
      if (part && part.innerHTML !== html) part.innerHTML = html;
    }
    if (!answer?.over) timer = setTimeout(ask, EVERY_MS);
  };
  if (home) timer = setTimeout(ask, EVERY_MS);
  return () => clearTimeout(timer);
}
