// The words of the story that are selected: by mouse, or word by word with the arrow keys; across cards.

const speeches = () => [...document.querySelectorAll(".speech[data-said]")].filter((speech) => speech.offsetParent !== null);

function speechAt(node) {
  return (node?.nodeType === Node.TEXT_NODE ? node.parentElement : node)?.closest?.(".speech[data-said]") ?? null;
}

function words(speech) {
  return [...speech.textContent.matchAll(/\S+/g)].map((match) => ({ from: match.index, to: match.index + match[0].length }));
}

// The selected words as the server takes them, or null: from one character of what a card says to one of the same or a later card.
export function selected() {
  const selection = getSelection();
  if (selection.rangeCount === 0 || selection.isCollapsed) {
    return null;
  }
  const range = selection.getRangeAt(0),
    // Where a selection only touches the border of a card, nothing of that card is meant.
    inside = speeches().filter(
      (speech) =>
        range.intersectsNode(speech) &&
        !(speechAt(range.startContainer) === speech && range.startOffset >= speech.textContent.trimEnd().length) &&
        !(speechAt(range.endContainer) === speech && range.endOffset === 0),
    );
  if (inside.length === 0) {
    return null;
  }
  const [first, last] = [inside[0], inside.at(-1)];
  const fromAt = speechAt(range.startContainer) === first ? range.startOffset : 0,
    toAt = speechAt(range.endContainer) === last ? range.endOffset : last.textContent.length;
  return { from: first.dataset.said, fromAt, to: last.dataset.said, toAt, text: range.toString().trim() };
}

// Selects characters of what a card says.
export function selectIn(card, from, to) {
  const speech = card.querySelector(".speech[data-said]");
  if (speech) {
    select(speech, from, speech, to);
  }
}

function select(speech, from, endSpeech, to) {
  getSelection().setBaseAndExtent(speech.firstChild, from, endSpeech.firstChild, to);
}

// Goes a word back or on from what is selected, or begins in the card that has the focus; with `stretch` the selection grows or shrinks.
export function stepWord(card, direction, stretch) {
  const own = card?.querySelector(".speech[data-said]"),
    now = selected(),
    selection = getSelection();
  if (!now) {
    const list = own ? words(own) : [];
    if (list.length === 0) {
      return false;
    }
    const word = direction > 0 ? list[0] : list.at(-1);
    select(own, word.from, own, word.to);
    return true;
  }
  const all = speeches(),
    focusSpeech = speechAt(selection.focusNode) ?? all.find((speech) => speech.dataset.said === now.to);
  const list = words(focusSpeech),
    edge = selection.focusOffset;
  const at = list.findIndex(({ from, to }) => (stretch || direction > 0 ? edge <= to && edge > from : edge >= from && edge <= to));
  let speech = focusSpeech,
    word = list[(at < 0 ? (direction > 0 ? -1 : list.length) : at) + direction];
  if (!word) {
    speech = all[all.indexOf(focusSpeech) + direction];
    const others = speech ? words(speech) : [];
    word = direction > 0 ? others[0] : others.at(-1);
  }
  if (!word) {
    return true;
  }
  if (stretch) {
    selection.extend(speech.firstChild, word.to);
  } else {
    select(speech, word.from, speech, word.to);
    const owner = speech.closest(".card-piece");
    if (owner !== document.activeElement) {
      owner.focus();
      select(speech, word.from, speech, word.to);
    }
  }
  return true;
}

export function letGo() {
  getSelection().removeAllRanges();
}
