// Find: keys for the hit that has the focus, and limits that go into the question. All else is the server's.
import { commands } from "./commands.js";
import { dragsOut } from "./drag-out.js";
import { stopHearing } from "./hear.js";
import { say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { asks } from "./question.js";
import { put } from "./story-clip.js";

const question = document.getElementById("question");
const inHand = () => document.activeElement?.closest(".hit") ?? null;

const clipOf = (hit) => hit?.dataset.clip && { text: hit.querySelector(".speech").textContent, clip: hit.dataset.clip };

keepFocus(".hit");
dragsOut((handle) => clipOf(handle.closest(".hit")));
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
    copy: () => {
      const what = clipOf(inHand());
      if (what && put(what.text, what.clip)) {
        say("The sentence is copied: V puts it into a story.");
      }
      return Boolean(what);
    },
    ask: () => {
      question.focus();
      question.select();
    },
  },
  () => inHand(),
);
