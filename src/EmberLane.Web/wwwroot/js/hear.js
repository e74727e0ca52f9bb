// Plays a stretch of the sitting's sound at a click on what holds its times, to tell which of two texts is right.
let until = 0;

document.addEventListener("click", ({ target }) => {
  const button = target.closest("[data-hear]"),
    sound = document.getElementById("sound");
  if (!button || !sound) {
    return;
  }
  const [from, to] = button.dataset.hear
    .split(" ")
    .map((seconds) => (Number(seconds) - Number(sound.dataset.start)) / Number(sound.dataset.rate));
  sound.currentTime = Math.max(0, from);
  until = to;
  sound.play();
});
document.getElementById("sound")?.addEventListener("timeupdate", ({ target }) => {
  if (target.currentTime >= until) {
    target.pause();
  }
});
