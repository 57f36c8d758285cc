// A button that prints the page; it shows only where scripts run. Binds by data-print.

/** @returns {() => void} hides the buttons again */
export function startPaper(root) {
  const buttons = [...root.querySelectorAll("[data-print]")];
  const print = () => window.print();
  for (const button of buttons) {
    button.hidden = false;
    button.addEventListener("click", print);
  }
  return () => {
    for (const button of buttons) {
      button.hidden = true;
      button.removeEventListener("click", print);
    }
  };
}
