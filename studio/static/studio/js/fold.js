// On a phone a heading with data-fold opens and closes what follows it. Before this runs its style keeps it closed. What
// is put in place later folds as well, and what was opened stays open.

/** @returns {() => void} stops listening */
export function startFolds(root) {
  if (!matchMedia("(max-width: 600px)").matches) return () => {};
  const open = new Map(); // by what a heading is called in data-fold
  const fold = (within) => {
    within.querySelectorAll("[data-fold]").forEach((head) => {
      const name = head.dataset.fold;
      if (name && open.has(name)) head.classList.toggle("fold-open", open.get(name));
      const button = document.createElement("button");
      button.type = "button";
      button.className = "fold-button";
      button.append(...head.childNodes);
      button.setAttribute("aria-expanded", String(head.classList.contains("fold-open")));
      button.addEventListener("click", () => {
        const now = head.classList.toggle("fold-open");
        if (name) open.set(name, now);
        button.setAttribute("aria-expanded", String(now));
      });
      head.append(button);
    });
  };
  const row = root.querySelector(".job-nav");
  const here = row?.querySelector("[aria-current]"); // in a row that slides, the room one is in
  if (here) row.scrollLeft = here.offsetLeft - row.clientWidth / 2 + here.offsetWidth / 2;
  const onPlaced = (event) => fold(event.target);
  fold(root);
  root.addEventListener("placed", onPlaced);
  return () => root.removeEventListener("placed", onPlaced);
}
