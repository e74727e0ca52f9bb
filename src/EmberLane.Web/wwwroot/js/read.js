import { enlarge } from "./angles.js";
import { commands } from "./commands.js";
import { clockText } from "./keys.js";
import { Transcript } from "./transcript.js";
import { SittingPlayer } from "./sitting-player.js";
import { choices } from "./choices.js";
import { Strip } from "./strip.js";
import { Lights } from "./lights.js";
import { Folds } from "./folds.js";
import { dialogs } from "./read-dialogs.js";
import { copying } from "./read-copy.js";
import { finding } from "./read-find.js";
import { holding } from "./read-held.js";
import { listening } from "./read-listening.js";
import { goingOn } from "./read-next.js";

let root = null;
start();
// While a sitting is transcribed the page waits; its words come by themselves.
document.addEventListener("htmx:afterSettle", start);

function start() {
  if (root) {
    return;
  }
  root = document.getElementById("read");
  if (root) {
    begin();
  }
}

function begin() {
  let page = document.getElementById("page");
  let transcript = new Transcript(page);
  let cursor = 0,
    anchor = null,
    follow = true,
    lit = -1;
  const actions = document.getElementById("actions");
  const clock = document.getElementById("clock");
  // What the parts of the room need of it.
  const read = {
    get page() {
      return page;
    },
    get transcript() {
      return transcript;
    },
    get cursor() {
      return cursor;
    },
    get selecting() {
      return anchor !== null;
    },
    get lights() {
      return lights;
    },
    chosen,
    choose,
    select,
    letGo,
    send,
    paint,
    placeBeside,
  };
  const lights = new Lights(read),
    folds = new Folds(read),
    strip = new Strip();
  const { keep, correct, insert, nameVoice, whoSaysIt, flag, theme, themeOf, take } = dialogs(read);
  const { nextFlag, nextUnsure, nextDoubtful, settle } = goingOn(read);
  const holdPlace = holding(read);
  const { copyNow, copyAsAsked } = copying(read);
  const player = new SittingPlayer(root, (seconds, playing) => {
    const shown = clockText(seconds);
    if (clock.textContent !== shown) {
      clock.textContent = shown;
    }
    root.classList.toggle("playing", playing);
    strip.now(seconds);
    const word = transcript.wordAt(seconds * 1000 + 5);
    // What is folded is passed over in listening as in reading.
    const next = playing && word >= 0 && transcript.foldOf(word) ? transcript.inSight(word, 1) : null;
    if (next !== null && transcript.starts[next] > seconds * 1000) {
      player.seek(transcript.starts[next] / 1000);
      return;
    }
    if (word !== lit) {
      light(word);
    }
  });
  const { playOrStop, playSelection, loop, endLoop, pace } = listening(read, player);

  function light(word) {
    lit = word;
    lights.playing.clear();
    document.querySelector(".fold.lit")?.classList.remove("lit");
    if (word >= 0 && word < transcript.count) {
      lights.playing.add(transcript.range(word, word));
      transcript.foldOf(word)?.classList.add("lit");
      if (player.playing) {
        cursor = word;
        if (follow) {
          show(word);
        }
      }
    }
  }

  function show(word) {
    const turn = transcript.turnOf(word).element;
    const box = transcript.range(word, word).getBoundingClientRect(),
      view = page.getBoundingClientRect();
    if (box.height === 0) {
      page.scrollTop += turn.getBoundingClientRect().top - view.top - view.height / 3;
    } else if (box.top < view.top + 40 || box.bottom > view.bottom - 90) {
      page.scrollTop += box.top - view.top - view.height / 3;
    }
  }

  function chosen() {
    return anchor === null ? [cursor, cursor] : [Math.min(anchor, cursor), Math.max(anchor, cursor)];
  }

  function choose(word, keepAnchor, seek = true) {
    if (transcript.count === 0) {
      return;
    }
    endLoop();
    if (keepAnchor) {
      anchor ??= cursor;
    } else {
      anchor = null;
    }
    cursor = Math.min(Math.max(0, word), transcript.count - 1);
    folds.unfold(cursor);
    show(cursor);
    if (seek && !player.playing) {
      player.seek(transcript.starts[chosen()[0]] / 1000);
    }
    paint();
  }

  function paint() {
    lights.chosen.clear();
    const [first, last] = chosen();
    if (anchor === null) {
      actions.hidden = true;
      return;
    }
    lights.chosen.add(transcript.range(first, last));
    document.querySelector("#actions [data-action=aside] span").textContent = Array.from(
      { length: last - first + 1 },
      (_, i) => first + i,
    ).every((word) => transcript.isAside(word))
      ? "Bring back"
      : "Set aside";
    actions.hidden = document.querySelector(".beside[open]") !== null;
    const left = page.getBoundingClientRect().right - actions.offsetWidth - 14;
    placeBeside(actions, first, last, left);
    const count = last - first + 1;
    document.getElementById("selected-figure").textContent =
      `${count} ${count === 1 ? "word" : "words"} · ${((transcript.ends[last] - transcript.starts[first]) / 1000).toFixed(1)} s`;
  }

  // Below the words, so that it hides none of them; above where there is no room below.
  function placeBeside(element, first, last, left) {
    const boxes = transcript.range(first, last).getClientRects(),
      view = page.getBoundingClientRect();
    const height = element.offsetHeight,
      end = boxes[boxes.length - 1],
      below = end ? end.bottom + 6 : view.top;
    const top = below + height <= view.bottom - 8 ? below : (boxes[0]?.top ?? view.top) - height - 6;
    element.style.setProperty("top", `${Math.min(Math.max(view.top + 8, top), view.bottom - height - 8)}px`);
    element.style.setProperty("left", `${left}px`);
  }

  // A step by words passes over what is folded.
  function stepWord(step, keepAnchor) {
    const next = transcript.inSight(Math.min(Math.max(0, cursor + step), transcript.count - 1), step);
    if (next !== null) {
      choose(next, keepAnchor);
    }
  }

  function goTo(number) {
    const word = transcript.placeOf(Number(number));
    if (word !== null) {
      choose(word, false);
    }
  }

  // The word that the address names; another address of the same page does not load it again.
  function goToAsked() {
    const asked = /^#word-(\d+)$/.exec(location.hash);
    if (asked) {
      goTo(asked[1]);
    }
    return asked !== null;
  }

  // Reading goes on where it was left, in this browser; a sitting that was never read begins at its first word, where there are pictures.
  const placeKey = `read-place-${root.dataset.sitting}`;
  function goToWhereItWasLeft() {
    const left = Number(localStorage.getItem(placeKey) ?? NaN),
      word = transcript.placeOf(left);
    choose(word ?? transcript.inSight(0, 1) ?? 0, false);
  }
  window.addEventListener("pagehide", () => {
    if (transcript.count > 0) {
      localStorage.setItem(placeKey, transcript.numbers[cursor]);
    }
  });
  window.addEventListener("hashchange", goToAsked);

  function select(first, last) {
    anchor = null;
    choose(first, false);
    anchor = first;
    cursor = last;
    paint();
  }

  function letGo() {
    anchor = null;
    getSelection().removeAllRanges();
    paint();
  }

  // Sends what is to be done with words: the answer goes into their turn where one holds them all.
  function send(query, first, last) {
    const turn = transcript.turnOf(first),
      one = turn === transcript.turnOf(last);
    return htmx.ajax(
      "POST",
      `?handler=${query}`,
      one
        ? { target: `#${turn.element.id}`, swap: "innerHTML", select: `#${turn.element.id} > *` }
        : { target: "#page", swap: "outerHTML" },
    );
  }

  // With the selected words; the cursor goes to the first one.
  function change(handler, stay = false) {
    const [first, last] = chosen();
    send(`${handler}&first=${transcript.numbers[first]}&last=${transcript.numbers[last]}`, first, last);
    if (!stay) {
      cursor = first;
      letGo();
    }
  }

  function mark() {
    const [, last] = chosen();
    send(`Mark&word=${transcript.numbers[last]}`, last, last);
  }

  // From the selected words to another run of the recogniser over them.
  function again() {
    const [first, last] = chosen(),
      clockOf = (ms) => {
        const s = Math.max(0, ms) / 1000;
        return `${Math.floor(s / 3600)}:${String(Math.floor(s / 60) % 60).padStart(2, "0")}:${(s % 60).toFixed(1).padStart(4, "0")}`;
      };
    const from = clockOf(transcript.starts[first] - 200),
      to = clockOf(transcript.ends[last] + 200);
    location.href = `${location.pathname}/texts?from=${from}&to=${to}#again`;
  }

  const choice = choices(root, () => {
    find();
    paint();
    strip.view(page, transcript);
  });
  const { find, field } = finding(read, choice);

  function undo(redo) {
    htmx.ajax("POST", `?handler=Undo&redo=${redo}`, { target: "#page", swap: "outerHTML" });
  }

  // The first word in sight of the next turn that shows one.
  function turnStep(step) {
    for (let at = transcript.turns.indexOf(transcript.turnOf(cursor)) + step; at >= 0 && at < transcript.turns.length; at += step) {
      const turn = transcript.turns[at],
        word = transcript.inSight(turn.first, 1);
      if (word !== null && word < turn.first + turn.words.length) {
        return word;
      }
    }
    return step < 0 ? (transcript.inSight(0, 1) ?? cursor) : cursor;
  }

  // One word on lies to the left where the script runs so.
  function onward() {
    return transcript.turnOf(cursor).element.querySelector(".speech").dir === "rtl" ? -1 : 1;
  }

  function size(step) {
    const now = parseInt(getComputedStyle(document.documentElement).getPropertyValue("--speech-size"), 10) || 19;
    const next = Math.min(34, Math.max(14, now + step));
    document.documentElement.style.setProperty("--speech-size", `${next}px`);
    localStorage.setItem("speech-size", next);
  }

  let scrolled = 0;
  root.addEventListener(
    "scroll",
    () => {
      if (!actions.hidden) {
        paint();
      }
      cancelAnimationFrame(scrolled);
      scrolled = requestAnimationFrame(() => strip.view(page, transcript));
    },
    { passive: true, capture: true },
  );

  // What only acts on selected words, by key; its button is there only while some are.
  const ofSelection =
    (act) =>
    ({ button }) => {
      if (button === null && anchor === null) {
        return false;
      }
      act();
      return true;
    };
  const does = {
    "word-back": ({ shift }) => stepWord(-onward(), shift),
    "word-on": ({ shift }) => stepWord(onward(), shift),
    "turn-up": ({ shift }) => choose(turnStep(-1), shift),
    "turn-down": ({ shift }) => choose(turnStep(1), shift),
    find: () => field.focus(),
    angle: ({ key, button }) => enlarge(button ? button.closest(".angle").dataset.angle : key),
    "let-go": () => letGo(),
    play: () => playOrStop(),
    "play-selection": () => playSelection(),
    loop: () => loop(),
    slower: () => pace(-1),
    faster: () => pace(1),
    keep: () => keep(),
    theme: () => theme(),
    flag: () => flag(),
    "next-flag": () => nextFlag(),
    aside: ofSelection(() => change("Aside")),
    "copy-now": () => copyNow(),
    "next-doubtful": () => nextDoubtful(),
    "next-unsure": () => nextUnsure(),
    settle: () => settle(),
    correct: () => correct(),
    insert: () => insert(),
    voice: () => whoSaysIt(),
    join: ofSelection(() => change("Join")),
    case: () => change("Case", true),
    mark: () => mark(),
    hide: ofSelection(() => change("Hide")),
    undo: () => undo(false),
    redo: () => undo(true),
    // By button only.
    "flag-of": ({ button }) => flag(transcript.placeOf(Number(button.dataset.word)), button),
    again: () => again(),
    unfold: ({ button }) => folds.toggle(button),
    "bite-of": ({ button }) => themeOf(document.querySelector(`#bite-marks li[data-bite="${button.dataset.bite}"]`)),
    take: () => take(),
    copy: () => copyAsAsked(),
    replace: () => document.getElementById("replace-dialog").showModal(),
    smaller: () => size(-1),
    larger: () => size(1),
    "name-voice": ({ button }) => nameVoice(button.closest("[data-voice]").dataset.voice, button.querySelector("span").textContent),
    follow: ({ button }) => {
      follow = !follow;
      button.setAttribute("aria-pressed", follow);
    },
  };
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-action]");
    if (button && does[button.dataset.action]) {
      // After a click with the mouse the keys act on the page as before, and Space does not press the button again.
      if (event.detail > 0 && button.closest("#read, #actions")) {
        page.focus({ preventScroll: true });
      }
      return;
    }
    const bar = event.target.closest(".strip-voice");
    if (bar) {
      goTo(bar.dataset.first);
    } else if (event.target.closest("#strip")) {
      choose(Math.max(0, transcript.wordAt(1000 * strip.at(event.clientY))), false);
    }
  });
  commands(does);

  // A click goes to the word; drawing over words selects them.
  document.addEventListener("mouseup", (event) => {
    if (!event.target.closest?.("#page .speech") || event.target.closest("button")) {
      return;
    }
    const selection = getSelection();
    if (selection.rangeCount === 0) {
      return;
    }
    const range = selection.getRangeAt(0);
    const first = transcript.wordOf(range.startContainer, range.startOffset + (selection.isCollapsed ? 0 : 1)),
      last = transcript.wordOf(range.endContainer, range.endOffset);
    if (first === null || last === null) {
      return;
    }
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

  document.addEventListener("htmx:afterSettle", ({ target }) => {
    forgetSeen();
    if (target.id === "strip") {
      strip.now(player.now);
      strip.view(page, transcript);
    }
    if (player.sound !== root.querySelector("#sound")) {
      player.find();
    }
    if (!target.closest("#page")) {
      return;
    }
    page = document.getElementById("page");
    if (target.id === "bite-marks") {
      lights.biteMarks();
      return;
    }
    const turn = target.closest(".turn") && transcript.readAgain(target.closest(".turn"));
    if (turn) {
      folds.again();
      lights.markOne(turn);
    } else {
      transcript = new Transcript(page);
      folds.again();
      holdPlace();
      lights.mark();
    }
    find();
    lit = -1;
    light(transcript.wordAt(player.now * 1000 + 5));
    paint();
  });

  // What this page shows of the text's changes: all of them when it was laid anew, one more when only a turn was.
  const seen = document.getElementById("seen");
  document.addEventListener("changed", ({ detail }) => {
    if (detail.whole || Number(seen.value) === detail.version - 1) {
      seen.value = detail.version;
    }
    forgetSeen();
  });

  // News of a change may overtake the answer to the one who made it.
  function forgetSeen() {
    const line = document.querySelector("#others [data-version]");
    if (line && Number(line.dataset.version) <= Number(seen.value)) {
      line.remove();
    }
  }

  const stored = Number(localStorage.getItem("speech-size"));
  if (stored >= 14 && stored <= 34) {
    document.documentElement.style.setProperty("--speech-size", `${stored}px`);
  }
  lights.mark();
  if (!goToAsked()) {
    goToWhereItWasLeft();
  }
  strip.view(page, transcript);
  page.focus({ preventScroll: true });
  root.dataset.ready = "true";
}
