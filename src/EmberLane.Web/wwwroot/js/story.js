import { onKey, press } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { StoryPlayer } from "./story-player.js";

const dialog = document.getElementById("player");
const player = new StoryPlayer(dialog, (place) => {
  document.querySelectorAll(".card-piece").forEach((card, i) => card.classList.toggle("sounding", i === place));
});

function play(from) {
  const pieces = [...document.querySelectorAll(".card-piece")].flatMap((card, place) =>
    JSON.parse(card.dataset.play).map((piece) => ({ ...piece, place, words: card.querySelector(".speech").textContent })),
  );
  const first = pieces.findIndex((piece) => piece.place >= from);
  if (first >= 0) {
    player.play(pieces, first);
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
document.addEventListener("click", (event) => {
  const action = event.target.closest("[data-action]")?.dataset.action;
  if (action === "play-story") {
    play(0);
  } else if (action === "play-card") {
    play(Number(event.target.closest(".card-piece").dataset.place));
  } else if (action === "stop") {
    player.stop();
  }
});
dialog.addEventListener("close", () => player.stop());
dialog.addEventListener("keydown", (event) => {
  if (event.key === " ") {
    player.stop();
    event.preventDefault();
  }
});
onKey((event) => {
  const card = document.activeElement?.closest(".card-piece"),
    bite = document.activeElement?.closest(".shelf-bite");
  const pressIn = (where, action) => press(() => where?.querySelector(`[data-action="${action}"]:not(:disabled)`));
  switch (event.key) {
    case "ArrowDown":
      return step(".card-piece, .shelf-bite", 1);
    case "ArrowUp":
      return step(".card-piece, .shelf-bite", -1);
    case " ":
      play(card ? Number(card.dataset.place) : 0);
      return true;
    case "Enter":
      if (bite) {
        return pressIn(bite, "lay");
      }
      if (card) {
        play(Number(card.dataset.place));
      }
      return Boolean(card);
    case "[":
      return pressIn(card, "up");
    case "]":
      return pressIn(card, "down");
    default:
  }
  switch (event.key.toLowerCase()) {
    case "x":
      return pressIn(card, "take-out");
    case "u":
      return pressIn(document, event.shiftKey ? "redo" : "undo");
    default:
      return false;
  }
});
