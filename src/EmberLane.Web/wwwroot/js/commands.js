// What can be done in this place, by key or by button, from the one table that the page brings along.
import { onKey, press } from "./keys.js";

const table = JSON.parse(document.getElementById("keys").dataset.commands);

// The command of a key. A letter with Shift that has none of its own does what the letter does.
function commandOf({ key, shiftKey }) {
  const name = key === " " ? "Space" : key.length === 1 ? key.toUpperCase() : key;
  const is = (wanted) => table.find(({ keys }) => keys.some((own) => own === wanted || (own === "1–9" && /^[1-9]$/.test(wanted))));
  return (shiftKey && is(`Shift+${name}`)) || is(name);
}

// Runs the page's commands by their names. A handler gets the key, whether Shift was held and the button, and answers false where there is
// nothing to do. What has no handler presses the button of its name within what `within` gives.
export function commands(handlers, within = () => null) {
  onKey((event) => {
    const command = commandOf(event);
    if (!command) {
      return false;
    }
    const handle = handlers[command.name];
    if (handle) {
      return handle({ key: event.key, shift: event.shiftKey, button: null, event }) !== false;
    }
    const place = within(command.name);
    return Boolean(place) && press(() => place.querySelector(`[data-action="${command.name}"]:not(:disabled)`));
  });
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-action]");
    // What the button itself sends is no command of the page's.
    if (button && !button.matches("[hx-get], [hx-post], form button:not([type=button])")) {
      handlers[button.dataset.action]?.({ key: null, shift: event.shiftKey, button, event });
    }
  });
}
