// The log sheet: keys for the part or the pull in hand, borders dragged by sentences, and steps through the places of a term.
import { commands } from "./commands.js";
import { stopHearing } from "./hear.js";
import { say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";

const inHand = () => document.activeElement?.closest(".log-item") ?? null;

keepFocus(".log-item");
document.addEventListener("htmx:beforeSwap", ({ target }) => target.closest("#main") && stopHearing());

async function copy() {
  const answer = await fetch("?handler=Text");
  if (answer.ok) {
    await navigator.clipboard.writeText(await answer.text());
    say("The log sheet is copied, with times.");
  } else {
    say("The log sheet could not be read. Load the page again.");
  }
}

function rename() {
  const name = inHand()?.querySelector("input.part-name");
  name?.select();
  return Boolean(name);
}

// Escape leaves a name as it was.
document.addEventListener("keydown", (event) => {
  const name = event.key === "Escape" && event.target.closest?.("input.part-name");
  if (name) {
    name.value = name.defaultValue;
    name.closest(".log-item").focus();
  }
});

// A border goes by a sentence for so many pixels.
const perSentence = 16;
document.addEventListener("pointerdown", (down) => {
  const handle = down.target.closest?.(".border-handle");
  if (!handle) {
    return;
  }
  down.preventDefault();
  handle.setPointerCapture(down.pointerId);
  const by = (event) => Math.round((event.clientY - down.clientY) / perSentence);
  const move = (event) => {
    const sentences = by(event);
    handle.textContent = sentences === 0 ? "" : `${Math.abs(sentences)} ${sentences < 0 ? "earlier" : "later"}`;
  };
  const up = (event) => {
    handle.removeEventListener("pointermove", move);
    handle.removeEventListener("pointerup", up);
    handle.textContent = "";
    if (by(event) !== 0) {
      htmx.ajax("POST", `?handler=Border&part=${handle.dataset.part}&by=${by(event)}`, { target: "#sheet", swap: "outerHTML" });
    }
  };
  handle.addEventListener("pointermove", move);
  handle.addEventListener("pointerup", up);
});

// Each press of a term goes to its next place: the line tells which, and leads there.
document.addEventListener("click", ({ target }) => {
  const term = target.closest?.(".key-term");
  if (!term) {
    return;
  }
  const places = term.dataset.places.split(" "),
    at = (Number(term.dataset.at ?? -1) + 1) % places.length;
  term.dataset.at = at;
  const link = Object.assign(document.createElement("a"), {
    href: `${term.dataset.read}#${places[at]}`,
    textContent: `“${term.firstElementChild.textContent}”, place ${at + 1} of ${places.length}: read it there`,
  });
  document.getElementById("term-place").replaceChildren(link);
});

commands(
  {
    up: () => step(".log-item", -1),
    down: () => step(".log-item", 1),
    stop: () => stopHearing(),
    name: ({ button }) => {
      button?.closest(".log-item")?.focus();
      return rename();
    },
    copy: () => {
      copy();
    },
  },
  (name) =>
    name === "undo" || name === "redo"
      ? document.getElementById("sheet")
      : ["hear", "keep", "accept", "earlier", "later", "aside"].includes(name)
        ? inHand()
        : null,
);
