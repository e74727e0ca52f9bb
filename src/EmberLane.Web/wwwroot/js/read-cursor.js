// Where one is in the text: a word, and from where to there words are selected. It steps, goes and is shown; the sound goes along.
export class Cursor {
  constructor(read) {
    this.read = read;
    this.word = 0;
    this.anchor = null;
    // Hears of each word that a person goes to.
    this.onGone = () => {};
    this.actions = document.getElementById("actions");
    this.placeKey = `read-place-${read.root.dataset.sitting}`;
    window.addEventListener("pagehide", () => this.keepPlace());
    window.addEventListener("hashchange", () => this.goToAsked());
  }

  gone() {
    this.onGone(this.word);
    const number = this.read.transcript.numbers[this.word];
    document.dispatchEvent(
      new CustomEvent("in-hand", { detail: `sitting=${this.read.root.dataset.sitting}&first=${number}&last=${number}` }),
    );
  }

  get selecting() {
    return this.anchor !== null;
  }

  // The first and the last selected word; both are the cursor's where none is selected.
  chosen() {
    return this.anchor === null ? [this.word, this.word] : [Math.min(this.anchor, this.word), Math.max(this.anchor, this.word)];
  }

  choose(word, keepAnchor, seek = true) {
    const { transcript, player } = this.read;
    if (transcript.count === 0) {
      return;
    }
    this.read.endLoop();
    this.anchor = keepAnchor ? (this.anchor ?? this.word) : null;
    this.word = Math.min(Math.max(0, word), transcript.count - 1);
    this.read.folds.unfold(this.word);
    this.show(this.word);
    if (seek && !player.playing) {
      this.seek();
    }
    this.paint();
    this.gone();
  }

  select(first, last) {
    this.anchor = null;
    this.choose(first, false);
    this.anchor = first;
    this.word = last;
    this.paint();
  }

  letGo() {
    this.anchor = null;
    getSelection().removeAllRanges();
    this.paint();
  }

  // What was drawn or clicked with the mouse, without scrolling; the sound goes to its first word.
  put(word, anchor) {
    this.word = word;
    this.anchor = anchor;
    this.seek();
    this.paint();
    this.gone();
  }

  seek() {
    this.read.player.seek(this.read.transcript.starts[this.chosen()[0]] / 1000);
  }

  // A step by words passes over what is folded.
  stepWord(step, keepAnchor) {
    const { transcript } = this.read,
      next = transcript.inSight(Math.min(Math.max(0, this.word + step), transcript.count - 1), step);
    if (next !== null) {
      this.choose(next, keepAnchor);
    }
  }

  // To the first word in sight of the next turn that shows one.
  stepTurn(step, keepAnchor) {
    const { transcript } = this.read;
    for (let at = transcript.turns.indexOf(transcript.turnOf(this.word)) + step; at >= 0 && at < transcript.turns.length; at += step) {
      const turn = transcript.turns[at],
        word = transcript.inSight(turn.first, 1);
      if (word !== null && word < turn.first + turn.words.length) {
        this.choose(word, keepAnchor);
        return;
      }
    }
    this.choose(step < 0 ? (transcript.inSight(0, 1) ?? this.word) : this.word, keepAnchor);
  }

  // One word on lies to the left where the script runs so.
  get onward() {
    return this.read.transcript.turnOf(this.word).element.querySelector(".speech").dir === "rtl" ? -1 : 1;
  }

  goTo(number) {
    const word = this.read.transcript.placeOf(Number(number));
    if (word !== null) {
      this.choose(word, false);
    }
  }

  // The word that the address names; another address of the same page does not load it again.
  goToAsked() {
    const asked = /^#word-(\d+)$/.exec(location.hash);
    if (asked) {
      this.goTo(asked[1]);
      return true;
    }
    // By time, where the sitting may be read by another text than when the address was made.
    const at = /^#at-([\d.]+)$/.exec(location.hash),
      word = at ? this.read.transcript.between(Number(at[1]) * 1000, Number(at[1]) * 1000 + 1)?.[0] : undefined;
    if (word !== undefined) {
      this.choose(word, false);
    }
    return word !== undefined;
  }

  // Reading goes on where it was left, in this browser; a sitting that was never read begins at its first word, where there are pictures.
  goToWhereItWasLeft() {
    const { transcript } = this.read,
      left = transcript.placeOf(Number(localStorage.getItem(this.placeKey) ?? NaN));
    this.choose(left ?? transcript.inSight(0, 1) ?? 0, false);
  }

  keepPlace() {
    if (this.read.transcript.count > 0) {
      localStorage.setItem(this.placeKey, this.read.transcript.numbers[this.word]);
    }
  }

  show(word) {
    const { page, transcript } = this.read,
      turn = transcript.turnOf(word).element,
      box = transcript.range(word, word).getBoundingClientRect(),
      view = page.getBoundingClientRect();
    if (box.height === 0) {
      page.scrollTop += turn.getBoundingClientRect().top - view.top - view.height / 3;
    } else if (box.top < view.top + 40 || box.bottom > view.bottom - 90) {
      page.scrollTop += box.top - view.top - view.height / 3;
    }
  }

  paint() {
    const { lights, transcript, page } = this.read,
      [first, last] = this.chosen();
    lights.chosen.clear();
    if (!this.selecting) {
      this.actions.hidden = true;
      return;
    }
    lights.chosen.add(transcript.range(first, last));
    const words = Array.from({ length: last - first + 1 }, (_, i) => first + i);
    this.actions.querySelector("[data-action=aside] span").textContent = words.every((word) => transcript.isAside(word))
      ? "Bring back"
      : "Set aside";
    this.actions.hidden = document.querySelector(".beside[open]") !== null;
    this.placeBeside(this.actions, first, last, page.getBoundingClientRect().right - this.actions.offsetWidth - 14);
    document.getElementById("selected-figure").textContent =
      `${words.length} ${words.length === 1 ? "word" : "words"} · ` +
      `${((transcript.ends[last] - transcript.starts[first]) / 1000).toFixed(1)} s`;
  }

  // Below the words, so that it hides none of them; above where there is no room below.
  placeBeside(element, first, last, left) {
    const boxes = this.read.transcript.range(first, last).getClientRects(),
      view = this.read.page.getBoundingClientRect(),
      height = element.offsetHeight,
      end = boxes[boxes.length - 1],
      below = end ? end.bottom + 6 : view.top,
      top = below + height <= view.bottom - 8 ? below : (boxes[0]?.top ?? view.top) - height - 6;
    element.style.setProperty("top", `${Math.min(Math.max(view.top + 8, top), view.bottom - height - 8)}px`);
    element.style.setProperty("left", `${left}px`);
  }
}

// A click goes to the word; drawing over words selects them.
export function drawing(read) {
  document.addEventListener("mouseup", (event) => {
    if (!event.target.closest?.("#page .speech") || event.target.closest("button")) {
      return;
    }
    const selection = getSelection();
    if (selection.rangeCount === 0) {
      return;
    }
    const { cursor, transcript } = read,
      range = selection.getRangeAt(0),
      first = transcript.wordOf(range.startContainer, range.startOffset + (selection.isCollapsed ? 0 : 1)),
      last = transcript.wordOf(range.endContainer, range.endOffset);
    if (first === null || last === null) {
      return;
    }
    read.endLoop();
    const drawn = !selection.isCollapsed && selection.toString().trim().length > 0;
    selection.removeAllRanges();
    read.page.focus({ preventScroll: true });
    if (drawn) {
      cursor.put(last, first);
    } else {
      cursor.put(first, event.shiftKey ? (cursor.anchor ?? cursor.word) : null);
    }
  });
}
