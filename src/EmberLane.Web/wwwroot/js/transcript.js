import { between, readTurn, unitsOf, wordAtLetter } from "./turn.js";
import { bare, closeTo } from "./spelling.js";

// The words of the page: the text of a turn, in a node or a few between its marks, with times beside it. Words are counted through the
// whole page; the server knows each by its number, which stays when words are added before it.
export class Transcript {
  constructor(page) {
    this.page = page;
    this.read();
  }

  read() {
    this.numbers = [];
    this.starts = [];
    this.ends = [];
    this.doubtful = [];
    this.hidden = [];
    this.places = new Map();
    this.turns = [...this.page.querySelectorAll(".turn")].map((element) => {
      const turn = readTurn(element, this.numbers.length);
      for (const word of turn.words) {
        this.places.set(word.number, this.numbers.length);
        this.numbers.push(word.number);
        this.note(word);
      }
      return turn;
    });
  }

  note(word, place = this.starts.length) {
    this.starts[place] = word.start;
    this.ends[place] = word.end;
    if (word.doubtful) {
      this.doubtful.push(place);
    }
    if (word.hidden) {
      this.hidden.push(place);
    }
  }

  // Reads one turn again that was drawn anew. Returns it, or null when it has other words than before, so that all must be read.
  readAgain(element) {
    const at = this.turns.findIndex((turn) => turn.element.id === element.id),
      before = this.turns[at];
    const turn = before && readTurn(element, before.first);
    if (!turn || turn.words.length !== before.words.length || turn.words.some((word, i) => word.number !== before.words[i].number)) {
      return null;
    }
    this.turns[at] = turn;
    const elsewhere = (place) => place < turn.first || place >= turn.first + turn.words.length,
      inOrder = (a, b) => a - b;
    this.doubtful = this.doubtful.filter(elsewhere);
    this.hidden = this.hidden.filter(elsewhere);
    turn.words.forEach((word, i) => this.note(word, turn.first + i));
    this.doubtful.sort(inOrder);
    this.hidden.sort(inOrder);
    return turn;
  }

  // The place of the word with a number; null when it is not read.
  placeOf(number) {
    return this.places.get(number) ?? null;
  }

  // The first and the last word whose middles lie between two moments, in milliseconds; null where there is none.
  between(from, to) {
    const middle = (place) => (this.starts[place] + this.ends[place]) / 2;
    let first = Math.max(0, this.wordAt(from));
    while (first < this.count && middle(first) < from) {
      first += 1;
    }
    let last = first - 1;
    while (last + 1 < this.count && middle(last + 1) < to) {
      last += 1;
    }
    return last < first ? null : [first, last];
  }

  at(place) {
    const turn = this.turnOf(place);
    return turn.words[place - turn.first];
  }
  isHidden(place) {
    return this.at(place).hidden;
  }
  isJoined(place) {
    return this.at(place).joined;
  }
  isAside(place) {
    return this.at(place).aside;
  }

  // The mark that a word is folded into; null when the word is in sight.
  foldOf(place) {
    const turn = this.turnOf(place),
      word = turn.words[place - turn.first];
    if (!word.aside) {
      return null;
    }
    const parent = holderOf(turn, word);
    return getComputedStyle(parent).display === "none" ? parent.previousElementSibling : null;
  }

  // Whether a word is set aside in a passage that folds, and that was opened.
  isOpened(place) {
    const turn = this.turnOf(place),
      word = turn.words[place - turn.first];
    if (!word.aside) {
      return false;
    }
    const parent = holderOf(turn, word);
    return !parent.classList.contains("slight") && getComputedStyle(parent).display !== "none";
  }

  // The nearest word in a direction, from a place on, that is in sight; null when there is none.
  inSight(place, step) {
    while (place >= 0 && place < this.count && this.at(place).aside && this.foldOf(place)) {
      place += step;
    }
    return place >= 0 && place < this.count ? place : null;
  }

  // The first and last place of the word that is read at a place: joined words are one.
  unit(word) {
    const turn = this.turnOf(word),
      joined = (place) => turn.words[place - turn.first]?.joined;
    let first = word,
      last = word;
    while (joined(first)) {
      first -= 1;
    }
    while (joined(last + 1)) {
      last += 1;
    }
    return [first, last];
  }

  get count() {
    return this.starts.length;
  }

  turnOf(word) {
    let low = 0,
      high = this.turns.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.turns[middle].first <= word) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return this.turns[low];
  }

  // The word that is said at a time in ms, or the last one before it; −1 before the first.
  wordAt(ms) {
    let low = -1,
      high = this.count - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.starts[middle] <= ms) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return low;
  }

  // A range over words first..last, both included, which may span turns.
  range(first, last) {
    const a = this.turnOf(first),
      b = this.turnOf(last),
      end = b.words[last - b.first];
    return between(a, a.words[first - a.first].from, b, end.from + end.letters);
  }

  text(first, last) {
    const parts = [];
    for (const turn of this.turns) {
      const from = Math.max(first, turn.first),
        to = Math.min(last, turn.first + turn.words.length - 1);
      if (from <= to) {
        const a = turn.words[from - turn.first],
          b = turn.words[to - turn.first];
        parts.push(turn.text.slice(a.from, b.from + b.letters));
      }
    }
    return parts.join(" ");
  }

  // Every place of a text, as ranges with the word where each begins: anywhere or as whole words, in any case or the same, and near
  // spellings word by word.
  find(text, { whole = false, sameCase = false, near = false } = {}) {
    const fold = (words) => (sameCase ? words : words.toLocaleLowerCase());
    const wanted = fold(text.trim()),
      places = [];
    if (wanted && (whole || near)) {
      return this.findWords(wanted.split(/\s+/), fold, near);
    }
    for (const turn of wanted ? this.turns : []) {
      const said = fold(turn.text);
      for (let at = said.indexOf(wanted); at >= 0; at = said.indexOf(wanted, at + wanted.length)) {
        places.push({
          range: between(turn, at, turn, Math.min(turn.text.length, at + wanted.length)),
          word: turn.first + wordAtLetter(turn, at + 1),
        });
      }
    }
    return places;
  }

  findWords(wanted, fold, near) {
    const asked = wanted.map(bare),
      places = [];
    const fits = (word, other) => word === other || (near && closeTo(word, other));
    for (const turn of this.turns) {
      const units = unitsOf(turn),
        said = units.map(([first, last]) =>
          bare(fold(turn.text.slice(turn.words[first].from, turn.words[last].from + turn.words[last].letters))),
        );
      for (let i = 0; i + asked.length <= said.length; i += 1) {
        if (asked.every((word, n) => fits(said[i + n], word))) {
          places.push({
            range: this.range(turn.first + units[i][0], turn.first + units[i + asked.length - 1][1]),
            word: turn.first + units[i][0],
          });
          i += asked.length - 1;
        }
      }
    }
    return places;
  }

  // The word under a place in a text node of the page.
  wordOf(node, offset) {
    const element = (node.nodeType === Node.TEXT_NODE ? node.parentElement : node)?.closest(".turn");
    const turn = element && this.turns.find((t) => t.element === element);
    if (!turn || turn.words.length === 0) {
      return null;
    }
    const within = turn.nodes.find((part) => part.node === node);
    return turn.first + wordAtLetter(turn, within ? within.at + offset : 0);
  }
}

function holderOf(turn, word) {
  return between(turn, word.from, turn, word.from + word.letters).startContainer.parentElement;
}
