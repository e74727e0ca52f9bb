// ↑ and ↓ step through the items of a list; the rest acts on the item that has the focus.
export function step(items, direction) {
  const list = [...document.querySelectorAll(items)];
  if (list.length === 0) {
    return false;
  }
  const at = list.indexOf(document.activeElement?.closest(items));
  list[at < 0 ? (direction > 0 ? 0 : list.length - 1) : Math.min(Math.max(0, at + direction), list.length - 1)].focus();
  return true;
}

// After a swap the focus goes back to where the person was: the same item, else the one that took its place.
export function keepFocus(items) {
  let id = null,
    at = 0;
  document.addEventListener("htmx:beforeSwap", () => {
    const item = document.activeElement?.closest(items);
    if (item) {
      id = item.id;
      at = [...document.querySelectorAll(items)].indexOf(item);
    }
  });
  document.addEventListener("htmx:afterSettle", () => {
    // Where another answer comes between a swap and its settling, the focus is nowhere, and what was remembered still holds.
    if (id !== null && document.activeElement === document.body) {
      const list = document.querySelectorAll(items);
      (document.getElementById(id) ?? list[Math.min(at, list.length - 1)])?.focus();
    }
    id = null;
  });
}
