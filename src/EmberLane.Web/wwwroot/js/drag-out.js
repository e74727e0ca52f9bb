// Words and bites dragged by their handle into a story, in this window or another: what is carried says what they are, not their footage.
export const carried = "application/x-ember-clip";

// For each handle under the pointer: what it stands for, as { text, clip }; null where nothing is to be dragged.
export function dragsOut(of) {
  document.addEventListener("dragstart", (event) => {
    const handle = event.target.closest?.("[data-drag]"),
      what = handle && of(handle);
    if (what) {
      event.dataTransfer.effectAllowed = "copy";
      event.dataTransfer.setData("text/plain", what.text.replace(/\s+/g, " ").trim());
      event.dataTransfer.setData(carried, what.clip);
    } else if (handle) {
      event.preventDefault();
    }
  });
}
