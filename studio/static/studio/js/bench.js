// At the bench a button counts even without a connection: it is kept here and sent, once, when there is one again. The
// page itself is kept too, by a worker, so that it opens without a connection. A knock on the space bar, a page-turner
// and the arrow keys press its buttons.
// Binds by data-bench (address), data-bench-form, data-bench-main, data-bench-step, data-bench-now, data-bench-list,
// data-bench-note, data-bench-one, data-bench-done, data-bench-undo, data-bench-knock, data-bench-worker.

const KEPT = "olive-bench";
const AGAIN_MS = 3000;
const ON = [" ", "PageDown", "ArrowRight"]; // a knock; a page-turner; the arrow
const BACK = ["PageUp", "ArrowLeft"];
const CONTROLS = "a, button, input, select, textarea, summary, [contenteditable]";

/** @returns {() => void} stops sending */
export function startBench(root) {
  const home = root.querySelector("[data-bench]");
  const form = root.querySelector("[data-bench-main]");
  const forms = [...root.querySelectorAll("[data-bench-form]")];
  if (!home) return () => {};
  const address = home.dataset.bench;
  const note = root.querySelector("[data-bench-note]");
  let timer = 0;
  let lost = false;

  const queue = () => JSON.parse(localStorage.getItem(KEPT) || "[]");
  const keep = (all) => localStorage.setItem(KEPT, JSON.stringify(all));
  const say = (text) => {
    if (!note) return;
    note.textContent = text;
    note.hidden = text === "";
  };

  // Sends what is kept, the oldest first; what the server took is forgotten here.
  const send = async () => {
    clearTimeout(timer);
    for (let all = queue(); all.length; all = queue()) {
      const token = root.querySelector("[name=csrfmiddlewaretoken]").value;
      const ago = Math.max(0, (Date.now() - (all[0].tapped ?? Date.now())) / 1000);
      const body = new URLSearchParams({ ...all[0].fields, ago_s: ago, csrfmiddlewaretoken: token });
      const answer = await fetch(all[0].address, {
        method: "POST",
        body,
        headers: { Accept: "application/json" },
      }).catch(() => null);
      // Only what the server took, or refused for good, is let go: not what met a log-in page.
      const settled = answer && !answer.redirected && (answer.ok || answer.status === 422 || answer.status === 404);
      if (!settled) {
        lost = true;
        const why =
          answer?.redirected || answer?.status === 403
            ? "You were logged out: log in again and come back"
            : "No connection";
        say(`${why}: ${all.length === 1 ? "one answer is" : `${all.length} answers are`} kept here and sent later.`);
        timer = setTimeout(send, AGAIN_MS);
        return;
      }
      keep(queue().filter((one) => one.fields.key !== all[0].fields.key));
    }
    if (lost || forms.length) window.location.reload();
  };

  // "One more" is there for what goes piece by piece; the last piece ends the step.
  const part = (name) => root.querySelector(`[data-bench-now] [data-bench-${name}]`);
  const counted = () => {
    root.querySelector("[data-bench-one]").hidden = !part("of");
    root.querySelector("[data-bench-done]").textContent = part("of") ? "All done" : "Done";
  };
  const oneMore = () => {
    const shown = part("ones");
    if (!shown) return;
    shown.textContent = Number(shown.textContent) + 1;
    if (Number(shown.textContent) >= Number(part("of").textContent)) advance();
  };

  // Without a connection the next step moves up by itself.
  const advance = () => {
    const next = root.querySelector("[data-bench-list] li");
    if (!next) return;
    root.querySelector("[data-bench-now]").innerHTML = next.innerHTML.replace("bench-small", "bench-big");
    root.querySelector("[data-bench-step]").value = next.dataset.step;
    next.remove();
    counted();
    root.querySelector("[data-bench-list] li[hidden]")?.removeAttribute("hidden");
  };

  // Hands are sticky: the screen stays on, where the browser lets it.
  const awake = () => document.visibilityState === "visible" && navigator.wakeLock?.request("screen").catch(() => null);

  // What was tapped before this page was opened without a connection is shown as done.
  const catchUp = () => {
    for (const { fields } of queue()) {
      if (fields.step !== root.querySelector("[data-bench-step]")?.value) continue;
      if (fields.kind === "done") advance();
      if (fields.kind === "one") oneMore();
    }
  };

  const onKey = (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey || event.repeat) return;
    if (event.target.closest?.(CONTROLS)) return;
    const [one, done] = ["one", "done"].map((name) => root.querySelector(`[data-bench-${name}]`));
    const on = one && !one.hidden ? one : done;
    const pressed = ON.includes(event.key) ? on : BACK.includes(event.key) && root.querySelector("[data-bench-undo]");
    if (!pressed) return;
    event.preventDefault();
    pressed.click();
  };

  const onSubmit = (event) => {
    event.preventDefault();
    const sent = event.currentTarget;
    const fields = Object.fromEntries(
      [...new FormData(sent, event.submitter)].filter(([name]) => name !== "csrfmiddlewaretoken"),
    );
    keep([...queue(), { address, fields, tapped: Date.now() }]);
    sent.elements.key.value = crypto.randomUUID();
    if (sent !== form) sent.closest("li").hidden = true;
    else if (fields.kind === "done") advance();
    if (fields.kind === "one") oneMore();
    send();
  };
  forms.forEach((one) => one.addEventListener("submit", onSubmit));
  if (form) {
    awake();
    document.addEventListener("visibilitychange", awake);
    root.addEventListener("keydown", onKey);
    root.querySelector("[data-bench-knock]")?.removeAttribute("hidden");
    catchUp();
  }
  if (queue().length) send();
  return () => {
    clearTimeout(timer);
    forms.forEach((one) => one.removeEventListener("submit", onSubmit));
    document.removeEventListener("visibilitychange", awake);
    root.removeEventListener("keydown", onKey);
  };
}
