// Watching a sitting: all angles in step, the strip below shows where and takes a click.
import { enlarge } from "./angles.js";
import { commands } from "./commands.js";
import { clockText } from "./keys.js";
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
commands({
  play: playOrStop,
  back: ({ shift }) => player.seek(player.now - (shift ? frame() : 1)),
  on: ({ shift }) => player.seek(player.now + (shift ? frame() : 1)),
  first: () => player.seek(player.first),
  last: () => player.seek(player.last),
  angle: ({ key, button }) => enlarge(button ? button.closest(".angle").dataset.angle : key),
  rate: ({ button }) => {
    const rates = [1, 1.5, 2, 0.5],
      next = rates[(rates.indexOf(player.rate) + 1) % rates.length];
    player.setRate(next);
    button.textContent = `${next}×`;
  },
});
document.addEventListener("htmx:afterSettle", ({ target }) => {
  if (target.id === "angles") {
    player.find();
  }
});
// First the moment from which on all angles roll, so that there is something to see.
player.seek(Math.max(0, ...[...root.querySelectorAll(".angle")].map((angle) => Number(angle.querySelector("video")?.dataset.start ?? 0))));
root.dataset.ready = "true";
