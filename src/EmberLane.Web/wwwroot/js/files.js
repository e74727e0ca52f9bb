// Ticks in the list of files: all at once, a run of them with Shift, and how many there are.
import { commands } from "./commands.js";
import "./undo.js";
import { step } from "./list-keys.js";

const boxes = () => [...document.querySelectorAll("#files input[name=files]")];
let last = null;

function count() {
  const all = boxes(),
    ticked = all.filter((box) => box.checked).length,
    every = document.getElementById("tick-all");
  document.getElementById("ticked").textContent = ticked === 0 ? "none ticked" : `${ticked} ticked`;
  document.querySelectorAll("[data-needs-ticks]").forEach((button) => {
    button.disabled = ticked === 0;
  });
  if (every) {
    every.checked = ticked > 0 && ticked === all.length;
    every.indeterminate = ticked > 0 && ticked < all.length;
  }
  const title = document.getElementById("title");
  title.hidden = document.getElementById("into").value !== "new";
}

document.addEventListener("click", ({ target, shiftKey }) => {
  if (target.dataset?.fill) {
    document.getElementById(target.dataset.fill).value = target.dataset.text;
    return;
  }
  if (target.id === "tick-all") {
    boxes().forEach((box) => {
      box.checked = target.checked;
    });
  } else if (target.matches?.("#files input[name=files]")) {
    const all = boxes(),
      from = all.findIndex((box) => box.value === last),
      to = all.indexOf(target);
    if (shiftKey && from >= 0) {
      all.slice(Math.min(from, to), Math.max(from, to) + 1).forEach((box) => {
        box.checked = target.checked;
      });
    }
    last = target.value;
  }
  count();
});
document.addEventListener("change", ({ target }) => {
  count();
  if (target.id === "into" && target.value === "new") {
    document.getElementById("title").focus();
  }
});
document.addEventListener("htmx:afterSettle", ({ target }) => {
  if (target.id === "labels-dialog" && target.querySelector("form")) {
    target.showModal();
  }
  if (document.getElementById("files")) {
    count();
  }
});
commands(
  {
    up: () => step("#files tbody input", -1),
    down: () => step("#files tbody input", 1),
    find: () => document.getElementById("q").focus(),
  },
  (name) => (name === "labels" ? document.getElementById("files") : null),
);
count();

// What is noted in the background (spoken starts, found files) shows by itself, unless the person is at work in the list.
document.body.addEventListener("work", () => {
  const list = document.getElementById("files");
  if (!list.contains(document.activeElement) && !boxes().some((box) => box.checked) && !document.querySelector("dialog[open]")) {
    htmx.ajax("GET", list.dataset.here, { target: "#files", swap: "outerHTML" });
  }
});
