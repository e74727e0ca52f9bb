// The strip of the whole sitting: where it is heard and which part of it the page shows. The server draws it anew after a change.
export class Strip {
  get element() {
    return document.getElementById("strip");
  }
  get length() {
    return Number(this.element.dataset.length);
  }

  now(seconds) {
    // Finer than can be seen would only cost: it is asked for in every frame.
    const y = `${((100 * seconds) / this.length).toFixed(1)}%`,
      line = document.getElementById("strip-now");
    if (line.getAttribute("y1") === y) {
      return;
    }
    line.setAttribute("y1", y);
    line.setAttribute("y2", y);
  }

  // What lies in stories, of the stretches that the page lists: it changes far more often than the rest of the strip.
  used() {
    const place = document.getElementById("strip-used");
    place.replaceChildren(
      ...[...document.querySelectorAll("#in-stories [data-in]")].map(({ dataset }) => {
        const line = document.createElementNS("http://www.w3.org/2000/svg", "line"),
          at = (seconds) => `${(100 * Number(seconds)) / this.length}%`;
        const { x } = place.dataset;
        Object.entries({ class: "strip-used", x1: x, x2: x, y1: at(dataset.in), y2: at(dataset.out) }).forEach((attribute) =>
          line.setAttribute(...attribute),
        );
        return line;
      }),
    );
  }

  // The moment, in seconds, that a height in the window stands for.
  at(clientY) {
    const box = this.element.getBoundingClientRect();
    return (this.length * (clientY - box.top)) / box.height;
  }

  view(page, { turns, starts, ends }) {
    if (turns.length === 0) {
      return;
    }
    const box = page.getBoundingClientRect();
    // The turns lie in order, so that the first one that ends below a height is found by halving.
    const below = (height) => {
      let low = 0,
        high = turns.length - 1;
      while (low < high) {
        const middle = (low + high) >> 1;
        if (turns[middle].element.getBoundingClientRect().bottom > height) {
          high = middle;
        } else {
          low = middle + 1;
        }
      }
      return turns[low];
    };
    const first = below(box.top),
      last = below(box.bottom - 1),
      from = starts[first.first] / 1000,
      to = ends[last.first + last.words.length - 1] / 1000;
    const view = document.getElementById("strip-view");
    view.setAttribute("y", `${(100 * from) / this.length}%`);
    view.setAttribute("height", `${(100 * Math.max(0, to - from)) / this.length}%`);
  }
}
