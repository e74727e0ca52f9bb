// Keys act anywhere but in a field, a dialog or with a modifier that the browser or the system uses.
export function onKey(handle) {
  document.addEventListener("keydown", (event) => {
    const target = event.target;
    if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing || target.closest("input, textarea, select, dialog, [contenteditable]")) {
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

export function clockText(seconds) {
  const tenths = Math.max(0, Math.round(seconds * 10));
  const hours = Math.floor(tenths / 36000), minutes = Math.floor(tenths / 600) % 60, small = tenths % 600;
  const tail = `${String(Math.floor(small / 10)).padStart(2, "0")}.${small % 10}`;
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, "0")}:${tail}` : `${minutes}:${tail}`;
}

export function say(text) {
  const notice = document.getElementById("notice");
  notice.textContent = text;
  notice.hidden = false;
  clearTimeout(say.timer);
  say.timer = setTimeout(() => { notice.hidden = true; }, 8000);
}
