// The browser's usual keys for undo and redo act as U and Shift U do.
document.addEventListener("keydown", (event) => {
  const key = event.key.toLowerCase();
  if (
    !(event.ctrlKey || event.metaKey) ||
    event.altKey ||
    (key !== "z" && key !== "y") ||
    event.target.closest("input, textarea, select, dialog, [contenteditable]")
  ) {
    return;
  }
  event.preventDefault();
  event.target.dispatchEvent(new KeyboardEvent("keydown", { key: "u", shiftKey: key === "y" || event.shiftKey, bubbles: true }));
});

// Keys act anywhere but in a field, a dialog or with a modifier that the browser or the system uses.
export function onKey(handle) {
  document.addEventListener("keydown", (event) => {
    const target = event.target;
    // A box that is ticked is no field: letters act while it has the focus. Its own key ticks it.
    const box = target.matches?.("input[type=checkbox], input[type=radio]");
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      event.isComposing ||
      target.closest(box ? "dialog" : "input, textarea, select, dialog, [contenteditable]") ||
      (box && event.key === " ")
    ) {
      return;
    }
    // Space and Enter press what has the focus, as everywhere.
    if ((event.key === " " || event.key === "Enter") && target.closest("button, a, summary")) {
      return;
    }
    if (handle(event)) {
      event.preventDefault();
    }
  });
}

// Clicks what is found. What was drawn anew can not be pressed for a moment; a key that comes meanwhile is not lost.
export function press(find) {
  const click = () => find()?.click();
  if (document.querySelector(".htmx-added, .htmx-settling")) {
    document.addEventListener("htmx:afterSettle", click, { once: true });
  } else {
    click();
  }
  return true;
}

export function clockText(seconds) {
  const tenths = Math.max(0, Math.round(seconds * 10));
  const hours = Math.floor(tenths / 36000),
    minutes = Math.floor(tenths / 600) % 60,
    small = tenths % 600;
  const tail = `${String(Math.floor(small / 10)).padStart(2, "0")}.${small % 10}`;
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, "0")}:${tail}` : `${minutes}:${tail}`;
}

export function say(text) {
  const notice = document.getElementById("notice");
  notice.textContent = text;
  notice.hidden = false;
  clearTimeout(say.timer);
  say.timer = setTimeout(() => {
    notice.hidden = true;
  }, 8000);
}
