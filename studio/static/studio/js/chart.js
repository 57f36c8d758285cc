// The chart of colours is one stop for Tab; arrows go from colour to colour. Binds by data-chart.

const ARROWS = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] };

/** @returns {() => void} stops listening */
export function startChart(root) {
  const chart = root.querySelector("[data-chart]");
  if (!chart) return () => {};
  const rows = [...chart.rows].map((row) => [...row.cells].map((cell) => cell.querySelector("a")));
  const all = rows.flat().filter(Boolean);
  all.forEach((link, index) => (link.tabIndex = index === Math.floor(all.length / 2) ? 0 : -1));

  const onKey = (event) => {
    const way = ARROWS[event.key];
    const here = event.target.closest("a");
    if (!way || !here) return;
    event.preventDefault();
    let row = here.closest("tr").rowIndex;
    let column = here.closest("td").cellIndex;
    do {
      row += way[0];
      column += way[1];
    } while (rows[row]?.[column] === null);
    const next = rows[row]?.[column];
    if (!next) return;
    all.forEach((link) => (link.tabIndex = -1));
    next.tabIndex = 0;
    next.focus();
  };
  chart.addEventListener("keydown", onKey);
  return () => chart.removeEventListener("keydown", onKey);
}
