import { commands } from "./commands.js";
import { press, say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { clip, keep, textOf } from "./story-clip.js";
import { drops } from "./story-drop.js";
import { drawn, state } from "./story-drawn.js";
import { following } from "./story-beside.js";
import { grips } from "./story-loupe.js";
import { faster, hearSeam, loopSection, playFrom, stop } from "./story-player.js";
import { letGo, selected, stepWord } from "./story-words.js";

const items = ".piece:not([hidden]) .card-piece, .shelf-bite";
const seams = ".piece:not([hidden]) .seam";
let hand = null,
  chosenUnit = "frame";
const ticked = new Set();

const cardInHand = () => document.activeElement?.closest(".card-piece") ?? null;
const seamInHand = () => document.activeElement?.closest(".seam") ?? null;
const lastCard = () => (hand ? document.getElementById(hand) : null);
const placeOf = (card) => (card ? [...document.querySelectorAll(".card-piece")].indexOf(card) : 0);
const tickedCards = () => [...document.querySelectorAll(".card-piece")].filter(({ dataset }) => ticked.has(dataset.card));

const send = (handler, values = {}) =>
  htmx.ajax("POST", `?handler=${handler}`, { target: "#story", swap: "outerHTML", values: { ...state(), ...values } });

// What was dragged goes back to where the page showed it when the answer comes, which says what is where.
let putBack = null;
function answered() {
  putBack?.();
  putBack = null;
}

function drags() {
  const shelf = document.getElementById("shelf"),
    cards = document.getElementById("cards");
  if (!Sortable.get(shelf)) {
    Sortable.create(shelf, {
      group: { name: "story", put: false },
      draggable: ".shelf-bite",
      sort: false,
      filter: "button",
      preventOnFilter: false,
    });
  }
  if (!Sortable.get(cards)) {
    let next = null;
    Sortable.create(cards, {
      group: "story",
      animation: 120,
      filter: "button, select, input, summary, form, .speech, .loupe",
      preventOnFilter: false,
      onStart: ({ item }) => {
        next = item.nextElementSibling;
      },
      onUpdate: ({ item, newIndex }) => {
        const before = next;
        putBack = () => cards.insertBefore(item, before);
        send("Move", { card: item.dataset.card, to: newIndex });
      },
      onAdd: ({ item, newIndex }) => {
        putBack = () => item.remove();
        send("Lay", { bite: item.dataset.bite, at: newIndex });
      },
    });
  }
  document.querySelectorAll(".behind-card").forEach((field) => {
    field.value = lastCard()?.dataset.card ?? "";
  });
  bringActs(cardInHand() ?? document.querySelector(".card-piece"));
  document.querySelectorAll('.card-piece [name="tick"]').forEach((box) => {
    box.checked = ticked.has(box.value);
  });
  const own = document.querySelector(`.loupe [name="unit"][value="${chosenUnit}"]`);
  if (own) {
    own.checked = true;
  }
}

// The buttons of a piece are brought when a person comes to it.
let bringing = null;
function bringActs(card) {
  const place = card?.querySelector(".row-actions[data-acts]");
  clearTimeout(bringing);
  if (place && !place.firstElementChild) {
    bringing = setTimeout(() => {
      if (place.isConnected && !place.firstElementChild) {
        htmx.ajax("GET", `?handler=Acts&card=${place.dataset.acts}`, { target: place, swap: "innerHTML" });
      }
    }, 100);
  }
}

function openSeam(seam) {
  if (seam) {
    const isOpen = Boolean(seam.querySelector(".loupe"));
    htmx.ajax("GET", "?handler=Seam", {
      target: "#story",
      swap: "outerHTML",
      values: { ...state(), seam: isOpen ? "" : seam.dataset.seam },
    });
  }
  return Boolean(seam);
}

// What a person cuts: selected words, else the ticked cards, else the card at hand.
async function takeOut(space) {
  const words = selected(),
    many = tickedCards(),
    card = cardInHand() ?? lastCard();
  if (!words && many.length === 0 && !card) {
    return;
  }
  const pieces = many.length > 0 ? many : [card];
  if (!(await keep(words, pieces))) {
    return;
  }
  if (words) {
    letGo();
    send("TakeWords", { from: words.from, fromAt: words.fromAt, to: words.to, toAt: words.toAt, space });
  } else if (space || many.length > 0) {
    ticked.clear();
    send("TakeAllOut", { piece: pieces.map(({ dataset }) => dataset.card), space });
  } else {
    send("TakeOut", { card: card.dataset.card });
  }
}

async function copy() {
  const words = selected(),
    many = tickedCards(),
    card = cardInHand();
  if ((words || many.length > 0 || card) && (await keep(words, many.length > 0 ? many : [card]))) {
    say(words ? "The words are copied, with their footage." : many.length > 1 ? `${many.length} cards are copied.` : "The card is copied.");
  }
}

function paste(text = null) {
  const json = clip(text),
    words = selected(),
    card = cardInHand() ?? lastCard();
  if (json !== null) {
    letGo();
    send("Paste", { clip: json, ...(words ? { card: words.from, at: words.fromAt } : card ? { behind: card.dataset.card } : {}) });
  }
}

function lay(way) {
  const bite = document.activeElement?.closest(".shelf-bite"),
    card = lastCard();
  if (!bite) {
    return false;
  }
  if (!card) {
    say("Go to a card first: the bite is laid there.");
    return true;
  }
  if (way === "Lay") {
    send("Lay", { bite: bite.dataset.bite, at: placeOf(card) + 1 });
  } else {
    send(way, { bite: bite.dataset.bite, card: card.dataset.card });
  }
  return true;
}

// The seams from the worst to the best of those that have something to settle; one after another from where one is.
function goToSeam(on) {
  const list = [...document.querySelectorAll(".seam")]
    .filter(({ dataset }) => Number(dataset.score) > 0)
    .sort((one, other) => Number(other.dataset.score) - Number(one.dataset.score));
  const seam = on ? list[list.indexOf(seamInHand()) + 1] : list[0];
  if (!seam) {
    say(list.length === 0 ? "No seam has anything to settle." : "That was the last one.");
    return;
  }
  const fold = seam.closest(".piece[hidden]");
  if (fold) {
    fold.hidden = false;
  }
  seam.focus();
  seam.scrollIntoView({ block: "center" });
}

// Words that are selected in the card before are let go: what is done next is meant for where one is.
function go(direction) {
  letGo();
  return step(seamInHand() ? seams : items, direction);
}

const unit = () => document.querySelector('.loupe [name="unit"]:checked')?.value ?? "frame";
const moveEnds = (url, by, of) => htmx.ajax("POST", `${url}&unit=${of}&by=${by}`, { target: "#story", swap: "outerHTML", values: state() });
const nudge = (button) => moveEnds(button.dataset.url, button.dataset.by, unit());

// Within an open seam its own button of that name is meant, else the card's.
function ends(name) {
  const seam = seamInHand();
  if (seam) {
    const button = seam.querySelector(`[data-action="nudge"][data-name="${name}"]`);
    if (button) {
      chosenUnit = unit();
      nudge(button);
    }
    return Boolean(button);
  }
  const card = cardInHand();
  if (card?.dataset.sitting) {
    send("Stretch", { card: card.dataset.card, begin: name.startsWith("begin"), words: name.endsWith("earlier") ? -1 : 1 });
  }
  return Boolean(card);
}

function onCard(handler, values = {}) {
  const card = cardInHand();
  if (card) {
    send(handler, { card: card.dataset.card, ...values });
  }
  return Boolean(card);
}

const follow = following();
keepFocus(".card-piece, .seam, .shelf-bite");
document.addEventListener("htmx:beforeSwap", answered);
document.addEventListener("htmx:sendError", answered);
drawn(drags);
drops((json, behind) => send("Paste", { clip: json, ...(behind ? { behind } : {}) }));
grips((name, by) => {
  const button = document.querySelector(`.loupe [data-action="nudge"][data-name="${name}"]`);
  return button && moveEnds(button.dataset.url, by, "millisecond");
});
document.addEventListener("focusin", ({ target }) => {
  const card = target.closest?.(".card-piece");
  bringActs(card);
  if (card) {
    follow.card(card);
    hand = card.id;
    document.querySelectorAll(".behind-card").forEach((field) => {
      field.value = card.dataset.card;
    });
  }
});
document.addEventListener("mouseover", ({ target }) => {
  const card = target.closest?.(".card-piece");
  if (card && !cardInHand()) {
    bringActs(card);
  }
});
document.addEventListener("change", ({ target }) => {
  if (target.name === "tick") {
    ticked[target.checked ? "add" : "delete"](target.value);
  }
  if (target.name === "unit") {
    chosenUnit = target.value;
  }
});
const isField = (target) => target.closest?.("input, textarea, select, dialog, [contenteditable]");
for (const [kind, act] of Object.entries({
  copy: () => copy(),
  cut: () => takeOut(false),
  paste: (event) => paste(event.clipboardData?.getData("text/plain") ?? null),
})) {
  document.addEventListener(kind, (event) => {
    if (!isField(event.target) && (kind === "paste" || selected() || cardInHand() || ticked.size > 0)) {
      event.preventDefault();
      if (kind !== "paste") {
        const many = tickedCards();
        event.clipboardData?.setData("text/plain", textOf(selected(), many.length > 0 ? many : [cardInHand() ?? lastCard()]));
      }
      act(event);
    }
  });
}

commands(
  {
    up: () => go(-1),
    down: () => go(1),
    "word-back": ({ shift }) => (seamInHand() ? ends(shift ? "begin-earlier" : "word-back") : stepWord(cardInHand(), -1, shift)),
    "word-on": ({ shift }) => (seamInHand() ? ends(shift ? "begin-later" : "word-on") : stepWord(cardInHand(), 1, shift)),
    "begin-earlier": () => ends("begin-earlier"),
    "begin-later": () => ends("begin-later"),
    "stop-earlier": () => ends("stop-earlier"),
    "stop-later": () => ends("stop-later"),
    nudge: ({ button }) => nudge(button),
    "play-story": ({ button }) => playFrom(button ? 0 : placeOf(cardInHand())),
    "play-card": ({ button }) => playFrom(placeOf(button.closest(".card-piece"))),
    stop: () => stop(),
    faster: () => faster(),
    loop: () => {
      const loupe = seamInHand()?.querySelector(".loupe"),
        card = cardInHand();
      if (loupe) {
        hearSeam(loupe, true);
      } else if (card) {
        loopSection(card);
      }
      return Boolean(loupe || card);
    },
    "hear-seam": () => hearSeam(document.getElementById("loupe"), false),
    "hear-again": () => hearSeam(document.getElementById("loupe"), true),
    use: () => {
      const seam = seamInHand(),
        bite = document.activeElement?.closest(".shelf-bite");
      if (bite) {
        return press(() => bite.querySelector('[data-action="lay"]'));
      }
      if (seam) {
        const loupe = seam.querySelector(".loupe");
        if (loupe) {
          hearSeam(loupe, false);
          return true;
        }
        return openSeam(seam);
      }
      const card = cardInHand();
      if (card) {
        playFrom(placeOf(card));
      }
      return card !== null;
    },
    source: ({ button }) =>
      follow.open(button?.closest(".card-piece") ?? cardInHand() ?? lastCard() ?? document.querySelector(".card-piece[data-sitting]")),
    worst: () => goToSeam(false),
    "next-seam": () => goToSeam(true),
    "open-seam": ({ button }) => openSeam(button?.closest(".seam") ?? seamInHand() ?? cardInHand()?.parentElement.querySelector(".seam")),
    earlier: () => onCard("Step", { down: false }),
    later: () => onCard("Step", { down: true }),
    join: () => onCard("Join"),
    fold: () => Boolean(cardInHand()?.dataset.section) && onCard("Fold"),
    unit: ({ key }) => {
      const box = seamInHand()?.querySelectorAll('.loupe [name="unit"]')[Number(key) - 1];
      if (box) {
        box.checked = true;
        chosenUnit = box.value;
      }
      return Boolean(box);
    },
    "take-out": ({ button }) => {
      if (button) {
        letGo();
        button.closest(".card-piece").focus();
      }
      takeOut(false);
    },
    "leave-space": () => takeOut(true),
    copy: () => copy(),
    paste: () => paste(),
    part: () => {
      const words = selected();
      if (words) {
        letGo();
        send("Part", { card: words.from, at: words.fromAt });
      } else {
        say("Go to the word that the second card shall begin with: ← and → step through the words.");
      }
    },
    tick: () => {
      const box = cardInHand()?.querySelector('[name="tick"]');
      box?.click();
      return Boolean(box);
    },
    add: () => {
      const add = document.getElementById("add-piece");
      add.open = true;
      add.querySelector("input[type=radio]:checked")?.focus();
    },
    describe: () => {
      const card = cardInHand();
      const open = () => {
        const change = card.querySelector("details.describe");
        if (change) {
          change.open = true;
          change.querySelector("input")?.focus();
        }
        return Boolean(change);
      };
      // Its form may be on the way still.
      if (card && !open()) {
        document.addEventListener("htmx:afterSettle", open, { once: true });
      }
      return card !== null;
    },
    behind: () => lay("Lay"),
    instead: () => lay("Instead"),
    beside: () => lay("Beside"),
    over: () => lay("Over"),
  },
  (name) => (name === "undo" || name === "redo" ? document : name === "mend" ? seamInHand() : null),
);
