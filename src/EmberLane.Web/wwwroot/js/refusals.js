import { say } from "./keys.js";

// What the server refuses it explains in words; a broken connection is explained here. Nothing that was typed is cleared.
document.addEventListener("htmx:responseError", (event) => {
  const answer = event.detail.xhr;
  const plain = (answer.getResponseHeader("Content-Type") ?? "").startsWith("text/plain");
  say(
    plain
      ? answer.responseText
      : answer.status === 400
        ? "This page was open too long. Load it again, then repeat the last step."
        : "That did not work, and nothing was changed. Load the page again and repeat it.",
  );
});
document.addEventListener("htmx:sendError", () => say("Ember Lane does not answer. Is it still running? Nothing was changed."));
