// Find: keys for the hit that has the focus, and limits that go into the question. All else is the server's.
import { commands } from "./commands.js";
import { stopHearing } from "./hear.js";
import { keepFocus, step } from "./list-keys.js";

const question = document.getElementById("question");
const inHand = () => document.activeElement?.closest(".hit") ?? null;

keepFocus(".hit");
document.addEventListener("htmx:beforeSwap", ({ target }) => target.closest("#main") && stopHearing());
// A limit is a link of its own; here it changes what is typed, so that nothing is loaded anew.
document.addEventListener("click", (event) => {
  const limit = event.target.closest("[data-question]");
  if (limit && !event.ctrlKey && !event.metaKey && !event.shiftKey) {
    event.preventDefault();
    question.value = limit.dataset.question;
    question.dispatchEvent(new Event("input", { bubbles: true }));
    question.focus();
  }
});
// From the question into the hits, and back.
question.addEventListener("keydown", (event) => {
  if (event.key === "ArrowDown" || event.key === "Escape") {
    event.preventDefault();
    if (event.key === "Escape") {
      question.blur();
    } else {
      step(".hit", 1);
    }
  }
});
commands(
  {
    up: () => (inHand() === document.querySelector(".hit") ? (question.focus(), true) : step(".hit", -1)),
    down: () => step(".hit", 1),
    stop: () => stopHearing(),
    ask: () => {
      question.focus();
      question.select();
    },
  },
  () => inHand(),
);
