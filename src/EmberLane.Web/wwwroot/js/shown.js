// A text that a link shows: its words play, light up as they are heard, and are chosen to be marked or talked of.
import "./refusals.js";
import { clockText, onKey, say } from "./keys.js";
import { playerOf } from "./shown-player.js";
import "./theme.js";

const text = document.getElementById("text");

// Every word once: its element, the line that it is in, its numbers, and from when to when it is heard in seconds, or null.
const words = [...(text?.querySelectorAll(".line") ?? [])].flatMap((line) => {
  const numbers = line.dataset.words.split(",").map(Number);
  return [...line.querySelectorAll(".speech > span")].map((element, i) => {
    const [first, last, from, to] = numbers.slice(4 * i, 4 * i + 4);
    return { element, line, first, last, heard: from < 0 ? null : [from / 1000, to / 1000] };
  });
});
const wordOf = new Map(words.map((word, i) => [word.element, i]));
const timed = words.filter(({ heard }) => heard).sort((one, other) => one.heard[0] - other.heard[0]);

// The last word that has begun, by halving.
function wordAt(seconds) {
  let low = 0,
    high = timed.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (timed[middle].heard[0] <= seconds) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return low > 0 && seconds < timed[low - 1].heard[1] + 0.4 ? timed[low - 1] : null;
}

let lit = null,
  scrolled = 0;
addEventListener("wheel", () => (scrolled = Date.now()), { passive: true });
addEventListener("touchmove", () => (scrolled = Date.now()), { passive: true });

// What is heard is seen, unless the reader has just gone elsewhere or is about to say something.
function light(seconds, playing) {
  const word = wordAt(seconds);
  if (word !== lit) {
    lit?.element.classList.remove("heard");
    word?.element.classList.add("heard");
    const elsewhere = Date.now() - scrolled < 4000 || !chosenBar?.hidden;
    if (word && playing && !elsewhere) {
      const { top, bottom } = word.element.getBoundingClientRect();
      if (top < innerHeight * 0.3 || bottom > innerHeight * 0.8) {
        word.element.scrollIntoView({ block: "center" });
      }
    }
    lit = word;
  }
}

const player = playerOf((seconds, playing) => {
  const clock = document.getElementById("clock");
  if (clock) {
    clock.textContent = clockText(seconds);
  }
  document.body.classList.toggle("playing", playing);
  light(seconds, playing);
});
document.querySelector('[data-action="play"]')?.addEventListener("click", () => player.toggle());
document.getElementById("rate")?.addEventListener("change", ({ target }) => player.setRate(Number(target.value)));
onKey((event) => event.key === " " && player.toggle());

// The words that are chosen: the places of the first and the last in the list of all.
const chosenBar = document.getElementById("chosen");
let chosen = null;

function choose(from, to) {
  chosen = [words[from], words[to]];
  const some = words.slice(from, to + 1);
  paint("chosen", some);
  chosenBar.querySelector("blockquote").textContent = some.map(({ element }) => element.textContent).join(" ");
  const play = chosenBar.querySelector('[data-action="play-chosen"]');
  if (play) {
    play.hidden = !chosen[0].heard || !player.plays;
  }
  const hasNumbers = chosen.every(({ first }) => first >= 0);
  chosenBar.querySelectorAll("form").forEach((form) => {
    const fields = form.elements;
    fields.sitting.value = chosen[0].line.dataset.sitting;
    fields.first.value = hasNumbers ? chosen[0].first : 0;
    fields.last.value = hasNumbers ? chosen[1].last : 0;
    if (fields.line) {
      fields.line.value = chosen[0].line.dataset.line;
    } else {
      // What nobody said can be talked of, not marked.
      form.hidden = !hasNumbers;
    }
  });
  chosenBar.hidden = false;
}

function unchoose() {
  chosen = null;
  paint("chosen", []);
  chosenBar.hidden = true;
  getSelection().removeAllRanges();
}

function paint(name, some) {
  const wanted = new Set(some.map(({ element }) => element));
  text.querySelectorAll(`.${name}`).forEach((element) => wanted.has(element) || element.classList.remove(name));
  wanted.forEach((element) => element.classList.add(name));
}

// A selection by hand is widened to whole words; of a story it stays within the piece in which it begins.
let selecting;
document.addEventListener("selectionchange", () => {
  clearTimeout(selecting);
  selecting = setTimeout(() => {
    const selection = getSelection();
    if (!chosenBar || selection.isCollapsed || !text?.contains(selection.anchorNode)) {
      return;
    }
    const range = selection.getRangeAt(0);
    const inside = words.map((_, i) => i).filter((i) => range.intersectsNode(words[i].element));
    if (inside.length === 0) {
      return;
    }
    const [from] = inside;
    const same = ({ line }) =>
      line === words[from].line || (line.dataset.line.startsWith("turn-") && line.dataset.sitting === words[from].line.dataset.sitting);
    choose(from, inside.filter((i) => same(words[i])).at(-1));
  }, 250);
});

text?.addEventListener("click", ({ target }) => {
  const at = wordOf.get(target);
  if (at !== undefined && getSelection().isCollapsed && words[at].heard) {
    player.play(words[at].heard[0]);
  }
});

// Of a mark or a talk: its words, in the order of the text.
function wordsOf({ dataset: { line, sitting, first, last } }) {
  if (line) {
    return words.filter((word) => word.line.dataset.line === line);
  }
  const from = words.findIndex((word) => word.line.dataset.sitting === sitting && word.first === Number(first)),
    to = words.findIndex((word, i) => i >= from && word.line.dataset.sitting === sitting && word.last === Number(last));
  return from < 0 || to < 0 ? [] : words.slice(from, to + 1);
}

// What is marked, and how much is said of each line, is drawn from the lists beside the text.
function draw() {
  if (!text) {
    return;
  }
  paint("marked", [...document.querySelectorAll("[data-mark]")].flatMap(wordsOf));
  const talks = [...document.querySelectorAll("[data-talk-of]")];
  const perLine = new Map();
  talks.forEach((talk) => {
    const line = wordsOf(talk)[0]?.line;
    perLine.set(line, [...(perLine.get(line) ?? []), talk]);
  });
  text.querySelectorAll('[data-action="talks-of"]').forEach((button) => {
    const count = perLine.get(button.closest(".line"))?.length ?? 0;
    button.hidden = count === 0;
    button.textContent = count === 1 ? "1 comment" : `${count} comments`;
  });
  const count = (name, number) => {
    const place = document.querySelector(`[data-count="${name}"]`);
    if (place) {
      place.textContent = number || "";
    }
  };
  count("marks", document.querySelectorAll("[data-mark]").length);
  count("talks", talks.length);
}

function show(tab) {
  document.body.dataset.tab = tab;
  document
    .querySelectorAll("button[data-tab]")
    .forEach((button) => button.setAttribute("aria-pressed", String(button.dataset.tab === tab)));
}

const acts = {
  "play-chosen": () => player.play(chosen[0].heard[0], chosen[1].heard?.[1]),
  unchoose,
  "choose-line": (button) => {
    const line = button.closest(".line"),
      from = words.findIndex((word) => word.line === line);
    choose(
      from,
      words.findLastIndex((word) => word.line === line),
    );
    chosenBar.querySelector("input:not([type=hidden]), textarea")?.focus();
  },
  "talks-of": (button) => {
    show("talks");
    const line = button.closest(".line");
    [...document.querySelectorAll("[data-talk-of]")].find((talk) => wordsOf(talk)[0]?.line === line)?.scrollIntoView({ block: "center" });
  },
  go: (button) => {
    const [first] = wordsOf(button.parentElement);
    show("text");
    first?.element.scrollIntoView({ block: "center" });
    if (first?.heard) {
      player.seek(first.heard[0]);
    }
  },
};
document.addEventListener("click", ({ target }) => {
  const button = target.closest("[data-action], button[data-tab]");
  if (button?.dataset.tab) {
    show(button.dataset.tab);
  }
  acts[button?.dataset.action]?.(button);
});
document.addEventListener("keydown", ({ key }) => {
  if (key === "Escape" && chosen) {
    unchoose();
  }
});
document.addEventListener("htmx:afterRequest", ({ target, detail }) => {
  const done = target.dataset?.chosen;
  if (done && detail.successful) {
    target.reset();
    unchoose();
    say(done);
  }
});
document.addEventListener("htmx:afterSettle", draw);
draw();
document.documentElement.dataset.ready = "true";
