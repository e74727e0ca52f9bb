// Passages that were set aside fold to a mark. Those that are open stay so when their turn is drawn anew; each is known by a word in it.
export class Folds {
  constructor(read) {
    this.read = read;
    this.unfolded = new Set();
  }

  unfold(word) {
    const fold = this.read.transcript.foldOf(word);
    if (fold) {
      fold.setAttribute("aria-expanded", "true");
      this.unfolded.add(this.read.transcript.numbers[word]);
    }
  }

  again() {
    for (const number of this.unfolded) {
      const word = this.read.transcript.placeOf(number);
      if (word !== null && this.read.transcript.isAside(word)) {
        this.unfold(word);
      } else {
        this.unfolded.delete(number);
      }
    }
  }

  toggle(fold) {
    if (fold.getAttribute("aria-expanded") === "false") {
      this.unfold(this.read.transcript.wordOf(fold.nextElementSibling.firstChild, 1));
    } else {
      fold.setAttribute("aria-expanded", "false");
      for (const number of this.unfolded) {
        if (this.read.transcript.foldOf(this.read.transcript.placeOf(number)) === fold) {
          this.unfolded.delete(number);
        }
      }
    }
  }
}
