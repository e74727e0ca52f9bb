// Undo and redo by key, for pages that have nothing else to press.
import { onKey, press } from "./keys.js";

onKey(
  (event) =>
    event.key.toLowerCase() === "u" &&
    press(() => document.querySelector(`main [data-action="${event.shiftKey ? "redo" : "undo"}"]:not(:disabled)`)),
);
