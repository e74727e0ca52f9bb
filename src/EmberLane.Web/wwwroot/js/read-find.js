// Finding on the page: counted, lit, stepped through.
export function finding(read, choice) {
  const field = document.getElementById("find-words"),
    figure = document.getElementById("found-count");
  let places = [],
    place = -1;

  function find() {
    places = read.transcript.find(field.value, { whole: choice("find-whole"), sameCase: choice("find-case"), near: choice("find-near") });
    place = -1;
    read.lights.found.clear();
    places.forEach(({ range }) => read.lights.found.add(range));
    figure.textContent = !field.value.trim() ? "" : places.length === 0 ? "not found" : `${places.length}`;
    figure.title =
      places.length === 0 ? "Not said in this sitting. Near spellings are found too when that is ticked beside the field." : "";
  }

  function toPlace(step) {
    if (places.length === 0) {
      return;
    }
    place =
      place < 0
        ? Math.max(
            0,
            places.findIndex(({ word }) => word >= read.cursor.word),
          )
        : (place + step + places.length) % places.length;
    figure.textContent = `${place + 1} of ${places.length}`;
    read.cursor.choose(places[place].word, false);
  }

  field.addEventListener("input", find);
  field.addEventListener("keydown", (event) => {
    if (event.key === "Enter") {
      toPlace(event.shiftKey ? -1 : 1);
      event.preventDefault();
    }
    if (event.key === "Escape") {
      field.value = "";
      find();
      read.page.focus({ preventScroll: true });
    }
  });

  return { find, field };
}
