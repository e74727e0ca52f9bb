// Tidy: keys for the finding that has the focus. All else is the server's.
import { commands } from "./commands.js";
import { stopHearing } from "./hear.js";
import { keepFocus, step } from "./list-keys.js";

const inHand = () => document.activeElement?.closest(".find") ?? null;

keepFocus(".find");
// What is heard goes with what is drawn anew; the lane and the ring at the top are not it.
document.addEventListener("htmx:beforeSwap", ({ target }) => target.closest("#main") && stopHearing());
commands(
  {
    up: () => step(".find", -1),
    down: () => step(".find", 1),
    stop: () => stopHearing(),
    attempt: ({ key }) => {
      const button = inHand()?.querySelector(`[data-attempt="${key}"]`);
      button?.click();
      return Boolean(button);
    },
  },
  (name) => (name === "undo" || name === "redo" ? document.getElementById("tidy") : inHand()),
);
