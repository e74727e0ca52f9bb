// The sitting that is read and the story, side by side: where one is here is told there, and the other way round.
import { beside, openBeside } from "./beside.js";

const { production } = document.body.dataset;

export function besides(read) {
  const { sitting } = read.root.dataset;
  const { tell } = beside((place) => {
    if (place.word === undefined) {
      return;
    }
    if (String(place.sitting) === sitting) {
      read.cursor.goTo(place.word);
    } else {
      location.href = `/productions/${place.production}/read/${place.sitting}#word-${place.word}`;
    }
  });
  read.cursor.onGone = (word) => tell({ sitting, at: (read.transcript.starts[word] + read.transcript.ends[word]) / 2000 });
  return () => openBeside(`/productions/${production}/story`);
}
