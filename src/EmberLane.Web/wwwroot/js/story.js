import { commands } from "./commands.js";
import { clockText, press } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { RangePlayer } from "./range-player.js";

const dialog = document.getElementById("player");
const decks = ["a", "b"].map((side) => ({
  sound: document.getElementById(`sound-${side}`),
  picture: document.getElementById(`picture-${side}`),
}));
const sounding = (place) => document.querySelectorAll(".card-piece").forEach((card, i) => card.classList.toggle("sounding", i === place));
const player = new RangePlayer(decks, {
  onPart: ({ place, words }) => {
    sounding(place);
    document.getElementById("player-words").textContent = words;
  },
  onTime: (seconds) => {
    document.getElementById("player-clock").textContent = clockText(seconds);
  },
  onEnd: () => {
    sounding(-1);
    if (dialog.open) {
      dialog.close();
    }
  },
});

function play(from) {
  const parts = [...document.querySelectorAll(".card-piece")].flatMap((card, place) =>
    JSON.parse(card.dataset.play).map((piece) => ({ ...piece, place, words: card.querySelector(".speech").textContent })),
  );
  const first = parts.findIndex(({ place }) => place >= from);
  if (first >= 0) {
    player.stop();
    dialog.showModal();
    player.play(parts, first);
  }
}

function drags() {
  const story = document.getElementById("story"),
    version = story.dataset.version;
  const shown = () => document.getElementById("shelf-shown")?.value;
  const send = (query) =>
    htmx.ajax("POST", `?handler=${query}&version=${version}`, { target: "#story", swap: "outerHTML", values: { shown: shown() } });
  Sortable.create(document.getElementById("shelf"), {
    group: { name: "story", put: false },
    draggable: ".shelf-bite",
    sort: false,
    filter: "button",
    preventOnFilter: false,
  });
  Sortable.create(document.getElementById("cards"), {
    group: "story",
    animation: 120,
    filter: "button, select",
    preventOnFilter: false,
    onUpdate: (event) => send(`Move&card=${event.item.dataset.card}&to=${event.newIndex}`),
    onAdd: (event) => send(`Lay&bite=${event.item.dataset.bite}&at=${event.newIndex}`),
  });
}

keepFocus(".card-piece, .shelf-bite");
addEventListener("DOMContentLoaded", drags);
if (document.readyState === "complete") {
  drags();
}
document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id === "story") {
    drags();
  }
});
dialog.addEventListener("close", () => player.stop());
dialog.addEventListener("keydown", (event) => {
  if (event.key === " ") {
    player.stop();
    event.preventDefault();
  }
});
const cardInHand = () => document.activeElement?.closest(".card-piece") ?? null;
const placeOf = (card) => (card ? Number(card.dataset.place) : 0);

commands(
  {
    up: () => step(".card-piece, .shelf-bite", -1),
    down: () => step(".card-piece, .shelf-bite", 1),
    "play-story": ({ button }) => play(button ? 0 : placeOf(cardInHand())),
    "play-card": ({ button }) => play(placeOf(button.closest(".card-piece"))),
    stop: () => player.stop(),
    use: () => {
      const card = cardInHand(),
        bite = document.activeElement?.closest(".shelf-bite");
      if (bite) {
        return press(() => bite.querySelector('[data-action="lay"]'));
      }
      if (card) {
        play(placeOf(card));
      }
      return card !== null;
    },
  },
  (name) => (name === "undo" || name === "redo" ? document : ["earlier", "later", "take-out"].includes(name) ? cardInHand() : null),
);
