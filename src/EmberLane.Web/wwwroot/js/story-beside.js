// The story and what it is taken from, side by side: a word of the one is found in the other.
import { beside, openBeside } from "./beside.js";
import { say } from "./keys.js";
import { state } from "./story-drawn.js";
import { selectIn, selected } from "./story-words.js";

const sourceOf = ({ dataset }) => ({ production: dataset.production, sitting: dataset.sitting, word: dataset.word });

async function asked(handler, values) {
  const answer = await fetch(`${location.pathname}?${new URLSearchParams({ handler, version: state().version, ...values })}`);
  return answer.ok ? answer.json() : null;
}

// Goes to the card that shows a moment of a sitting, the one that is shown already where it does, and selects the word there.
async function go({ sitting, at }) {
  const all = [...document.querySelectorAll(`.card-piece[data-sitting="${sitting}"]`)].filter(
    ({ dataset }) => Number(dataset.in) <= at && at < Number(dataset.out),
  );
  const card = all.find((own) => own.contains(document.activeElement)) ?? all[0];
  if (!card) {
    return;
  }
  card.focus({ preventScroll: true });
  card.scrollIntoView({ block: "nearest" });
  const word = await asked("WordAt", { card: card.dataset.card, at });
  if (word && card.isConnected) {
    selectIn(card, word.from, word.to);
  }
}

export function following() {
  const { isFollowing, tell } = beside(go);
  let soon = null;
  document.addEventListener("selectionchange", () => {
    clearTimeout(soon);
    soon = setTimeout(async () => {
      const words = isFollowing() ? selected() : null;
      const place = words && (await asked("Source", { card: words.from, at: words.fromAt }));
      if (place) {
        tell(place);
      }
    }, 150);
  });
  return {
    card: (card) => card.dataset.sitting && !selected() && tell(sourceOf(card)),
    open: (card) => {
      if (!card?.dataset.sitting) {
        say("Go to a card first: what it is taken from is opened beside.");
        return;
      }
      const { production, sitting, word } = sourceOf(card);
      openBeside(`/productions/${production}/read/${sitting}#word-${word}`);
    },
  };
}
