// Photos go off one by one as soon as they are chosen, and it is said how many have. Binds by data-photos (address) on
// what holds the file input, data-photos-says (where that is said), data-photos-send (a button nobody needs then) and
// data-photos-stay (the page is not loaded anew afterwards).

/** @returns {() => void} stops listening */
export function startPhotos(root) {
  const homes = [...root.querySelectorAll("[data-photos]")];
  const stops = homes.map((home) => {
    const input = home.querySelector("input[type=file]");
    const says = home.querySelector("[data-photos-says]");
    const button = home.querySelector("[data-photos-send]");
    if (button) button.hidden = true;
    const onChange = async () => {
      const files = [...input.files];
      const token = home.closest("form").elements.csrfmiddlewaretoken.value;
      const refusals = [];
      for (const [i, file] of files.entries()) {
        says.textContent = `Sending ${i + 1} of ${files.length}`;
        const refusal = await sent(home.dataset.photos, token, file);
        if (refusal) refusals.push(refusal);
      }
      input.value = "";
      const kept = files.length - refusals.length;
      says.textContent = refusals.length ? refusals.join(" ") : `${kept} ${kept === 1 ? "photo" : "photos"} kept`;
      if (kept && !refusals.length && !home.hasAttribute("data-photos-stay")) window.location.reload();
    };
    input.addEventListener("change", onChange);
    return () => input.removeEventListener("change", onChange);
  });
  return () => stops.forEach((stop) => stop());
}

// What is said of a photo that was not kept; "" of one that was.
async function sent(address, token, file) {
  const body = new FormData();
  body.append("csrfmiddlewaretoken", token);
  body.append("photos", file);
  const answer = await fetch(address, { method: "POST", body, headers: { Accept: "application/json" } }).catch(() => null);
  if (answer?.ok) return "";
  const said = await answer?.json().catch(() => null);
  return said?.message || `${file.name} was not sent: try it again.`;
}
