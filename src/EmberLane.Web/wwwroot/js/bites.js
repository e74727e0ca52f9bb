import { onKey, press, say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";

const sound = document.getElementById("sound");
// What is still to be heard of the bite: its parts, seconds in and out.
let pieces = [];

function hear(bite) {
  if (!bite?.dataset.address) {
    say("The sound for playing is still being made.");
    return;
  }
  const again = bite.classList.contains("sounding") && !sound.paused;
  stop();
  if (again) {
    return;
  }
  pieces = bite.dataset.pieces
    .split(" ")
    .filter(Boolean)
    .map((piece) => piece.split(",").map(Number));
  if (pieces.length === 0) {
    say("All of its words are set aside. Bring them back in Read to hear them.");
    return;
  }
  const begin = () => {
    [sound.currentTime] = pieces[0];
    sound.play().then(
      () => bite.classList.add("sounding"),
      () => say("The sound could not be played."),
    );
  };
  if (!sound.src.endsWith(bite.dataset.address)) {
    sound.src = bite.dataset.address;
  }
  if (sound.readyState >= 1) {
    begin();
  } else {
    sound.addEventListener("loadedmetadata", begin, { once: true });
    sound.load();
  }
}

function stop() {
  sound.pause();
  document.querySelectorAll(".bite.sounding").forEach((bite) => bite.classList.remove("sounding"));
}

(function watch() {
  if (!sound.paused && !sound.seeking && pieces.length > 0 && sound.currentTime >= pieces[0][1]) {
    pieces.shift();
    if (pieces.length > 0) {
      [sound.currentTime] = pieces[0];
    } else {
      stop();
    }
  }
  requestAnimationFrame(watch);
})();

function describe(bite) {
  const form = bite?.querySelector(".describe");
  if (form) {
    form.open = true;
    form.querySelector("input[name=theme]").select();
  }
  return Boolean(form);
}

function pressIn(bite, key) {
  const button = bite?.querySelector(`[data-key="${key}"]`);
  button?.click();
  return Boolean(button);
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
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-action=hear]")) {
    hear(event.target.closest(".bite"));
  }
});
onKey((event) => {
  const bite = document.activeElement?.closest(".bite");
  switch (event.key) {
    case "ArrowDown":
      return step(".bite", 1);
    case "ArrowUp":
      return step(".bite", -1);
    case "Enter":
    case " ":
      if (bite) {
        hear(bite);
      }
      return bite !== null;
    case "Escape":
      stop();
      return true;
    default:
  }
  switch (event.key.toLowerCase()) {
    case "t":
      return describe(bite);
    case "u":
      return press(() => document.querySelector(`#bites [data-action="${event.shiftKey ? "redo" : "undo"}"]`));
    case "s":
      if (bite?.dataset.laid && !event.shiftKey) {
        say("It is in the story already. Shift S lays it once more.");
        return true;
      }
      return pressIn(bite, event.shiftKey && bite?.dataset.laid ? "shift+s" : "s");
    default:
      return pressIn(bite, event.key.toLowerCase());
  }
});
