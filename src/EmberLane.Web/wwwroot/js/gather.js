// The sources of a sitting by keyboard: step through them, open the check of one.
import { commands } from "./commands.js";
import { keepFocus, step } from "./list-keys.js";

const rows = ".sources tbody tr";

keepFocus(rows);
commands({
  up: () => step(rows, -1),
  down: () => step(rows, 1),
  check: () => {
    const row = document.activeElement?.closest(rows);
    row?.querySelector("a")?.click();
    return Boolean(row);
  },
});
