// Time zones: fills the list from what the browser knows, and says where the maker is when signing up.
// Binds by data-zones and data-zone-here.

/** @returns {() => void} empties the lists again */
export function startZones(root) {
  for (const field of root.querySelectorAll("[data-zone-here]")) {
    field.value ||= Intl.DateTimeFormat().resolvedOptions().timeZone ?? "";
  }
  const lists = [...root.querySelectorAll("[data-zones]")];
  for (const list of lists) {
    for (const zone of Intl.supportedValuesOf?.("timeZone") ?? []) list.append(new Option(zone, zone));
  }
  return () => lists.forEach((list) => list.replaceChildren());
}
