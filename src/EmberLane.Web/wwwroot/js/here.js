// What is in hand on this page is told to the server, which tells those who ask where others are: words, a bite or a card.

import { events } from "./news.js";

const { production } = document.body.dataset,
  rests = 700;
let seat = "",
  inHand = "",
  waiting;

const tell = () => {
  if (seat && inHand) {
    // Nobody waits for it: where it is lost, the next one tells.
    fetch(`/productions/${production}/since?handler=InHand&seat=${seat}&${inHand}`, {
      method: "POST",
      headers: JSON.parse(document.body.getAttribute("hx-headers")),
    }).catch(() => {});
  }
};
// What is passed over on the way to something is not told.
const take = (what) => {
  if (what && what !== inHand) {
    inHand = what;
    clearTimeout(waiting);
    waiting = setTimeout(tell, rests);
  }
};
events.addEventListener("seat", ({ data }) => {
  seat = data;
  tell();
});
document.addEventListener("focusin", ({ target }) => take(target.closest("[data-talk]")?.dataset.talk));
document.addEventListener("in-hand", ({ detail }) => take(detail));
