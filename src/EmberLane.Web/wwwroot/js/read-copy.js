import { dragsOut } from "./drag-out.js";
import { say } from "./keys.js";
import { store } from "./story-clip.js";

// Words to the clipboard.
export function copying(read) {
  // As the dialog says how; a Word document is copied as text.
  async function copy(fields) {
    if (fields.get("format") === "docx") {
      fields.set("format", "txt");
    }
    const answer = await fetch(`?${new URLSearchParams(fields)}`);
    if (!answer.ok) {
      say(await answer.text());
      return;
    }
    const text = await answer.text();
    // A story puts in the footage of these words.
    if (fields.get("first")) {
      store(text, clipOf(Number(fields.get("first")), Number(fields.get("last"))));
    }
    await navigator.clipboard.writeText(text);
    say(fields.get("first") ? "The selected words are copied. V in a story puts their footage in." : "The whole text is copied.");
  }

  function clipOf(first, last) {
    const { sitting, text } = read.root.dataset;
    return JSON.stringify({ sitting: Number(sitting), text: Number(text), first, last });
  }

  dragsOut(() => {
    const [first, last] = read.cursor.chosen(),
      { numbers } = read.transcript;
    return { text: read.transcript.range(first, last).toString(), clip: clipOf(numbers[first], numbers[last]) };
  });

  async function copyAsAsked() {
    await copy(new FormData(document.querySelector("#take-dialog form")));
    document.getElementById("take-dialog").close();
  }

  // In one step: the selected words, else the whole text; with names where more than one turn is copied.
  function copyNow() {
    const [first, last] = read.cursor.chosen(),
      part = read.cursor.selecting,
      fields = new FormData();
    fields.set("handler", "Take");
    fields.set("format", "txt");
    fields.set("names", !part || read.transcript.turnOf(first) !== read.transcript.turnOf(last));
    if (part) {
      fields.set("first", read.transcript.numbers[first]);
      fields.set("last", read.transcript.numbers[last]);
    }
    copy(fields);
  }

  document.addEventListener("copy", (event) => {
    if (event.target.closest?.("input, textarea, dialog") || !getSelection().isCollapsed || !read.cursor.selecting) {
      return;
    }
    event.preventDefault();
    copyNow();
  });

  return { copyNow, copyAsAsked };
}
