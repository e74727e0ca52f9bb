// Comments: what is said of words, a bite or a card, in a dialog over the page; and how many there are of each, written beside them.

const { production } = document.body.dataset;
const dialog = document.getElementById("talk");

// Opens the talk of something that is named as the server asks for it; false where there is nothing to talk of. An element of its own asks
// for it: what a room asks for at the same moment would make it wait.
export function talkOf(asked) {
  if (!asked || !dialog) {
    return false;
  }
  htmx
    .ajax("GET", `/productions/${production}/comments?handler=Talk&${asked}`, {
      source: "#talk-body",
      target: "#talk-body",
      swap: "innerHTML",
    })
    .then(() => {
      if (!dialog.querySelector("#talk-title")) {
        return;
      }
      if (!dialog.open) {
        dialog.showModal();
      }
      dialog.querySelector("textarea")?.focus();
    });
  return true;
}

// What was last in hand: a list that is drawn anew lets go of the focus, and keys still mean the same bite or card.
let last = "";
document.addEventListener("focusin", ({ target }) => {
  last = target.closest("[data-talk]")?.id ?? last;
});
export const talkInHand = (at) => (at?.closest("[data-talk]") ?? document.getElementById(last))?.dataset.talk;

// Figures beside bites and cards, also where they were drawn anew.
function figures() {
  const counts = JSON.parse(document.getElementById("talk-counts")?.dataset.counts ?? "{}");
  document.querySelectorAll("[data-talk-figure]").forEach((figure) => {
    const count = counts[figure.dataset.talkFigure] ?? 0,
      text = count === 0 ? "" : count === 1 ? "1 comment" : `${count} comments`;
    if (figure.textContent !== text) {
      figure.textContent = text;
    }
  });
}
document.addEventListener("htmx:afterSettle", ({ target }) => {
  figures();
  // What was typed into is gone: keys stay with the dialog, so that Escape closes it.
  if (dialog?.open && dialog.contains(target) && !dialog.contains(document.activeElement)) {
    (dialog.querySelector("#talk-new") ?? dialog).focus();
  }
});
