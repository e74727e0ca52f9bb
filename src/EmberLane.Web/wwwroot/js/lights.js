// What is lit on the page, through highlights of ranges: the text itself stays as it is.
export class Lights {
  constructor(read) {
    this.read = read;
    ["bite", "used", "storied", "doubtful", "hidden", "found", "chosen", "playing"].forEach((name, i) => {
      this[name] = new Highlight();
      this[name].priority = i;
      CSS.highlights.set(name, this[name]);
    });
    this.ofTurn = new Map();
    // Doubtful words and dots are lit in the turns that are in sight or near it: thousands of lights slow down every frame.
    this.sight = new IntersectionObserver(
      (entries) => entries.forEach(({ target, isIntersecting }) => (isIntersecting ? this.lightTurn(target) : this.darkenTurn(target))),
      { root: document.querySelector(".read"), rootMargin: "100% 0px" },
    );
  }

  lightTurn(element) {
    const turn = this.read.transcript.turns.find((other) => other.element === element),
      ranges = [];
    if (!turn || this.ofTurn.has(element)) {
      return;
    }
    turn.words.forEach((word, i) => {
      const light = word.doubtful ? this.doubtful : word.hidden ? this.hidden : null;
      if (light) {
        // A joined word is doubtful as a whole.
        const range = this.read.transcript.range(
          ...(word.doubtful ? this.read.transcript.unit(turn.first + i) : [turn.first + i, turn.first + i]),
        );
        light.add(range);
        ranges.push([light, range]);
      }
    });
    this.ofTurn.set(element, ranges);
  }

  darkenTurn(element) {
    for (const [light, range] of this.ofTurn.get(element) ?? []) {
      light.delete(range);
    }
    this.ofTurn.delete(element);
  }

  mark() {
    this.sight.disconnect();
    [...this.ofTurn.keys()].forEach((element) => this.darkenTurn(element));
    for (const { element } of this.read.transcript.turns) {
      this.sight.observe(element);
    }
    this.biteMarks();
    this.usedWords();
    this.counts();
  }

  // As mark, where one turn was drawn anew.
  markOne({ element }) {
    if (this.ofTurn.has(element)) {
      this.darkenTurn(element);
      this.lightTurn(element);
    }
    this.biteMarks();
    this.usedWords();
    this.counts();
  }

  // The words whose middles lie in a card, of the story in hand or of another.
  usedWords() {
    this.used.clear();
    this.storied.clear();
    for (const { dataset } of document.querySelectorAll("#in-stories [data-in]")) {
      const words = this.read.transcript.between(Number(dataset.in) * 1000, Number(dataset.out) * 1000);
      if (words !== null) {
        (dataset.hand ? this.storied : this.used).add(this.read.transcript.range(...words));
      }
    }
  }

  biteMarks() {
    this.bite.clear();
    for (const { dataset } of document.querySelectorAll("#bite-marks li")) {
      const [first, last] = [dataset.first, dataset.last].map((number) => this.read.transcript.placeOf(Number(number)));
      if (first !== null && last !== null) {
        this.bite.add(this.read.transcript.range(first, last));
      }
    }
  }

  counts() {
    const count = document.getElementById("doubtful-count");
    count.textContent =
      this.read.transcript.doubtful.length === 1 ? "1 doubtful word" : `${this.read.transcript.doubtful.length} doubtful words`;
    const unsure = this.read.transcript.turns.filter((turn) => turn.unsure).length;
    document.querySelector('[data-action="next-unsure"]').hidden = unsure === 0;
    document.getElementById("unsure-count").textContent = unsure === 0 ? "" : unsure === 1 ? "1 unsure voice" : `${unsure} unsure voices`;
  }
}
