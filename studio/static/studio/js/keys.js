// One-letter keys: "?" opens the list of those that work on this page; a letter presses what carries it.
// Binds by data-key (the key), data-key-name (what to call it), data-keys (the list), data-keys-open (its button).
// They can be switched off on this device, and never act while something is typed.

const OFF = "one-letter-keys-off";
const TYPED =
  "input:not([type=radio], [type=checkbox], [type=button], [type=submit]), textarea, select, [contenteditable]";

/** @returns {() => void} stops listening */
export function startKeys(root) {
  const list = root.querySelector("[data-keys]");
  const opener = root.querySelector("[data-keys-open]");
  if (!list || !opener) return () => {};
  const on = list.querySelector("[data-keys-on]");
  on.checked = !remembered();
  opener.hidden = false;

  const open = () => {
    fill(root, list.querySelector("[data-keys-list]"));
    if (!list.open) list.showModal();
  };
  const onKey = (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey || event.repeat || list.open || !on.checked) return;
    if (event.target.closest?.(TYPED)) return;
    if (event.key === "?") open();
    else {
      const target = seen(root).find((part) => part.dataset.key === event.key.toLowerCase());
      if (!target) return;
      target.focus();
      target.click();
    }
    event.preventDefault();
  };
  const onSwitch = () => remember(!on.checked);
  opener.addEventListener("click", open);
  root.addEventListener("keydown", onKey);
  on.addEventListener("change", onSwitch);
  return () => {
    opener.removeEventListener("click", open);
    root.removeEventListener("keydown", onKey);
    on.removeEventListener("change", onSwitch);
    opener.hidden = true;
  };
}

const seen = (root) => [...root.querySelectorAll("[data-key]")].filter((part) => part.getClientRects().length);

function fill(root, home) {
  const rows = [
    ["?", "This list"],
    ...seen(root).map((part) => [part.dataset.key, part.dataset.keyName || part.innerText]),
  ];
  home.replaceChildren(
    ...rows.map(([key, name]) => {
      const row = document.createElement("div");
      const [term, what] = [document.createElement("dt"), document.createElement("dd")];
      const cap = document.createElement("kbd");
      cap.textContent = key.toUpperCase();
      term.append(cap);
      what.textContent = name.trim();
      row.append(term, what);
      return row;
    }),
  );
}

// Private windows may keep nothing: the keys then work until told otherwise.
function remembered() {
  try {
    return localStorage.getItem(OFF) === "1";
  } catch {
    return false;
  }
}

function remember(off) {
  try {
    if (off) localStorage.setItem(OFF, "1");
    else localStorage.removeItem(OFF);
  } catch {
    // Nothing to do: it holds for this page.
  }
}
