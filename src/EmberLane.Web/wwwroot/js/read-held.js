// A page that is laid anew stays where it was: the first turn that is seen keeps its place. How far it was scrolled does not tell, since
// turns out of sight have no exact height yet.
export function holding(read) {
  let held = null;
  document.addEventListener("htmx:beforeSwap", ({ detail }) => {
    const { page, transcript } = read;
    if (detail.target !== page) {
      return;
    }
    const top = page.getBoundingClientRect().top,
      turn = transcript.turns.find(({ element }) => element.getBoundingClientRect().bottom > top);
    held = turn ? { number: transcript.numbers[turn.first], by: turn.element.getBoundingClientRect().top - top } : null;
  });

  return function holdPlace() {
    const { page, transcript } = read,
      place = held && transcript.placeOf(held.number),
      by = held?.by;
    held = null;
    if (place === null) {
      return;
    }
    const { element } = transcript.turnOf(place);
    // What comes into sight gets its true height only then, so that it takes a few frames to stand still.
    const settle = (times) => {
      page.scrollTop += element.getBoundingClientRect().top - page.getBoundingClientRect().top - by;
      if (times > 0) {
        requestAnimationFrame(() => settle(times - 1));
      }
    };
    settle(4);
  };
}
