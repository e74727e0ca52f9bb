import { enlarge } from "./angles.js";
import { onKey, clockText, say } from "./keys.js";
import { Transcript } from "./transcript.js";
import { SittingPlayer } from "./sitting-player.js";
import { choices } from "./choices.js";

let root = null;
start();
// While a sitting is transcribed the page waits; its words come by themselves.
document.addEventListener("htmx:afterSettle", start);

function start() {
  if (root) { return; }
  root = document.getElementById("read");
  if (root) { begin(); }
}

function begin() {
  let page = document.getElementById("page");
  let transcript = new Transcript(page);
  let cursor = 0, anchor = null, follow = true, lit = -1;
  const actions = document.getElementById("actions");
  const clock = document.getElementById("clock");
  const strip = document.getElementById("strip"), stripNow = document.getElementById("strip-now");
  const lights = Object.fromEntries(["bite", "doubtful", "hidden", "found", "chosen", "playing"].map((name, i) => {
    const light = new Highlight();
    light.priority = i;
    CSS.highlights.set(name, light);
    return [name, light];
  }));
  const player = new SittingPlayer(root, (seconds, playing) => {
    clock.textContent = clockText(seconds);
    root.classList.toggle("playing", playing);
    const y = 1000 * seconds / Number(strip.dataset.length);
    stripNow.setAttribute("y1", y);
    stripNow.setAttribute("y2", y);
    const word = transcript.wordAt((seconds * 1000) + 5);
    if (word !== lit) { light(word); }
  });

  function light(word) {
    lit = word;
    lights.playing.clear();
    if (word >= 0 && word < transcript.count) {
      lights.playing.add(transcript.range(word, word));
      if (player.playing) {
        cursor = word;
        if (follow) { show(word); }
      }
    }
  }

  function show(word) {
    const turn = transcript.turnOf(word).element;
    const box = transcript.range(word, word).getBoundingClientRect(), view = page.getBoundingClientRect();
    if (box.height === 0) {
      page.scrollTop += turn.getBoundingClientRect().top - view.top - (view.height / 3);
    } else if (box.top < view.top + 40 || box.bottom > view.bottom - 90) {
      page.scrollTop += box.top - view.top - (view.height / 3);
    }
  }

  function chosen() { return anchor === null ? [cursor, cursor] : [Math.min(anchor, cursor), Math.max(anchor, cursor)]; }

  function choose(word, keepAnchor, seek = true) {
    if (transcript.count === 0) { return; }
    endLoop();
    if (keepAnchor) { anchor ??= cursor; } else { anchor = null; }
    cursor = Math.min(Math.max(0, word), transcript.count - 1);
    show(cursor);
    if (seek && !player.playing) { player.seek(transcript.starts[chosen()[0]] / 1000); }
    paint();
  }

  function paint() {
    lights.chosen.clear();
    const [first, last] = chosen();
    if (anchor === null) { actions.hidden = true; return; }
    lights.chosen.add(transcript.range(first, last));
    actions.hidden = document.querySelector(".beside[open]") !== null;
    const left = page.getBoundingClientRect().right - actions.offsetWidth - 14;
    placeBeside(actions, first, last, left);
    const count = last - first + 1;
    document.getElementById("selected-figure").textContent = `${count} ${count === 1 ? "word" : "words"} · ${((transcript.ends[last] - transcript.starts[first]) / 1000).toFixed(1)} s`;
  }

  // Below the words, so that it hides none of them; above where there is no room below.
  function placeBeside(element, first, last, left) {
    const boxes = transcript.range(first, last).getClientRects(), view = page.getBoundingClientRect();
    const height = element.offsetHeight, end = boxes[boxes.length - 1], below = end ? end.bottom + 6 : view.top;
    const top = below + height <= view.bottom - 8 ? below : (boxes[0]?.top ?? view.top) - height - 6;
    element.style.setProperty("top", `${Math.min(Math.max(view.top + 8, top), view.bottom - height - 8)}px`);
    element.style.setProperty("left", `${left}px`);
  }

  function goTo(number) {
    const word = transcript.placeOf(Number(number));
    if (word !== null) { choose(word, false); }
  }

  function letGo() {
    anchor = null;
    getSelection().removeAllRanges();
    paint();
  }

  // Doubtful words and dots are lit in the turns that are in sight or near it: thousands of lights slow down every frame.
  const sight = new IntersectionObserver((entries) => entries.forEach(({ target, isIntersecting }) => isIntersecting ? lightTurn(target) : darkenTurn(target)), { root: document.querySelector(".read"), rootMargin: "100% 0px" });
  const lightsOfTurn = new Map();
  function lightTurn(element) {
    const turn = transcript.turns.find((other) => other.element === element), ranges = [];
    if (!turn || lightsOfTurn.has(element)) { return; }
    turn.words.forEach((word, i) => {
      const light = word.doubtful ? lights.doubtful : word.hidden ? lights.hidden : null;
      if (light) {
        const range = transcript.range(turn.first + i, turn.first + i);
        light.add(range);
        ranges.push([light, range]);
      }
    });
    lightsOfTurn.set(element, ranges);
  }
  function darkenTurn(element) {
    for (const [light, range] of lightsOfTurn.get(element) ?? []) { light.delete(range); }
    lightsOfTurn.delete(element);
  }

  function marks() {
    sight.disconnect();
    [...lightsOfTurn.keys()].forEach(darkenTurn);
    for (const { element } of transcript.turns) { sight.observe(element); }
    biteMarks();
    counts();
  }

  // As marks, where one turn was drawn anew.
  function marksOf({ element }) {
    if (lightsOfTurn.has(element)) {
      darkenTurn(element);
      lightTurn(element);
    }
    biteMarks();
    counts();
  }

  function biteMarks() {
    lights.bite.clear();
    for (const pair of document.getElementById("bite-marks").textContent.split(" ").filter(Boolean)) {
      const [first, last] = pair.split("-").map((number) => transcript.placeOf(Number(number)));
      if (first !== null && last !== null) { lights.bite.add(transcript.range(first, last)); }
    }
  }

  function counts() {
    const count = document.getElementById("doubtful-count");
    count.textContent = transcript.doubtful.length === 1 ? "1 doubtful word" : `${transcript.doubtful.length} doubtful words`;
    const unsure = transcript.turns.filter((turn) => turn.unsure).length;
    document.querySelector('[data-action="next-unsure"]').hidden = unsure === 0;
    document.getElementById("unsure-count").textContent = unsure === 0 ? "" : unsure === 1 ? "1 unsure voice" : `${unsure} unsure voices`;
  }

  function playOrStop() {
    if (!player.sound) { say("The sound for playing is still being made. It starts by itself in the list of work in hand."); return; }
    if (player.playing) { player.stop(); return; }
    player.play();
  }

  function playSelection() {
    const [first, last] = chosen();
    player.seek(transcript.starts[first] / 1000);
    player.play(transcript.ends[last] / 1000);
  }

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
    dialog.show();
    const box = transcript.range(first, last).getBoundingClientRect(), view = page.getBoundingClientRect();
    placeBeside(dialog, first, last, Math.max(view.left + 14, Math.min(box.left - 20, view.right - dialog.offsetWidth - 14)));
    paint();
    focus(dialog);
  }
  for (const dialog of document.querySelectorAll(".beside")) {
    dialog.addEventListener("keydown", (event) => { if (event.key === "Escape") { dialog.close(); } });
    dialog.addEventListener("close", () => { page.focus({ preventScroll: true }); paint(); });
  }

  function keep() {
    const [first, last] = chosen();
    open("keep-dialog", (dialog) => {
      span(dialog, first, last);
      dialog.querySelector("[name=note]").value = "";
      dialog.querySelector("#keep-words").textContent = transcript.text(first, last);
    }, (dialog) => dialog.querySelector("[name=theme]").select());
  }

  // Tells a form's fields which words are meant, by number.
  function span(dialog, first, last) {
    dialog.querySelector("[name=first]").value = transcript.numbers[first];
    dialog.querySelector("[name=last]").value = transcript.numbers[last];
  }

  // The answer goes into the turn, not in its place: a turn put into the page makes the browser measure all others again.
  function toTurn(form, { element }) {
    form.setAttribute("hx-target", `#${element.id}`);
    form.setAttribute("hx-select", `#${element.id} > *`);
  }

  // The word at the cursor, or the selected ones as far as one person says them.
  function correct() {
    const [from, to] = chosen(), turn = transcript.turnOf(from), end = turn.first + turn.words.length - 1;
    const [first] = transcript.unit(from), [, last] = transcript.unit(Math.min(to, end)), said = transcript.text(first, last);
    openBeside("correct-dialog", [first, last], (dialog) => {
      span(dialog, first, last);
      dialog.querySelector("[name=was]").value = plain(first, last);
      dialog.querySelector("[name=text]").value = plain(first, last) || said;
      dialog.querySelector("#correct-title").textContent = first === last ? "Correct the word" : "Correct the words";
      toTurn(dialog.querySelector("form"), turn);
    }, (dialog) => dialog.querySelector("[name=text]").select());
  }

  // What is read there, without the dots of words that were taken out.
  function plain(first, last) {
    let said = "";
    for (let word = first; word <= last; word += 1) {
      if (!transcript.isHidden(word)) { said += `${said && !transcript.isJoined(word) ? " " : ""}${transcript.text(word, word)}`; }
    }
    return said;
  }

  function insert() {
    const [, word] = chosen(), turn = transcript.turnOf(word), [first, last] = transcript.unit(word);
    openBeside("insert-dialog", [first, last], (dialog) => {
      dialog.querySelector("[name=after]").value = transcript.numbers[last];
      dialog.querySelector("[name=text]").value = "";
      dialog.querySelector("#insert-beside").textContent = transcript.text(first, last);
      toTurn(dialog.querySelector("form"), turn);
    }, (dialog) => dialog.querySelector("[name=text]").focus());
  }

  function nameVoice(voice, name) {
    open("voice-dialog", (dialog) => {
      dialog.querySelector("[name=voice]").value = voice;
      dialog.querySelector("[name=name]").value = /^Voice \S+$/.test(name) ? "" : name;
      voices(dialog.querySelector("[name=into]"), `${voice}`, "nobody else here");
    }, (dialog) => dialog.querySelector("[name=name]").select());
  }

  // The voices there are now, as options; without the one that is asked about.
  function voices(select, without, first) {
    select.replaceChildren(new Option(first, ""), ...[...document.querySelectorAll("#voices li")].filter((item) => item.dataset.voice !== without)
      .map((item) => new Option(item.querySelector(".who span").textContent, item.dataset.voice)));
  }

  function whoSaysIt() {
    if (anchor === null) { nameVoiceOfCursor(); return; }
    const [first, last] = chosen();
    open("give-dialog", (dialog) => {
      span(dialog, first, last);
      dialog.querySelector("[name=name]").value = "";
      dialog.querySelector("#give-words").textContent = transcript.text(first, last);
      voices(dialog.querySelector("[name=voice]"), transcript.turnOf(first) === transcript.turnOf(last) ? transcript.turnOf(first).voice : "", "somebody new");
    }, (dialog) => dialog.querySelector("select").focus());
  }

  // Sends what is to be done with the selected words.
  function change(handler) {
    const [first, last] = chosen();
    htmx.ajax("POST", `?handler=${handler}&first=${transcript.numbers[first]}&last=${transcript.numbers[last]}`, { target: "#page", swap: "outerHTML" });
    letGo();
  }

  function take() {
    const [first, last] = chosen(), part = anchor !== null;
    open("take-dialog", (dialog) => {
      dialog.querySelector("[name=first]").value = part ? transcript.numbers[first] : "";
      dialog.querySelector("[name=last]").value = part ? transcript.numbers[last] : "";
      dialog.querySelector("#take-what").textContent = part ? `The ${last - first + 1} selected words.` : "The whole sitting. Select words first to take only those.";
    }, (dialog) => dialog.querySelector("select").focus());
  }

  async function copy() {
    const answer = await fetch(`?${new URLSearchParams(new FormData(document.querySelector("#take-dialog form")))}`);
    await navigator.clipboard.writeText(await answer.text());
    document.getElementById("take-dialog").close();
    say("Copied.");
  }

  const choice = choices(root, () => { find(); paint(); });
  const field = document.getElementById("find-words"), figure = document.getElementById("found-count");
  let places = [], place = -1;
  function find() {
    places = transcript.find(field.value, { whole: choice("find-whole"), sameCase: choice("find-case"), near: choice("find-near") });
    place = -1;
    lights.found.clear();
    places.forEach(({ range }) => lights.found.add(range));
    figure.textContent = field.value.trim() ? `${places.length}` : "";
  }

  function toPlace(step) {
    if (places.length === 0) { return; }
    place = place < 0 ? Math.max(0, places.findIndex(({ word }) => word >= cursor)) : (place + step + places.length) % places.length;
    figure.textContent = `${place + 1} of ${places.length}`;
    choose(places[place].word, false);
  }

  field.addEventListener("input", find);
  field.addEventListener("keydown", (event) => {
    if (event.key === "Enter") { toPlace(event.shiftKey ? -1 : 1); event.preventDefault(); }
    if (event.key === "Escape") { field.value = ""; find(); page.focus({ preventScroll: true }); }
  });

  function nameVoiceOfCursor() {
    const voice = transcript.turnOf(chosen()[0]).voice;
    nameVoice(voice, document.querySelector(`#voices li[data-voice="${voice}"] .who span`).textContent);
  }

  function undo(redo) {
    htmx.ajax("POST", `?handler=Undo&redo=${redo}`, { target: "#page", swap: "outerHTML" });
  }

  // The next turn whose voice is unsure, selected as a whole.
  function nextUnsure() {
    const here = transcript.turns.indexOf(transcript.turnOf(cursor)), unsure = transcript.turns.filter((turn) => turn.unsure);
    const next = unsure.find((turn) => transcript.turns.indexOf(turn) > here) ?? unsure[0];
    if (!next) { say("No voice is unsure any more."); return; }
    anchor = null;
    choose(next.first, false);
    anchor = next.first;
    cursor = next.first + next.words.length - 1;
    paint();
  }

  // Going elsewhere ends it.
  function endLoop() {
    player.loop = null;
    document.querySelector('[data-action="loop"]').setAttribute("aria-pressed", "false");
  }

  function loop() {
    if (player.loop) { endLoop(); return; }
    document.querySelector('[data-action="loop"]').setAttribute("aria-pressed", "true");
    const turn = transcript.turnOf(cursor), [first, last] = anchor === null ? [turn.first, turn.first + turn.words.length - 1] : chosen();
    player.loop = [transcript.starts[first] / 1000, transcript.ends[last] / 1000];
    player.seek(player.loop[0]);
    player.play(player.loop[1]);
  }

  const rates = document.getElementById("rate");
  function pace(step) {
    rates.selectedIndex = Math.min(Math.max(0, rates.selectedIndex + step), rates.length - 1);
    player.setRate(Number(rates.value));
  }
  rates.addEventListener("change", () => { pace(0); page.focus({ preventScroll: true }); });

  function nextDoubtful() {
    const next = transcript.doubtful.find((word) => word > cursor) ?? transcript.doubtful[0];
    if (next === undefined) { say("No word is doubtful any more."); return; }
    anchor = null;
    choose(next, false);
    anchor = next;
    paint();
  }

  function turnStep(step) {
    const index = transcript.turns.indexOf(transcript.turnOf(cursor));
    const turn = transcript.turns[Math.min(Math.max(0, index + step), transcript.turns.length - 1)];
    return turn.first;
  }

  // One word on lies to the left where the script runs so.
  function onward() { return transcript.turnOf(cursor).element.querySelector(".speech").dir === "rtl" ? -1 : 1; }

  function size(step) {
    const now = parseInt(getComputedStyle(document.documentElement).getPropertyValue("--speech-size"), 10) || 19;
    const next = Math.min(34, Math.max(14, now + step));
    document.documentElement.style.setProperty("--speech-size", `${next}px`);
    localStorage.setItem("speech-size", next);
  }

  root.addEventListener("scroll", () => { if (!actions.hidden) { paint(); } }, { passive: true, capture: true });

  onKey((event) => {
    const shift = event.shiftKey;
    switch (event.key) {
      case " ": playOrStop(); return true;
      case "ArrowLeft": choose(cursor - onward(), shift); return true;
      case "ArrowRight": choose(cursor + onward(), shift); return true;
      case "ArrowUp": choose(turnStep(-1), shift); return true;
      case "ArrowDown": choose(turnStep(1), shift); return true;
      case "Enter": playSelection(); return true;
      case "Escape": letGo(); return true;
      default:
    }
    switch (event.key.toLowerCase()) {
      case "b": keep(); return true;
      case "e": correct(); return true;
      case "i": insert(); return true;
      case "v": whoSaysIt(); return true;
      case "o": if (anchor !== null) { change("Hide"); return true; } return false;
      case "j": if (anchor !== null) { change("Join"); return true; } return false;
      case "/": field.focus(); return true;
      case "n": nextDoubtful(); return true;
      case "w": nextUnsure(); return true;
      case "l": loop(); return true;
      case "-": pace(-1); return true;
      case "+": case "=": pace(1); return true;
      case "u": undo(shift); return true;
      default: return /^[1-9]$/.test(event.key) && enlarge(event.key);
    }
  });

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-action]");
    const byAction = {
      play: playOrStop, keep, correct, insert, voice: whoSaysIt, hide: () => change("Hide"), join: () => change("Join"), take, copy, replace: () => document.getElementById("replace-dialog").showModal(), "play-selection": playSelection, "next-doubtful": nextDoubtful, "next-unsure": nextUnsure, loop, undo: () => undo(false),
      smaller: () => size(-1), larger: () => size(1),
      angle: () => enlarge(button.closest(".angle").dataset.angle),
      "name-voice": () => nameVoice(button.closest("[data-voice]").dataset.voice, button.querySelector("span").textContent),
      follow: () => { follow = !follow; button.setAttribute("aria-pressed", follow); },
    };
    if (button && byAction[button.dataset.action]) {
      byAction[button.dataset.action]();
      return;
    }
    const bar = event.target.closest(".strip-voice");
    if (bar) { goTo(bar.dataset.first); }
  });

  // A click goes to the word; drawing over words selects them.
  document.addEventListener("mouseup", (event) => {
    if (!event.target.closest?.("#page .speech")) { return; }
    const selection = getSelection();
    if (selection.rangeCount === 0) { return; }
    const range = selection.getRangeAt(0);
    const first = transcript.wordOf(range.startContainer, range.startOffset + (selection.isCollapsed ? 0 : 1)), last = transcript.wordOf(range.endContainer, range.endOffset);
    if (first === null || last === null) { return; }
    endLoop();
    const drawn = !selection.isCollapsed && selection.toString().trim().length > 0;
    selection.removeAllRanges();
    page.focus({ preventScroll: true });
    if (drawn || event.shiftKey) {
      anchor = event.shiftKey && !drawn ? (anchor ?? cursor) : first;
      cursor = event.shiftKey && !drawn ? first : last;
      player.seek(transcript.starts[chosen()[0]] / 1000);
      paint();
    } else {
      anchor = null;
      cursor = first;
      player.seek(transcript.starts[first] / 1000);
      paint();
    }
  });

  // A page that is laid anew stays where it was: the first turn that is seen keeps its place. How far it was scrolled does not tell, since turns out of sight have no exact height yet.
  let held = null;
  document.addEventListener("htmx:beforeSwap", ({ detail }) => {
    if (detail.target !== page) { return; }
    const top = page.getBoundingClientRect().top, turn = transcript.turns.find(({ element }) => element.getBoundingClientRect().bottom > top);
    held = turn ? { number: transcript.numbers[turn.first], by: turn.element.getBoundingClientRect().top - top } : null;
  });
  function holdPlace() {
    const place = held && transcript.placeOf(held.number), by = held?.by;
    held = null;
    if (place === null) { return; }
    const { element } = transcript.turnOf(place);
    // What comes into sight gets its true height only then, so that it takes a few frames to stand still.
    const settle = (times) => {
      page.scrollTop += element.getBoundingClientRect().top - page.getBoundingClientRect().top - by;
      if (times > 0) { requestAnimationFrame(() => settle(times - 1)); }
    };
    settle(4);
  }

  document.addEventListener("htmx:afterSettle", ({ target }) => {
    forgetSeen();
    if (player.sound !== root.querySelector("#sound")) { player.find(); }
    if (!target.closest("#page")) { return; }
    page = document.getElementById("page");
    if (target.id === "bite-marks") { biteMarks(); return; }
    const turn = target.closest(".turn") && transcript.readAgain(target.closest(".turn"));
    if (turn) {
      marksOf(turn);
    } else {
      transcript = new Transcript(page);
      holdPlace();
      marks();
    }
    find();
    lit = -1;
    light(transcript.wordAt((player.now * 1000) + 5));
    paint();
  });

  // What this page shows of the text's changes: all of them when it was laid anew, one more when only a turn was.
  const seen = document.getElementById("seen");
  document.addEventListener("changed", ({ detail }) => {
    if (detail.whole || Number(seen.value) === detail.version - 1) { seen.value = detail.version; }
    forgetSeen();
  });

  // News of a change may overtake the answer to the one who made it.
  function forgetSeen() {
    const line = document.querySelector("#others [data-version]");
    if (line && Number(line.dataset.version) <= Number(seen.value)) { line.remove(); }
  }

  const stored = Number(localStorage.getItem("speech-size"));
  if (stored >= 14 && stored <= 34) { document.documentElement.style.setProperty("--speech-size", `${stored}px`); }
  marks();
  const asked = /^#word-(\d+)$/.exec(location.hash);
  if (asked) { goTo(asked[1]); }
  page.focus({ preventScroll: true });
  root.dataset.ready = "true";
}
