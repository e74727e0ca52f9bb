import { commands } from "./commands.js";
import { onKey, say } from "./keys.js";
import "./narrow.js";
import "./refusals.js";
import { talkInHand, talkOf } from "./talk.js";
import "./theme.js";

const rooms = { g: "G", r: "R", b: "B", s: "S", h: "H" };
let waitingForRoom = 0;

// The second key of two: it is this one's alone, whatever it does on the page.
onKey((event) => {
  const room = rooms[event.key.toLowerCase()];
  if (Date.now() - waitingForRoom >= 1500 || !room) {
    return false;
  }
  waitingForRoom = 0;
  document.querySelector(`.lane a[data-room="${room}"]`)?.click();
  event.stopImmediatePropagation();
  return true;
});
commands({
  room: () => {
    if (!document.querySelector(".lane")) {
      return false;
    }
    waitingForRoom = Date.now();
    return true;
  },
  "find-all": ({ button }) => {
    const find = document.querySelector('a[data-action="find-all"]');
    if (find && !button) {
      find.click();
    }
    return Boolean(find);
  },
  keys: () => document.getElementById("keys").showModal(),
  comment: ({ button }) => talkOf(talkInHand(button ?? document.activeElement)),
});

document.addEventListener("click", ({ target }) => target.closest('[data-action="close"]')?.closest("dialog").close());

// A menu closes when something else is clicked, when one of its commands is chosen, and by Escape.
document.addEventListener("click", ({ target }) =>
  document.querySelectorAll("details.chooser[open]").forEach((menu) => {
    if (!menu.contains(target) || target.closest(".menu > button")) {
      menu.open = false;
    }
  }),
);
document.addEventListener("keydown", (event) => {
  const menu = event.key === "Escape" && event.target.closest("details.chooser[open]");
  if (menu) {
    menu.open = false;
    menu.querySelector("summary").focus();
  }
});

// What a change did elsewhere is told too.
document.body.addEventListener("touched", ({ detail }) => say(detail.value));
document.addEventListener("htmx:afterRequest", (event) => {
  // Only what the form itself sends ends the dialog; a field of it may ask for something meanwhile.
  if (event.target.matches?.("[data-dialog-form]") && event.detail.successful) {
    event.target.closest("dialog").close();
  }
});
document.addEventListener("htmx:xhr:progress", (event) => {
  const bar = event.target.closest?.("[data-upload]")?.querySelector("progress");
  if (bar && event.detail.lengthComputable) {
    bar.hidden = false;
    bar.value = (1000 * event.detail.loaded) / event.detail.total;
  }
});

// An address to be copied: all of it at a click.
document.querySelectorAll("[data-select-all]").forEach((input) => input.addEventListener("focus", () => input.select()));
