// Undo and redo by key, for pages that have nothing else to press.
import { onKey } from "./keys.js";

onKey((event) => {
  if (event.key.toLowerCase() !== "u") { return false; }
  document.querySelector(`main [data-action="${event.shiftKey ? "redo" : "undo"}"]:not(:disabled)`)?.click();
  return true;
});
