// Plays the story through: two decks take turns, so that the next card is ready before it is needed.
import { clockText, say } from "./keys.js";
import { RangePlayer } from "./range-player.js";

const dialog = document.getElementById("player");
const decks = ["a", "b"].map((side) => ({
  sound: document.getElementById(`sound-${side}`),
  picture: document.getElementById(`picture-${side}`),
}));
const paces = [1, 1.25, 1.5, 2];
let pace = 0,
  again = null;

const all = () => [...document.querySelectorAll(".card-piece")];
const sounding = (id) => all().forEach((card) => card.classList.toggle("sounding", card.dataset.card === id));

const player = new RangePlayer(decks, {
  onPart: ({ card, words }) => {
    sounding(card);
    document.getElementById("player-words").textContent = words;
  },
  onTime: (seconds) => {
    document.getElementById("player-clock").textContent = clockText(seconds);
  },
  onGap: (milliseconds) => {
    dialog.dataset.gaps = `${dialog.dataset.gaps ?? ""} ${milliseconds.toFixed(1)}`.trim();
  },
  onEnd: (isOver) => {
    if (isOver && again) {
      player.play(again);
      return;
    }
    again = null;
    sounding(null);
    document.querySelectorAll(".loupe.sounding").forEach((loupe) => loupe.classList.remove("sounding"));
    if (dialog.open) {
      dialog.close();
    }
  },
});

const wordsOf = (card) => card.querySelector(".speech, .section-name, .other-words")?.textContent.trim().replace(/\s+/g, " ") ?? "";
const partsOf = (cards) =>
  cards.flatMap((card, place) =>
    JSON.parse(card.dataset.play).map((part) => ({ ...part, place, card: card.dataset.card, words: wordsOf(card) })),
  );

function start(parts, from, loop) {
  if (from < 0 || from >= parts.length) {
    return;
  }
  player.stop();
  dialog.dataset.gaps = "";
  again = loop ? parts : null;
  dialog.showModal();
  player.play(parts, from);
}

// From a place in the story on.
export function playFrom(place) {
  const parts = partsOf(all());
  start(
    parts,
    parts.findIndex((part) => part.place >= place),
    false,
  );
}

// The section that a card lies in, again and again.
export function loopSection(card) {
  const cards = all(),
    at = cards.indexOf(card);
  const heads = cards.map((own, i) => (own.dataset.section ? i : -1)).filter((i) => i >= 0);
  const from = heads.filter((i) => i <= at).at(-1) ?? 0,
    to = heads.find((i) => i > at) ?? cards.length;
  start(partsOf(cards.slice(from, to)), 0, true);
}

// Both sides of a seam, once or again and again, without the large picture.
export function hearSeam(loupe, loop) {
  const was = loupe.classList.contains("sounding");
  player.stop();
  if (was) {
    return;
  }
  const parts = JSON.parse(loupe.dataset.play).map((part) => ({ ...part, card: null, words: "" }));
  if (parts.length > 0) {
    again = loop ? parts : null;
    loupe.classList.add("sounding");
    player.play(parts);
  }
}

export function stop() {
  again = null;
  player.stop();
}

export function faster() {
  pace = (pace + 1) % paces.length;
  player.pace = paces[pace];
  decks
    .flatMap(({ sound, picture }) => [sound, picture])
    .forEach((media) => {
      media.playbackRate = player.pace;
    });
  say(pace === 0 ? "It plays as it is." : `It plays ${paces[pace]} times as fast.`);
  document.getElementById("player-pace").textContent = pace === 0 ? "" : `${paces[pace]} times`;
}

dialog.addEventListener("close", () => {
  stop();
  // Keys go to the story again, also where nothing had the focus before.
  if (dialog.contains(document.activeElement)) {
    document.activeElement.blur();
  }
});
dialog.addEventListener("keydown", (event) => {
  if (event.key === " ") {
    stop();
    event.preventDefault();
  }
  if (event.key === "+" || event.key === "=") {
    faster();
  }
});
