// What is dragged in from Read, Find or Bites, of this window or another, comes behind the piece under the pointer; on its upper half
// before it.
import { carried } from "./drag-out.js";
import { piecesOf } from "./story-clip.js";

const nowhere = "00000000-0000-0000-0000-000000000000";
const isOurs = ({ dataTransfer }) => dataTransfer?.types.includes(carried);

// The piece behind which it would come; null at the end of the story, or where the pointer is in none.
function behindAt({ target, clientY }) {
  const piece = target.closest?.(".piece");
  if (!piece) {
    return null;
  }
  const { top, height } = piece.getBoundingClientRect();
  const behind = clientY < top + height / 2 ? piece.previousElementSibling : piece;
  return behind?.dataset.card ?? nowhere;
}

// What is carried; the server refuses what is no clip.
function told(clip) {
  try {
    return JSON.parse(clip) ?? {};
  } catch {
    return {};
  }
}

// `put` puts a clip, as JSON, behind a piece.
export function drops(put) {
  const shown = () =>
    document.querySelectorAll(".drop-behind, .drop-before").forEach((p) => p.classList.remove("drop-behind", "drop-before"));
  document.addEventListener("dragover", (event) => {
    if (!isOurs(event) || !event.target.closest?.("#story")) {
      return;
    }
    event.preventDefault();
    event.dataTransfer.dropEffect = "copy";
    const behind = behindAt(event);
    shown();
    const list = document.getElementById("cards");
    if (behind === nowhere) {
      list.firstElementChild?.classList.add("drop-before");
    } else {
      (behind ? document.getElementById(`piece-${behind}`) : list.lastElementChild)?.classList.add("drop-behind");
    }
  });
  document.addEventListener("dragleave", ({ relatedTarget }) => relatedTarget ?? shown());
  document.addEventListener("drop", async (event) => {
    shown();
    if (!isOurs(event) || !event.target.closest?.("#story")) {
      return;
    }
    event.preventDefault();
    const behind = behindAt(event),
      clip = event.dataTransfer.getData(carried),
      { bites, production } = told(clip),
      json = bites ? await piecesOf(production, bites) : clip;
    if (json !== null) {
      put(json, behind);
    }
  });
}
