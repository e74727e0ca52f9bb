// The dialogs of Read: each is filled from the words that are meant and answered by its form.
export function dialogs(read) {
  function open(id, fill, focus) {
    const dialog = document.getElementById(id);
    fill(dialog);
    dialog.showModal();
    focus(dialog);
  }

  // Beside the words, with the page left as it is: closing off a page of a long sitting takes the browser longer than the change itself.
  function openBeside(id, [first, last], fill, focus) {
    const dialog = document.getElementById(id);
    document.querySelectorAll(".beside[open]").forEach((other) => other.close());
    fill(dialog);
    dialog.dataset.filled = dialog.querySelector("input:not([type=hidden])").value;
    dialog.show();
    const box = read.transcript.range(first, last).getBoundingClientRect(),
      view = read.page.getBoundingClientRect();
    read.cursor.placeBeside(dialog, first, last, Math.max(view.left + 14, Math.min(box.left - 20, view.right - dialog.offsetWidth - 14)));
    read.cursor.paint();
    focus(dialog);
  }

  for (const dialog of document.querySelectorAll(".beside")) {
    dialog.addEventListener("keydown", (event) => {
      if (event.key === "Escape") {
        dialog.close();
      }
    });
    dialog.addEventListener("close", () => {
      read.page.focus({ preventScroll: true });
      read.cursor.paint();
    });
  }

  // A click on the page goes on with the page: what stands beside the words goes, unless something was typed into it.
  document.addEventListener("pointerdown", ({ target }) => {
    const dialog = document.querySelector(".beside[open]");
    if (
      dialog &&
      target.closest?.("#page, #strip") &&
      !dialog.contains(target) &&
      dialog.querySelector("input:not([type=hidden])").value === dialog.dataset.filled
    ) {
      dialog.close();
    }
  });

  function keep() {
    const [first, last] = read.cursor.chosen();
    open(
      "keep-dialog",
      (dialog) => {
        span(dialog, first, last);
        toTurn(dialog.querySelector("form"), read.transcript.turnOf(first));
        dialog.querySelector("[name=note]").value = "";
        dialog.querySelector("#keep-words").textContent = read.transcript.text(first, last);
      },
      (dialog) => dialog.querySelector("[name=theme]").select(),
    );
  }

  // Tells a form's fields which words are meant, by number.
  function span(dialog, first, last) {
    dialog.querySelector("[name=first]").value = read.transcript.numbers[first];
    dialog.querySelector("[name=last]").value = read.transcript.numbers[last];
  }

  // The answer goes into the turn, not in its place: a turn put into the page makes the browser measure all others again.
  function toTurn(form, { element }) {
    form.setAttribute("hx-target", `#${element.id}`);
    form.setAttribute("hx-select", `#${element.id} > *`);
  }

  // The word at the cursor, or the selected ones as far as one person says them.
  function correct() {
    const [from, to] = read.cursor.chosen(),
      turn = read.transcript.turnOf(from),
      end = turn.first + turn.words.length - 1;
    const [first] = read.transcript.unit(from),
      [, last] = read.transcript.unit(Math.min(to, end)),
      said = read.transcript.text(first, last);
    openBeside(
      "correct-dialog",
      [first, last],
      (dialog) => {
        span(dialog, first, last);
        dialog.querySelector("[name=was]").value = plain(first, last);
        dialog.querySelector("[name=text]").value = plain(first, last) || said;
        dialog.querySelector("#correct-title").textContent = first === last ? "Correct the word" : "Correct the words";
        toTurn(dialog.querySelector("form"), turn);
      },
      (dialog) => dialog.querySelector("[name=text]").select(),
    );
  }

  // What is read there, without the dots of words that were taken out.
  function plain(first, last) {
    let said = "";
    for (let word = first; word <= last; word += 1) {
      if (!read.transcript.isHidden(word)) {
        said += `${said && !read.transcript.isJoined(word) ? " " : ""}${read.transcript.text(word, word)}`;
      }
    }
    return said;
  }

  function insert() {
    const [, word] = read.cursor.chosen(),
      turn = read.transcript.turnOf(word),
      [first, last] = read.transcript.unit(word);
    openBeside(
      "insert-dialog",
      [first, last],
      (dialog) => {
        dialog.querySelector("[name=after]").value = read.transcript.numbers[last];
        dialog.querySelector("[name=text]").value = "";
        dialog.querySelector("#insert-beside").textContent = read.transcript.text(first, last);
        toTurn(dialog.querySelector("form"), turn);
      },
      (dialog) => dialog.querySelector("[name=text]").focus(),
    );
  }

  function nameVoice(voice, name) {
    open(
      "voice-dialog",
      (dialog) => {
        dialog.querySelector("[name=voice]").value = voice;
        dialog.querySelector("[name=name]").value = /^Voice \S+$/.test(name) ? "" : name;
        const elsewhere = Number(document.querySelector(`#voices li[data-voice="${voice}"]`)?.dataset.elsewhere ?? 0),
          everywhere = dialog.querySelector("#voice-everywhere");
        everywhere.hidden = elsewhere === 0;
        everywhere.querySelector("input").checked = true;
        everywhere.querySelector("span").textContent =
          elsewhere === 1 ? "in the other sitting too" : `in the ${elsewhere} other sittings too`;
        voices(dialog.querySelector("[name=into]"), `${voice}`, "nobody else here");
      },
      (dialog) => dialog.querySelector("[name=name]").select(),
    );
  }

  // The voices there are now, as options; without the one that is asked about.
  function voices(select, without, first) {
    select.replaceChildren(
      new Option(first, ""),
      ...[...document.querySelectorAll("#voices li")]
        .filter((item) => item.dataset.voice !== without)
        .map((item) => new Option(item.querySelector(".who span").textContent, item.dataset.voice)),
    );
  }

  function whoSaysIt() {
    if (!read.cursor.selecting) {
      nameVoiceOfCursor();
      return;
    }
    const [first, last] = read.cursor.chosen();
    open(
      "give-dialog",
      (dialog) => {
        span(dialog, first, last);
        dialog.querySelector("[name=name]").value = "";
        dialog.querySelector("#give-words").textContent = read.transcript.text(first, last);
        const turn = read.transcript.turnOf(first);
        voices(
          dialog.querySelector("[name=voice]"),
          turn === read.transcript.turnOf(last) && !turn.unsure ? turn.voice : "",
          "somebody new",
        );
        if (turn.unsure) {
          dialog.querySelector("[name=voice]").value = turn.voice;
        }
      },
      (dialog) => dialog.querySelector("select").focus(),
    );
  }

  function nameVoiceOfCursor() {
    const voice = read.transcript.turnOf(read.cursor.chosen()[0]).voice;
    nameVoice(voice, document.querySelector(`#voices li[data-voice="${voice}"] .who span`).textContent);
  }

  // A flag before the word at the cursor, or the first selected one.
  function flag(word = read.cursor.chosen()[0], there = document.querySelector(`.flag[data-word="${read.transcript.numbers[word]}"]`)) {
    openBeside(
      "flag-dialog",
      [word, word],
      (dialog) => {
        const kinds = dialog.querySelector("[name=kind]");
        dialog.querySelector("[name=word]").value = read.transcript.numbers[word];
        dialog.querySelector("[name=mark]").value = there?.dataset.mark ?? "";
        kinds.value = there?.dataset.kind ?? kinds.options[0].value;
        dialog.querySelector("[name=note]").value = there?.title ?? "";
        dialog.querySelector("[name=away]").hidden = !there;
        toTurn(dialog.querySelector("form"), read.transcript.turnOf(word));
      },
      (dialog) => dialog.querySelector("[name=kind]").focus(),
    );
  }

  // The bite that the cursor is in gets a theme; words outside of every bite are kept as one first.
  function theme() {
    const [first] = read.cursor.chosen(),
      bites = [...document.querySelectorAll("#bite-marks li")];
    const bite = bites.find(
      ({ dataset }) => read.transcript.placeOf(Number(dataset.first)) <= first && first <= read.transcript.placeOf(Number(dataset.last)),
    );
    if (bite && !read.cursor.selecting) {
      themeOf(bite);
    } else {
      keep();
    }
  }

  function themeOf({ dataset }) {
    open(
      "theme-dialog",
      (dialog) => {
        const first = read.transcript.placeOf(Number(dataset.first)),
          last = read.transcript.placeOf(Number(dataset.last));
        dialog.querySelector("[name=bite]").value = dataset.bite;
        dialog.querySelector("[name=theme]").value = dataset.theme;
        dialog.querySelector("[name=note]").value = dataset.note;
        dialog.querySelector("blockquote").textContent = read.transcript.text(first, last);
        toTurn(dialog.querySelector("form"), read.transcript.turnOf(first));
      },
      (dialog) => dialog.querySelector("[name=theme]").select(),
    );
  }

  function take() {
    const [first, last] = read.cursor.chosen(),
      part = read.cursor.selecting;
    open(
      "take-dialog",
      (dialog) => {
        dialog.querySelector("[name=first]").value = part ? read.transcript.numbers[first] : "";
        dialog.querySelector("[name=last]").value = part ? read.transcript.numbers[last] : "";
        dialog.querySelector("#take-what").textContent = part
          ? `The ${last - first + 1} selected words.`
          : "The whole sitting. Select words first to take only those.";
      },
      (dialog) => dialog.querySelector("select").focus(),
    );
  }

  return { keep, correct, insert, nameVoice, whoSaysIt, flag, theme, themeOf, take };
}
