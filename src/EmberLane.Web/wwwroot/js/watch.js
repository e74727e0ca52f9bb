// Watching a sitting: all angles in step, the strip below shows where and takes a click.
import { enlarge } from "./angles.js";
import { clockText, onKey } from "./keys.js";
import { SittingPlayer } from "./sitting-player.js";

const root = document.getElementById("watch"),
  strip = document.getElementById("watch-strip"),
  line = document.getElementById("watch-line");
const from = Number(strip.dataset.from),
  length = Number(strip.dataset.length);
const button = root.querySelector("[data-action=play]");
const player = new SittingPlayer(root, (seconds, playing) => {
  const x = (1000 * (seconds - from)) / length;
  line.setAttribute("x1", x);
  line.setAttribute("x2", x);
  document.getElementById("watch-clock").textContent = clockText(seconds - from);
  button.firstElementChild.textContent = playing ? "Stop" : "Play";
});
const frame = () => 1 / Number(root.dataset.frames);
const playOrStop = () => {
  player.playing ? player.stop() : player.play();
};

strip.addEventListener("click", (event) => {
  const box = strip.querySelector("svg").getBoundingClientRect();
  player.seek(from + (length * (event.clientX - box.left)) / box.width);
});
document.addEventListener("click", ({ target }) => {
  const pressed = target.closest("[data-action]");
  if (pressed?.dataset.action === "play") {
    playOrStop();
  } else if (pressed?.dataset.action === "angle") {
    enlarge(pressed.closest(".angle").dataset.angle);
  } else if (pressed?.dataset.action === "rate") {
    const rates = [1, 1.5, 2, 0.5],
      next = rates[(rates.indexOf(player.rate) + 1) % rates.length];
    player.setRate(next);
    pressed.textContent = `${next}×`;
  }
});
onKey((event) => {
  switch (event.key) {
    case " ":
      playOrStop();
      return true;
    case "ArrowLeft":
      player.seek(player.now - (event.shiftKey ? frame() : 1));
      return true;
    case "ArrowRight":
      player.seek(player.now + (event.shiftKey ? frame() : 1));
      return true;
    case "Home":
      player.seek(player.first);
      return true;
    case "End":
      player.seek(player.last);
      return true;
    default:
      return /^[1-9]$/.test(event.key) && enlarge(event.key);
  }
});
document.addEventListener("htmx:afterSettle", ({ target }) => {
  if (target.id === "angles") {
    player.find();
  }
});
// First the moment from which on all angles roll, so that there is something to see.
player.seek(Math.max(0, ...[...root.querySelectorAll(".angle")].map((angle) => Number(angle.querySelector("video")?.dataset.start ?? 0))));
root.dataset.ready = "true";
