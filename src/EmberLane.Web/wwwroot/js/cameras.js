// Cameras: all angles in step, the one that the plan shows made large; cuts moved on the stave, angles chosen by number.
import { enlarge } from "./angles.js";
import { commands } from "./commands.js";
import { frame as frameIn, unframe } from "./framed.js";
import { clockText, say } from "./keys.js";
import { SittingPlayer } from "./sitting-player.js";

const root = document.getElementById("watch"),
  button = root.querySelector("[data-action=play]"),
  frame = 1 / Number(root.dataset.frames);
let shots = [],
  crowd = [],
  from = 0,
  scale = 1,
  shown = null,
  laughs = null;

// What the plan is by now.
function read() {
  const plan = document.getElementById("plan");
  shots = JSON.parse(plan.dataset.shots).map(([angle, start, end, reason, framed]) => ({ angle, start, end, reason, framed }));
  crowd = JSON.parse(plan.dataset.crowd);
  from = Number(plan.dataset.from);
  scale = Number(document.getElementById("stave").dataset.scale);
  shown = null;
}

const crowdAt = (seconds) => crowd.find(([start, end]) => start <= seconds && seconds < end) ?? null;
const shotAt = (seconds) => shots.find(({ start, end }) => start <= seconds && seconds < end) ?? null;

function draw(seconds) {
  const x = (seconds - from) * scale,
    line = document.getElementById("watch-line"),
    view = document.getElementById("stave-scroll"),
    shot = shotAt(seconds);
  line.setAttribute("x1", x);
  line.setAttribute("x2", x);
  if (x < view.scrollLeft + 20 || x > view.scrollLeft + view.clientWidth - 60) {
    view.scrollLeft = x - view.clientWidth / 4;
  }
  if (laughs === null) {
    document.getElementById("crowd-says").textContent = crowdAt(seconds) ? "There is no laughter here" : "Laughter begins here";
  }
  if (shot !== shown) {
    shown = shot;
    document.getElementById("shot-number").textContent = shot ? `shot ${shots.indexOf(shot) + 1} of ${shots.length}` : "";
    document.getElementById("shot-reason").textContent = shot ? shot.reason : "no angle is shown here";
    document.querySelectorAll(".angle video").forEach(unframe);
    if (shot) {
      enlarge(shot.angle);
    }
  }
  if (shot?.framed) {
    const passed = (seconds - shot.start) / (shot.end - shot.start);
    document.querySelectorAll(".angle.large video").forEach((video) => frameIn(video, shot.framed, passed));
  }
}

read();
const player = new SittingPlayer(root, (seconds, playing) => {
  document.getElementById("watch-clock").textContent = clockText(seconds - from);
  button.firstElementChild.textContent = playing ? "Stop" : "Play the cut";
  draw(seconds);
});

const post = (handler, values) => htmx.ajax("POST", `?handler=${handler}`, { target: "#plan", swap: "outerHTML", values });
const at = () => player.now.toFixed(6);

function goToCut(direction) {
  const now = player.now,
    starts = shots.map(({ start }) => start),
    next = direction < 0 ? starts.filter((start) => start < now - 0.3).at(-1) : starts.find((start) => start > now + 0.01);
  if (next !== undefined) {
    player.seek(next);
  }
}

function moveNearest(by) {
  const now = player.now,
    cuts = shots.slice(1).map(({ start }) => start);
  if (cuts.length > 0) {
    const cut = cuts.reduce((one, other) => (Math.abs(other - now) < Math.abs(one - now) ? other : one));
    player.seek(cut + by);
    post("Cut", { at: cut.toFixed(6), to: (cut + by).toFixed(6) });
  }
}

commands(
  {
    play: () => {
      player.playing ? player.stop() : player.play();
    },
    back: ({ shift }) => player.seek(player.now - (shift ? frame : 1)),
    on: ({ shift }) => player.seek(player.now + (shift ? frame : 1)),
    "cut-back": () => goToCut(-1),
    "cut-on": () => goToCut(1),
    show: ({ key }) => post("Show", { at: at(), angle: key, on: document.getElementById("from-here").checked }),
    angle: ({ button: pressed }) =>
      post("Show", { at: at(), angle: pressed.closest(".angle").dataset.angle, on: document.getElementById("from-here").checked }),
    "from-here": () => document.getElementById("from-here").click(),
    turn: ({ button: pressed }) => {
      const angle = pressed?.dataset.angle ?? shown?.angle;
      if (angle === undefined) {
        say("No angle is shown here: press the button in an angle's line.");
      } else {
        post("Turn", { at: at(), angle });
      }
    },
    lock: () => post("Lock", { at: at() }),
    release: () => post("Release", { at: at() }),
    "cut-earlier": () => moveNearest(-frame),
    "cut-later": () => moveNearest(frame),
    crowd: () => {
      const says = document.getElementById("crowd-says"),
        marked = crowdAt(player.now);
      if (laughs === null && marked) {
        post("Crowd", { from: marked[0].toFixed(6), to: marked[1].toFixed(6), away: true });
      } else if (laughs === null) {
        laughs = player.now;
        says.textContent = `Laughter from ${clockText(laughs - from)} ends here`;
      } else {
        const [start, end] = [Math.min(laughs, player.now), Math.max(laughs, player.now)];
        laughs = null;
        says.textContent = "Laughter begins here";
        if (end - start < 0.2) {
          say("Laughter lasts some time: go to where it ends, and press again.");
        } else {
          post("Crowd", { from: start.toFixed(6), to: end.toFixed(6), away: false });
        }
      }
    },
    undo: () => post("Undo", { redo: false }),
    redo: () => post("Undo", { redo: true }),
  },
  () => null,
);

// A click on the stave goes there; a cut is dragged.
let dragged = null;
const secondsAt = (event) => from + (event.clientX - document.getElementById("stave").getBoundingClientRect().left) / scale;
root.addEventListener("pointerdown", (event) => {
  const handle = event.target.closest?.(".cut-handle");
  if (handle) {
    dragged = handle;
    handle.classList.add("dragged");
    handle.setPointerCapture(event.pointerId);
    event.preventDefault();
  }
});
root.addEventListener("pointermove", (event) => {
  if (dragged) {
    dragged.setAttribute("x", (secondsAt(event) - from) * scale - 4);
    player.seek(secondsAt(event));
  }
});
root.addEventListener("pointerup", (event) => {
  if (dragged) {
    const cut = dragged.dataset.at;
    dragged.classList.remove("dragged");
    dragged = null;
    post("Cut", { at: cut, to: secondsAt(event).toFixed(6) });
  } else if (event.target.closest?.("#stave")) {
    player.seek(secondsAt(event));
  }
});
root.addEventListener("pointercancel", () => {
  dragged?.setAttribute("x", (Number(dragged.dataset.at) - from) * scale - 4);
  dragged?.classList.remove("dragged");
  dragged = null;
});
// Whom an angle shows: all that are ticked in its line.
root.addEventListener("change", ({ target }) => {
  const angle = target.dataset.covers;
  if (angle) {
    const who = [...root.querySelectorAll(`[data-covers="${angle}"]:checked`)].map(({ value }) => value);
    post("Covers", { angle, who, said: true });
  }
  const turned = target.dataset.turned;
  if (turned) {
    const [camera, moment] = turned.split(" "),
      who = [...root.querySelectorAll(`[data-turned="${turned}"]:checked`)].map(({ value }) => value);
    post("Turned", { angle: camera, at: moment, who, away: false });
  }
});
root.addEventListener("click", ({ target }) => {
  const moment = target.dataset?.go;
  if (moment) {
    player.seek(Number(moment));
  }
});
const folds = ["own-rules", "places"];
let open = [],
  focused = "";
document.addEventListener("htmx:beforeSwap", ({ target }) => {
  if (target.id === "plan") {
    open = folds.filter((id) => document.getElementById(id)?.open);
    focused = document.activeElement.id;
  }
});
document.addEventListener("htmx:afterSettle", ({ target }) => {
  if (target.id === "angles") {
    player.find();
  }
  if (target.id === "plan") {
    open.forEach((id) => document.getElementById(id)?.setAttribute("open", ""));
    // What lies in a fold could not be found again while that was shut.
    if (focused && document.activeElement === document.body) {
      document.getElementById(focused)?.focus();
    }
    read();
    draw(player.now);
  }
});
player.seek((shots[0]?.start ?? 0) + 0.02);
root.dataset.ready = "true";
