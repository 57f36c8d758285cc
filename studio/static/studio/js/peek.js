// On a phone the answer and the picture stay in sight while the fields beneath them change: small, in a strip at the top,
// once they are scrolled away. Binds by data-peek (what holds both), with the answer as role "answer" or data-live-part,
// and the first picture in a data-peek-picture or a figure.

const LONGEST = 120;

/** @returns {() => void} takes the strip away */
export function startPeek(root) {
  const home = root.querySelector("[data-peek]");
  if (!home || !matchMedia("(max-width: 600px)").matches || !window.IntersectionObserver) return () => {};
  const strip = document.createElement("button");
  strip.type = "button";
  strip.className = "peek";
  strip.hidden = true;
  strip.setAttribute("aria-hidden", "true"); // the answer itself is read out
  strip.tabIndex = -1;
  document.body.append(strip);

  const fill = () => {
    const answer = home.querySelector("[data-live-part='answer'], .answer");
    const words = (answer?.querySelector("p") ?? answer)?.textContent.replace(/\s+/g, " ").trim() ?? "";
    const text = document.createElement("span");
    text.textContent = words.length > LONGEST ? `${words.slice(0, LONGEST).replace(/\s\S*$/, "")} …` : words;
    const picture = home.querySelector("[data-peek-picture] svg, figure svg, .build-picture svg");
    strip.replaceChildren(...(picture ? [picture.cloneNode(true)] : []), text);
  };
  const watch = new IntersectionObserver(([seen]) => {
    const away = !seen.isIntersecting && seen.boundingClientRect.bottom < 60;
    if (away) fill();
    strip.hidden = !away;
  });
  const onPlaced = () => !strip.hidden && fill();
  const onClick = () => home.scrollIntoView({ block: "start" });
  watch.observe(home.querySelector("figure, .card-picture") ?? home);
  root.addEventListener("placed", onPlaced);
  strip.addEventListener("click", onClick);
  return () => {
    watch.disconnect();
    root.removeEventListener("placed", onPlaced);
    strip.remove();
  };
}
