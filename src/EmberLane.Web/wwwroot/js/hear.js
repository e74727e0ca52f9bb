// Plays stretches of the sitting's sound at a click on what holds their times: one, to tell which of two texts is right, or several, one
// right behind the other, to hear how it sounds without what lies between. The same button stops it.
import { say } from "./keys.js";
import { RangePlayer } from "./range-player.js";

const sounds = ["sound", "sound-next"].map((id) => document.getElementById(id)).filter(Boolean);
let sounding = null;
const player =
  sounds.length > 0 &&
  new RangePlayer(
    sounds.map((sound) => ({ sound })),
    {
      onSilent: () => say("The sound could not be played."),
      onEnd: () => {
        sounding?.classList.remove("sounding");
        sounding = null;
      },
    },
  );

export function stopHearing() {
  if (player && sounding) {
    player.stop();
    return true;
  }
  return false;
}

export function hear(button) {
  if (!player) {
    say("The sound for playing is still being made.");
    return;
  }
  const again = sounding === button;
  stopHearing();
  if (again) {
    return;
  }
  // What lies in several sittings names its own sound.
  const { dataset } = "sound" in button.dataset ? button : sounds[0],
    address = button.dataset.sound ?? sounds[0].getAttribute("src"),
    within = (seconds) => Math.max(0, (Number(seconds) - Number(dataset.start)) / Number(dataset.rate));
  if (!address) {
    say("The sound for playing is still being made.");
    return;
  }
  const parts = button.dataset.hear
    .split(";")
    .map((stretch) => stretch.split(" ").map(within))
    .map(([from, to]) => ({ length: to - from, sound: { address, at: from } }));
  sounding = button;
  button.classList.add("sounding");
  player.play(parts);
}

document.addEventListener("click", ({ target }) => {
  const button = target.closest("[data-hear]");
  if (button) {
    hear(button);
  }
});
