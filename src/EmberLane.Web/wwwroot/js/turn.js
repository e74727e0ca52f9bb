// A turn as the page has it: its text in nodes, its words by their letters in that text.
export function wordAtLetter(turn, letter) {
  const index = turn.words.findIndex((word) => letter <= word.from + word.letters);
  return index < 0 ? turn.words.length - 1 : index;
}

// From a letter of one turn's text to a letter of another's, which is not in it any more.
export function between(a, from, b, to) {
  const range = new Range(),
    start = a.nodes.findLast(({ at }) => at <= from),
    end = b.nodes.findLast(({ at }) => at < to) ?? b.nodes[0];
  range.setStart(start.node, from - start.at);
  range.setEnd(end.node, to - end.at);
  return range;
}

// The words as they are read, each as its first and last part.
export function unitsOf(turn) {
  const units = [];
  turn.words.forEach((word, i) => {
    if (word.joined && units.length > 0) {
      units[units.length - 1][1] = i;
    } else {
      units.push([i, i]);
    }
  });
  return units;
}

export function readTurn(element, first) {
  const paragraph = element.querySelector(".speech"),
    nodes = [];
  let text = "";
  for (const part of paragraph.childNodes) {
    const node = part.nodeType === Node.TEXT_NODE ? part : part.classList.contains("aside") ? part.firstChild : null;
    if (node) {
      nodes.push({ node, at: text.length });
      text += node.data;
    }
  }
  let from = 0,
    start = 0,
    number = Number(element.dataset.first);
  const words = paragraph.dataset.times.split(" ").map((field) => {
    const [gap, length, letters] = field.split(","),
      own = letters.indexOf("#"),
      joined = letters.includes("+");
    start += Number(gap);
    if (joined) {
      from -= 1;
    }
    if (own >= 0) {
      number = Number(letters.slice(own + 1));
    }
    const word = {
      number,
      start,
      end: start + Number(length),
      from,
      letters: parseInt(letters, 10),
      doubtful: letters.includes("?"),
      hidden: letters.includes("-"),
      aside: letters.includes("~"),
      joined,
    };
    from += word.letters + 1;
    number += 1;
    return word;
  });
  return { element, nodes, text, first, unsure: Boolean(element.querySelector(".unsure-voice")), voice: element.dataset.voice, words };
}
