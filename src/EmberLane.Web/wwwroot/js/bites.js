import { commands } from "./commands.js";
import { dragsOut } from "./drag-out.js";
import { press, say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { RangePlayer } from "./range-player.js";
import { keepBites, productionHere } from "./story-clip.js";
import "./ticks.js";

const unmark = () => document.querySelectorAll(".bite.sounding").forEach((bite) => bite.classList.remove("sounding"));
const player = new RangePlayer([{ sound: document.getElementById("sound") }], {
  onSilent: () => {
    player.stop();
    say("The sound could not be played.");
  },
  onEnd: unmark,
});

const partsOf = ({ address, pieces }) =>
  pieces
    .split(" ")
    .filter(Boolean)
    .map((piece) => piece.split(",").map(Number))
    .map(([from, to]) => ({ length: to - from, sound: { address, at: from } }));

function playParts(bite, parts) {
  player.stop();
  bite.classList.add("sounding");
  player.play(parts);
}

// The parts of the bite that are in use; pressed again it stops.
function hear(bite) {
  if (!bite.dataset.address) {
    say("The sound for playing is still being made.");
    return;
  }
  if (bite.classList.contains("sounding") && player.playing) {
    player.stop();
    return;
  }
  const parts = partsOf(bite.dataset);
  if (parts.length === 0) {
    say("All of its words are set aside. Bring them back in Read to hear them.");
    return;
  }
  playParts(bite, parts);
}

// What is heard of an end: a second and a half from the begin on, or up to the end.
const edge = 1.5;

function hearEnd(bite, end) {
  if (!bite?.dataset.address) {
    return;
  }
  const parts = partsOf(bite.dataset);
  const part = end === "begin" ? parts[0] : parts.at(-1);
  if (part) {
    const length = Math.min(edge, part.length),
      at = end === "begin" ? part.sound.at : part.sound.at + part.length - length;
    playParts(bite, [{ length, sound: { address: part.sound.address, at } }]);
  }
}

document.addEventListener("ends-moved", ({ detail }) => hearEnd(document.getElementById(`bite-${detail.bite}`), detail.end));
document.addEventListener("click", ({ target }) => {
  const button = target.closest?.("[data-hear-end]");
  if (button) {
    hearEnd(button.closest(".bite"), button.dataset.hearEnd);
  }
});

function describe(bite) {
  const form = bite?.querySelector(".describe");
  if (form) {
    form.open = true;
    form.querySelector("input[name=theme]").select();
  }
  return Boolean(form);
}

keepFocus(".bite");
// Escape leaves the fields of theme and note and goes back to the row.
document.addEventListener("keydown", (event) => {
  const form = event.key === "Escape" && event.target.closest?.(".describe");
  if (form) {
    form.open = false;
    form.closest(".bite").focus();
  }
});
const inHand = () => document.activeElement?.closest(".bite") ?? null;

function layIn(bite, again) {
  const button = bite?.querySelector(`[data-action="${again ? "lay-again" : "lay"}"]`);
  button?.click();
  return Boolean(button);
}

// On the board a bite goes to another theme by being dragged there, or by the key to the one beside.
function toTheme(card, theme) {
  const form = card.querySelector(".to-theme");
  form.elements.to.value = theme;
  form.requestSubmit();
}

function toThemeBeside(card, direction) {
  const columns = [...document.querySelectorAll(".board-column")];
  const beside = columns[columns.indexOf(card.closest(".board-column")) + direction];
  if (beside) {
    toTheme(card, beside.dataset.themeOf);
  }
  return Boolean(beside);
}

function drags() {
  for (const cards of document.querySelectorAll(".board-cards")) {
    Sortable.create(cards, {
      group: "board",
      sort: false,
      filter: "button, input, label",
      preventOnFilter: false,
      onAdd: ({ item, to }) => toTheme(item, to.closest(".board-column").dataset.themeOf),
    });
  }
}
document.addEventListener("DOMContentLoaded", drags);
document.addEventListener("htmx:afterSettle", ({ target }) => target.closest?.("#bites") && drags());

// What presses a button of the row in hand.
const onRow = ["aside", "ends", "grade-1", "grade-2", "grade-3", "begin-earlier", "begin-later"];
const moveEnd = (name, direction) => () => {
  const bite = inHand();
  return (
    Boolean(bite) &&
    (bite.matches(".board-card") ? toThemeBeside(bite, direction) : press(() => bite.querySelector(`[data-action="${name}"]`)))
  );
};

const ticked = () => [...document.querySelectorAll(".bite input[name=tick]:checked")].map((box) => box.closest(".bite"));
const idOf = (bite) => bite.id.replace("bite-", "");
// The ticked bites are dragged together, where the one under the pointer is of them.
dragsOut((handle) => {
  const own = handle.closest(".bite"),
    many = ticked(),
    bites = many.includes(own) ? many : [own];
  return {
    text: bites.map((bite) => bite.querySelector(".speech").textContent).join(" "),
    clip: JSON.stringify({ production: productionHere(), bites: bites.map(idOf) }),
  };
});

commands(
  {
    up: () => step(".bite", -1),
    down: () => step(".bite", 1),
    hear: ({ button }) => {
      const bite = button?.closest(".bite") ?? inHand();
      if (bite) {
        hear(bite);
      }
      return bite !== null;
    },
    stop: () => player.stop(),
    describe: () => describe(inHand()),
    lay: () => {
      const bite = inHand();
      if (bite?.dataset.laid) {
        say("It is in the story already. Shift S lays it once more.");
        return true;
      }
      return layIn(bite, false);
    },
    "lay-again": () => layIn(inHand(), Boolean(inHand()?.dataset.laid)),
    tick: () => {
      const box = inHand()?.querySelector("input[name=tick]");
      box?.click();
      return Boolean(box);
    },
    copy: async () => {
      const many = ticked(),
        bites = (many.length > 0 ? many : [inHand()]).filter(Boolean);
      const texts = bites.map((bite) => ({ id: idOf(bite), text: bite.querySelector(".speech").textContent }));
      if (bites.length > 0 && (await keepBites(texts))) {
        const [what, it] = bites.length === 1 ? ["The bite is", "it"] : [`${bites.length} bites are`, "them"];
        say(`${what} copied: V puts ${it} into a story.`);
      }
    },
    "stop-earlier": moveEnd("stop-earlier", -1),
    "stop-later": moveEnd("stop-later", 1),
  },
  (name) => (name === "undo" || name === "redo" ? document.getElementById("bites") : onRow.includes(name) ? inHand() : null),
);
