// Find: keys for the hit that has the focus, and limits that go into the question. All else is the server's.
import { commands } from "./commands.js";
import { stopHearing } from "./hear.js";
import { say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { asks } from "./question.js";

const question = document.getElementById("question");
const inHand = () => document.activeElement?.closest(".hit") ?? null;

keepFocus(".hit");
document.addEventListener("htmx:beforeSwap", ({ target }) => target.closest("#main") && stopHearing());
asks(question, ".hit");
// A picture is seen within the list; the same button takes it away again.
document.addEventListener("click", ({ target }) => {
  const button = target.closest?.("[data-see]");
  if (!button) {
    return;
  }
  const hit = button.closest(".hit"),
    shown = hit.querySelector("video");
  document.querySelectorAll(".hit video").forEach((video) => video.remove());
  if (!shown) {
    const video = Object.assign(document.createElement("video"), { src: button.dataset.see, controls: true, autoplay: true });
    video.addEventListener("error", () => say("The picture for playing is still being made."));
    hit.append(video);
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
