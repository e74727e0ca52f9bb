import { say } from "./keys.js";

// Plays the sitting, the selection, a loop, slower and faster.
export function listening(read) {
  const { player } = read,
    rates = document.getElementById("rate");

  function playOrStop() {
    if (!player.sound) {
      say("The sound for playing is still being made. It starts by itself in the list of work in hand.");
      return;
    }
    if (player.playing) {
      player.stop();
      return;
    }
    player.play();
  }

  function playSelection() {
    const [first, last] = read.cursor.chosen();
    player.seek(read.transcript.starts[first] / 1000);
    player.play(read.transcript.ends[last] / 1000);
  }

  // Going elsewhere ends it.
  function endLoop() {
    player.loop = null;
    document.querySelector('[data-action="loop"]').setAttribute("aria-pressed", "false");
  }

  function loop() {
    if (player.loop) {
      endLoop();
      return;
    }
    document.querySelector('[data-action="loop"]').setAttribute("aria-pressed", "true");
    const turn = read.transcript.turnOf(read.cursor.word),
      [first, last] = read.cursor.selecting ? read.cursor.chosen() : [turn.first, turn.first + turn.words.length - 1];
    player.loop = [read.transcript.starts[first] / 1000, read.transcript.ends[last] / 1000];
    player.seek(player.loop[0]);
    player.play(player.loop[1]);
  }

  function pace(step) {
    rates.selectedIndex = Math.min(Math.max(0, rates.selectedIndex + step), rates.length - 1);
    player.setRate(Number(rates.value));
  }
  rates.addEventListener("change", () => {
    pace(0);
    read.page.focus({ preventScroll: true });
  });

  return { playOrStop, playSelection, loop, endLoop, pace };
}
