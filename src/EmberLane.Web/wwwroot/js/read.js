import { enlarge } from "./angles.js";
import { commands } from "./commands.js";
import { clockText } from "./keys.js";
import { Transcript } from "./transcript.js";
import { SittingPlayer } from "./sitting-player.js";
import { choices } from "./choices.js";
import { Strip } from "./strip.js";
import { Lights } from "./lights.js";
import { Folds } from "./folds.js";
import { Cursor, drawing } from "./read-cursor.js";
import { dialogs } from "./read-dialogs.js";
import { besides } from "./read-beside.js";
import { copying } from "./read-copy.js";
import { finding } from "./read-find.js";
import { holding } from "./read-held.js";
import { listening } from "./read-listening.js";
import { goingOn } from "./read-next.js";
import { seeing } from "./read-seen.js";
import { readingThrough } from "./read-through.js";
import { changing } from "./read-send.js";
import { skipping } from "./skipping.js";
import { talkOf } from "./talk.js";
import { size, sizeAsKept } from "./read-size.js";

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
  // What the parts of the room share.
  const read = { root, page: document.getElementById("page"), lit: -1, follow: true };
  read.transcript = new Transcript(read.page);
  read.lights = new Lights(read);
  read.folds = new Folds(read);
  read.cursor = new Cursor(read);
  const { cursor, lights, folds } = read,
    strip = new Strip(),
    clock = document.getElementById("clock");
  const choice = choices(root, () => {
    find();
    cursor.paint();
    strip.view(read.page, read.transcript);
  });
  const skip = skipping(choice, (seconds) => {
    const word = read.transcript.wordAt(seconds * 1000 + 5);
    return word >= 0 && read.transcript.isOpened(word);
  });
  const player = new SittingPlayer(root, (seconds, playing) => {
    const shown = clockText(seconds);
    if (clock.textContent !== shown) {
      clock.textContent = shown;
    }
    root.classList.toggle("playing", playing);
    strip.now(seconds);
    const { transcript } = read,
      word = transcript.wordAt(seconds * 1000 + 5);
    const next = skip(seconds, playing);
    if (next !== null) {
      player.seek(next);
      return;
    }
    if (word !== read.lit) {
      light(word);
    }
  });
  read.player = player;
  const { playOrStop, playSelection, loop, endLoop, pace } = listening(read);
  read.endLoop = endLoop;
  const { send, change, mark, again, undo } = changing(read);
  read.send = send;
  const { keep, correct, insert, nameVoice, whoSaysIt, flag, theme, themeOf, take } = dialogs(read);
  const { nextFlag, nextUnsure, nextDoubtful, settle } = goingOn(read);
  const { copyNow, copyAsAsked } = copying(read);
  const holdPlace = holding(read),
    forgetSeen = seeing();
  const { find, field } = finding(read, choice);
  readingThrough(read);
  const openStory = besides(read);

  function light(word) {
    const { transcript } = read;
    read.lit = word;
    lights.playing.clear();
    document.querySelector(".fold.lit")?.classList.remove("lit");
    if (word >= 0 && word < transcript.count) {
      lights.playing.add(transcript.range(word, word));
      transcript.foldOf(word)?.classList.add("lit");
      if (player.playing) {
        cursor.word = word;
        if (read.follow) {
          cursor.show(word);
        }
      }
    }
  }

  let scrolled = 0;
  root.addEventListener(
    "scroll",
    () => {
      if (!cursor.actions.hidden) {
        cursor.paint();
      }
      cancelAnimationFrame(scrolled);
      scrolled = requestAnimationFrame(() => strip.view(read.page, read.transcript));
    },
    { passive: true, capture: true },
  );

  // What only acts on selected words, by key; its button is there only while some are.
  const ofSelection =
    (act) =>
    ({ button }) => {
      if (button === null && !cursor.selecting) {
        return false;
      }
      act();
      return true;
    };
  const does = {
    "word-back": ({ shift }) => cursor.stepWord(-cursor.onward, shift),
    "word-on": ({ shift }) => cursor.stepWord(cursor.onward, shift),
    "turn-up": ({ shift }) => cursor.stepTurn(-1, shift),
    "turn-down": ({ shift }) => cursor.stepTurn(1, shift),
    beside: () => openStory(),
    find: () => field.focus(),
    angle: ({ key, button }) => enlarge(button ? button.closest(".angle").dataset.angle : key),
    "let-go": () => cursor.letGo(),
    play: () => playOrStop(),
    "play-selection": () => playSelection(),
    loop: () => loop(),
    slower: () => pace(-1),
    faster: () => pace(1),
    keep: () => keep(),
    comment: ({ button }) => {
      if (button?.dataset.asked) {
        talkOf(button.dataset.asked);
        return;
      }
      const [first, last] = cursor.chosen(),
        { numbers } = read.transcript;
      talkOf(`sitting=${root.dataset.sitting}&first=${numbers[first]}&last=${numbers[last]}`);
    },
    theme: () => theme(),
    flag: () => flag(),
    "next-flag": () => nextFlag(),
    aside: ofSelection(() => change("Aside")),
    "off-record": ofSelection(() => change("OffRecord")),
    part: ofSelection(() => change("Part")),
    "cut-back": ({ button }) => htmx.ajax("POST", `?handler=Back&mark=${button.dataset.mark}`, { target: "#page", swap: "outerHTML" }),
    "log-sheet": ({ button }) => {
      if (!button) {
        location.href = document.querySelector('[data-action="log-sheet"]').href;
      }
    },
    tidy: ({ button }) => {
      if (!button) {
        location.href = document.querySelector('[data-action="tidy"]').href;
      }
    },
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
    "flag-of": ({ button }) => flag(read.transcript.placeOf(Number(button.dataset.word)), button),
    again: () => again(),
    used: ({ button }) => {
      const { dataset } = button,
        words = read.transcript.between(Number(dataset.in) * 1000, Number(dataset.out) * 1000);
      if (words !== null) {
        cursor.choose(words[0], false);
      }
    },
    unfold: ({ button }) => folds.toggle(button),
    "bite-of": ({ button }) => themeOf(document.querySelector(`#bite-marks li[data-bite="${button.dataset.bite}"]`)),
    take: () => take(),
    copy: () => copyAsAsked(),
    replace: () => document.getElementById("replace-dialog").showModal(),
    smaller: () => size(-1),
    larger: () => size(1),
    "name-voice": ({ button }) => nameVoice(button.closest("[data-voice]").dataset.voice, button.querySelector("span").textContent),
    follow: ({ button }) => {
      read.follow = !read.follow;
      button.setAttribute("aria-pressed", read.follow);
    },
  };
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-action]");
    if (button && does[button.dataset.action]) {
      // After a click with the mouse the keys act on the page as before, and Space does not press the button again.
      if (event.detail > 0 && button.closest("#read, #actions")) {
        read.page.focus({ preventScroll: true });
      }
      return;
    }
    const bar = event.target.closest(".strip-voice");
    if (bar) {
      cursor.goTo(bar.dataset.first);
    } else if (event.target.closest("#strip")) {
      cursor.choose(Math.max(0, read.transcript.wordAt(1000 * strip.at(event.clientY))), false);
    }
  });
  commands(does);
  drawing(read);

  document.addEventListener("htmx:afterSettle", ({ target }) => {
    forgetSeen();
    if (target.id === "strip") {
      strip.used();
      strip.now(player.now);
      strip.view(read.page, read.transcript);
    }
    if (player.sound !== root.querySelector("#sound")) {
      player.find();
    }
    if (target.id === "in-stories") {
      lights.usedWords();
      strip.used();
    }
    if (!target.closest("#page")) {
      return;
    }
    read.page = document.getElementById("page");
    if (target.id === "bite-marks") {
      lights.biteMarks();
      return;
    }
    const turn = target.closest(".turn") && read.transcript.readAgain(target.closest(".turn"));
    if (turn) {
      folds.again();
      lights.markOne(turn);
    } else {
      read.transcript = new Transcript(read.page);
      folds.again();
      holdPlace();
      lights.mark();
    }
    find();
    light(read.transcript.wordAt(player.now * 1000 + 5));
    cursor.paint();
  });

  sizeAsKept();
  lights.mark();
  if (!cursor.goToAsked()) {
    cursor.goToWhereItWasLeft();
  }
  strip.used();
  strip.view(read.page, read.transcript);
  read.page.focus({ preventScroll: true });
  root.dataset.ready = "true";
}
