// Undo and redo by key, for pages that have nothing else to press.
import { commands } from "./commands.js";

commands({}, (name) => (name === "undo" || name === "redo" ? document.querySelector("main") : null));
