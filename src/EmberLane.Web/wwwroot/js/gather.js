// The sources of a sitting by keyboard: ↑ and ↓ step through them, Enter opens the check of one.
import { onKey } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";

keepFocus(".sources tbody tr");
onKey((event) => {
  const row = document.activeElement?.closest(".sources tbody tr");
  switch (event.key) {
    case "ArrowDown":
      return step(".sources tbody tr", 1);
    case "ArrowUp":
      return step(".sources tbody tr", -1);
    case "Enter":
      row?.querySelector("a")?.click();
      return Boolean(row);
    default:
      return false;
  }
});
