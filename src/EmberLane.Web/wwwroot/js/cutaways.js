// Cutaways: steps over the prints on the table, plays the open shot within its ends, and marks its best seconds.
import { commands } from "./commands.js";
import { clockText, say } from "./keys.js";
import { keepFocus, step } from "./list-keys.js";
import { asks } from "./question.js";

const question = document.getElementById("question"),
  openShot = document.getElementById("open-shot");
const picture = () => document.getElementById("picture"),
  within = (video) => [Number(video.dataset.in), Number(video.dataset.out)];
let end = null,
  from = null,
  left = null;

// Frames by the rate's whole numbers, so that hours of them do not drift.
const frameAt = ({ dataset }, seconds) => Math.floor((seconds * dataset.frames) / dataset.per + 1e-6),
  timeOf = ({ dataset }, frame) => (frame * dataset.per) / dataset.frames;

keepFocus(".print");

// What a page keeps of its place stands in its address.
function remember(shot) {
  left = null;
  openShot.value = shot;
  const address = new URL(location.href);
  address.searchParams.set("shot", shot);
  history.replaceState(history.state, "", address);
  document.querySelectorAll(".print").forEach((print) => print.classList.toggle("open", print.dataset.shot === shot));
}
document.addEventListener("htmx:configRequest", ({ detail }) => {
  const print = detail.elt.closest(".print");
  if (print) {
    remember(print.dataset.shot);
  }
});

function draw() {
  const video = picture(),
    at = document.getElementById("at"),
    marking = document.getElementById("marking");
  if (!video || !at) {
    return;
  }
  const [first, last] = within(video),
    place = (seconds) => (1000 * Math.min(Math.max(0, seconds - first), last - first)) / (last - first);
  at.setAttribute("x", String(Math.min(997, place(video.currentTime))));
  document.getElementById("shot-time").textContent = clockText(Math.max(first, video.currentTime));
  marking.setAttribute("x", String(place(from ?? 0)));
  marking.setAttribute("width", String(from === null ? 0 : Math.max(4, place(video.currentTime) - place(from))));
  if (!video.paused && video.currentTime >= (end ?? last)) {
    video.pause();
    end = null;
  }
  if (!video.paused) {
    requestAnimationFrame(draw);
  }
}

function show() {
  from = end = null;
  const video = picture();
  if (!video) {
    return;
  }
  // What was written changes nothing of where one is in a shot.
  const at = left?.shot === openShot.value ? left.at : within(video)[0],
    toBegin = () => {
      video.currentTime = at;
    };
  if (video.readyState > 0) {
    toBegin();
  } else {
    video.addEventListener("loadedmetadata", toBegin, { once: true });
  }
  ["play", "seeked", "pause"].forEach((event) => video.addEventListener(event, draw));
  video.addEventListener("error", () => say("The picture for playing is still being made."), { once: true });
}

function play(a, b) {
  const video = picture();
  if (!video) {
    return false;
  }
  if (!video.paused && a === undefined) {
    video.pause();
    return true;
  }
  const [first, last] = within(video);
  end = b ?? null;
  if (a !== undefined || video.currentTime < first || video.currentTime >= last) {
    video.currentTime = a ?? first;
  }
  video.play().catch(() => say("The picture for playing is still being made."));
  return true;
}

// Frames are stepped into their middle, where rounding can not show the one beside.
function frame(direction) {
  const video = picture();
  if (!video) {
    return false;
  }
  const [first, last] = within(video);
  video.pause();
  video.currentTime = Math.min(Math.max(first, timeOf(video, frameAt(video, video.currentTime) + direction + 0.5)), last);
  return true;
}

// The frame that is seen is the last of them.
function mark() {
  const video = picture();
  if (!video || from === null) {
    say("Mark first where the best seconds begin (B), then where they end.");
    return true;
  }
  const { elements } = document.getElementById("best");
  elements.from.value = timeOf(video, frameAt(video, from)).toFixed(6);
  elements.to.value = timeOf(video, frameAt(video, video.currentTime) + 1).toFixed(6);
  video.pause();
  from = null;
  document.getElementById("best").requestSubmit();
  return true;
}

// A row is as long as its prints stand on one line.
function row(direction) {
  const prints = [...document.querySelectorAll(".print")],
    top = prints[0]?.offsetTop,
    along = prints.findIndex((print) => print.offsetTop !== top);
  if (!document.activeElement?.closest(".print") && direction < 0) {
    return false;
  }
  return document.activeElement?.closest(".print") ? step(".print", direction * (along < 0 ? prints.length : along)) : step(".print", 1);
}

asks(question, ".print");
document.addEventListener("click", (event) => {
  const strip = event.target.closest("#shot-strip");
  if (strip) {
    const [first, last] = within(picture()),
      box = strip.getBoundingClientRect();
    picture().currentTime = first + ((last - first) * (event.clientX - box.left)) / box.width;
  }
});
// In a field of the open shot Escape goes back to what can be pressed.
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape" && event.target.closest?.("#open input, #open textarea")) {
    event.target.blur();
  }
});
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  if (detail.target.id === "open" && picture() && detail.requestConfig.elt.closest("#open")) {
    left = { shot: openShot.value, at: picture().currentTime };
  }
});
document.addEventListener("htmx:afterSwap", ({ detail }) => detail.target.id === "open" && show());
show();
commands(
  {
    back: () => step(".print", -1),
    on: () => step(".print", 1),
    up: () => row(-1),
    down: () => row(1),
    open: () => {
      const print = document.activeElement?.closest(".print");
      if (print) {
        htmx.trigger(print, "open");
      }
      return Boolean(print);
    },
    ask: () => {
      question.focus();
      question.select();
    },
    play: () => play(),
    see: ({ button }) => play(Number(button.dataset.from), Number(button.dataset.to)),
    "frame-back": () => frame(-1),
    "frame-on": () => frame(1),
    "best-from": () => {
      from = picture()?.currentTime ?? null;
      draw();
      return from !== null;
    },
    "best-to": () => mark(),
    describe: () => {
      const field = document.getElementById("description");
      field?.focus();
      field?.setSelectionRange(field.value.length, field.value.length);
      return Boolean(field);
    },
  },
  () => document.getElementById("open"),
);
