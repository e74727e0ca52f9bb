// Plays a stretch of the sitting's sound at a click on what holds its times, to tell which of two texts is right.
import { RangePlayer } from "./range-player.js";

const sound = document.getElementById("sound");
const player = sound && new RangePlayer([{ sound }]);

document.addEventListener("click", ({ target }) => {
  const button = target.closest("[data-hear]");
  if (!button || !player) {
    return;
  }
  const [from, to] = button.dataset.hear
    .split(" ")
    .map((seconds) => Math.max(0, (Number(seconds) - Number(sound.dataset.start)) / Number(sound.dataset.rate)));
  player.play([{ length: to - from, sound: { address: sound.getAttribute("src"), at: from } }]);
});
