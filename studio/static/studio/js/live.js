// Sends a form's fields while they change and puts the rendered parts of the answer in place.
// Binds by data-live (address), data-live-part (where parts go), data-live-message, data-address.

import { place } from "./place.js";

const WAIT_MS = 60;
const LONGEST_MS = 20000;
const WRONG = "-wrong";

/** @returns {() => void} stops all of it */
export function startLive(root) {
  const stops = [...root.querySelectorAll("form[data-live]")].map((form) => bind(root, form));
  return () => stops.forEach((stop) => stop());
}

function bind(root, form) {
  let number = 0;
  let shown = 0;
  let timer = 0;
  let flying = false;
  let changed = false;

  // One question is under way at most; what is typed meanwhile is asked once it is answered, and only as it is then.
  const send = async () => {
    changed = flying;
    if (flying) return;
    flying = true;
    await ask();
    flying = false;
    if (changed) send();
  };

  const ask = async () => {
    const request = (number += 1);
    const fields = fieldsOf(form);
    let response;
    try {
      response = await post(form, form.dataset.live, { request, fields });
    } catch {
      say("No connection: this is the last answer. What you typed stays.");
      return;
    }
    const answer = await response.json().catch(() => ({ message: "That was not understood. Load the page again." }));
    if (request < shown) return;
    shown = request;
    if (response.ok && answer.parts) {
      mark({});
      say("");
      place(root, answer.parts);
      remember(form, fields);
      behind(request, fields);
    } else if (response.status !== 429) {
      mark(answer.errors ?? {});
      say(answer.message ?? "");
    }
  };

  // What takes longer is asked for once the drawing stands, and dropped when that has changed meanwhile.
  const behind = async (request, fields) => {
    if (!form.dataset.liveCheck) return;
    const response = await post(form, form.dataset.liveCheck, { request, fields }).catch(() => null);
    const answer = await response?.json().catch(() => null);
    if (request === number && response?.ok && answer?.parts) place(root, answer.parts);
  };

  const say = (text) => {
    const line = root.querySelector("[data-live-message]");
    if (line) {
      line.textContent = text;
      line.hidden = text === "";
    }
  };

  // Marks fields with what is wrong, beside the field, and takes old marks away.
  const mark = (errors) => {
    form.querySelectorAll("[data-live-error]").forEach((note) => note.remove());
    form.querySelectorAll("[aria-invalid]").forEach((field) => {
      field.removeAttribute("aria-invalid");
      describe(field, (ids) => ids.filter((id) => !id.endsWith(WRONG)));
    });
    for (const [name, list] of Object.entries(errors)) {
      const field = form.elements[name];
      const home = (field instanceof Element ? field : field?.[0])?.closest(".field, .add, .tap");
      if (!home) continue;
      const note = document.createElement("p");
      if (field instanceof Element) {
        note.id = `${field.id}${WRONG}`;
        field.setAttribute("aria-invalid", "true");
        describe(field, (ids) => [...ids, note.id]);
      }
      note.className = "errorlist";
      note.dataset.liveError = "";
      note.textContent = list.map((error) => error.message).join(" ");
      home.append(note);
    }
  };

  const onInput = () => {
    clearTimeout(timer);
    timer = setTimeout(send, WAIT_MS);
  };
  form.addEventListener("input", onInput);
  behind(number, fieldsOf(form));
  return () => {
    clearTimeout(timer);
    form.removeEventListener("input", onInput);
  };
}

const fieldsOf = (form) =>
  Object.fromEntries([...new FormData(form)].filter(([name]) => name !== "csrfmiddlewaretoken"));

const post = (form, address, sent) =>
  fetch(address, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-CSRFToken": form.elements.csrfmiddlewaretoken.value },
    body: JSON.stringify(sent),
    signal: AbortSignal.timeout(LONGEST_MS),
  });

// A field is described by its hint and by what is wrong with it.
function describe(field, change) {
  const ids = change((field.getAttribute("aria-describedby") ?? "").split(" ").filter(Boolean));
  if (ids.length) field.setAttribute("aria-describedby", ids.join(" "));
  else field.removeAttribute("aria-describedby");
}

// The quick card keeps its choices in the address, so that it can be reloaded and passed on.
function remember(form, fields) {
  if (form.dataset.address) history.replaceState(null, "", `${form.dataset.address}?${new URLSearchParams(fields)}`);
}
