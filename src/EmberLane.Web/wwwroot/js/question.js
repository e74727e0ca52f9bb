// A question that is typed, with the limits beside it and the list below.
import { step } from "./list-keys.js";

export function asks(question, items) {
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
  // From the question into the list, and back.
  question.addEventListener("keydown", (event) => {
    if (event.key === "ArrowDown" || event.key === "Escape") {
      event.preventDefault();
      if (event.key === "Escape") {
        question.blur();
      } else {
        step(items, 1);
      }
    }
  });
}
