import { commands } from "./commands.js";
import { say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { RangePlayer } from "./range-player.js";

const unmark = () => document.querySelectorAll(".bite.sounding").forEach((bite) => bite.classList.remove("sounding"));
const player = new RangePlayer([{ sound: document.getElementById("sound") }], {
  onSilent: () => {
    player.stop();
    say("The sound could not be played.");
  },
  onEnd: unmark,
});

// The parts of the bite that are in use; pressed again it stops.
function hear(bite) {
  const { address, pieces } = bite.dataset;
  if (!address) {
    say("The sound for playing is still being made.");
    return;
  }
  const again = bite.classList.contains("sounding") && player.playing;
  player.stop();
  if (again) {
    return;
  }
  const parts = pieces
    .split(" ")
    .filter(Boolean)
    .map((piece) => piece.split(",").map(Number))
    .map(([from, to]) => ({ length: to - from, sound: { address, at: from } }));
  if (parts.length === 0) {
    say("All of its words are set aside. Bring them back in Read to hear them.");
    return;
  }
  bite.classList.add("sounding");
  player.play(parts);
}

function describe(bite) {
  const form = bite?.querySelector(".describe");
  if (form) {
    form.open = true;
    form.querySelector("input[name=theme]").select();
  }
  return Boolean(form);
}

keepFocus(".bite");
// Escape leaves the fields of theme and note and goes back to the row.
document.addEventListener("keydown", (event) => {
  const form = event.key === "Escape" && event.target.closest?.(".describe");
  if (form) {
    form.open = false;
    form.closest(".bite").focus();
  }
});
const inHand = () => document.activeElement?.closest(".bite") ?? null;

function layIn(bite, again) {
  const button = bite?.querySelector(`[data-action="${again ? "lay-again" : "lay"}"]`);
  button?.click();
  return Boolean(button);
}

commands(
  {
    up: () => step(".bite", -1),
    down: () => step(".bite", 1),
    hear: ({ button }) => {
      const bite = button?.closest(".bite") ?? inHand();
      if (bite) {
        hear(bite);
      }
      return bite !== null;
    },
    stop: () => player.stop(),
    describe: () => describe(inHand()),
    lay: () => {
      const bite = inHand();
      if (bite?.dataset.laid) {
        say("It is in the story already. Shift S lays it once more.");
        return true;
      }
      return layIn(bite, false);
    },
    "lay-again": () => layIn(inHand(), Boolean(inHand()?.dataset.laid)),
  },
  (name) => (name === "undo" || name === "redo" ? document.getElementById("bites") : name === "aside" ? inHand() : null),
);
