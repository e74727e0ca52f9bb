import { onKey, say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";

const sound = document.getElementById("sound");
let until = Infinity;

function hear(bite) {
  if (!bite?.dataset.address) { say("The sound for playing is still being made."); return; }
  const again = bite.classList.contains("sounding") && !sound.paused;
  stop();
  if (again) { return; }
  until = Number(bite.dataset.out);
  const begin = () => {
    sound.currentTime = Number(bite.dataset.in);
    sound.play().then(() => bite.classList.add("sounding"), () => say("The sound could not be played."));
  };
  if (!sound.src.endsWith(bite.dataset.address)) { sound.src = bite.dataset.address; }
  if (sound.readyState >= 1) { begin(); } else { sound.addEventListener("loadedmetadata", begin, { once: true }); sound.load(); }
}

function stop() {
  sound.pause();
  document.querySelectorAll(".bite.sounding").forEach((bite) => bite.classList.remove("sounding"));
}

(function watch() {
  if (!sound.paused && sound.currentTime >= until) { stop(); }
  requestAnimationFrame(watch);
}());

keepFocus(".bite");
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-action=hear]")) { hear(event.target.closest(".bite")); }
});
onKey((event) => {
  const bite = document.activeElement?.closest(".bite");
  switch (event.key) {
    case "ArrowDown": return step(".bite", 1);
    case "ArrowUp": return step(".bite", -1);
    case "Enter": case " ": if (bite) { hear(bite); } return bite !== null;
    case "Escape": stop(); return true;
    default: {
      const button = bite?.querySelector(`[data-key="${event.key.toLowerCase()}"]`);
      button?.click();
      return Boolean(button);
    }
  }
});
