// Fills the list of time zones from what the browser knows. Binds by data-zones.

/** @returns {() => void} empties the lists again */
export function startZones(root) {
  const lists = [...root.querySelectorAll("[data-zones]")];
  for (const list of lists) {
    for (const zone of Intl.supportedValuesOf?.("timeZone") ?? []) list.append(new Option(zone, zone));
  }
  return () => lists.forEach((list) => list.replaceChildren());
}
