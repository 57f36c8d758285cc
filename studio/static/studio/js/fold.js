// On a phone a heading with data-fold opens and closes what follows it. Before this runs its style keeps it closed.

export function startFolds(root) {
  if (!matchMedia("(max-width: 600px)").matches) return;
  root.querySelectorAll("[data-fold]").forEach((head) => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "fold-button";
    button.append(...head.childNodes);
    button.setAttribute("aria-expanded", "false");
    button.addEventListener("click", () => {
      button.setAttribute("aria-expanded", String(head.classList.toggle("fold-open")));
    });
    head.append(button);
  });
}
