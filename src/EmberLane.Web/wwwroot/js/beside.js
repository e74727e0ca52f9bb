// Two windows, of which one was opened beside the other, follow each other: each tells where a person is in it, and the
// other goes there too. A window tells only what a person has just done in it, and is not led while they do, so that neither is led by what
// it told itself.
import { say } from "./keys.js";

const name = "ember-beside";
const isBeside = window.name === name;

// In milliseconds: so long after a key or the mouse a person is taken to be in this window.
const MOMENT = 700;
let acted = 0;
const isActing = () => performance.now() - acted < MOMENT;
for (const kind of ["keydown", "keyup", "pointerdown", "pointerup"]) {
  document.addEventListener(
    kind,
    () => {
      acted = performance.now();
    },
    { capture: true, passive: true },
  );
}

// `go` takes what the other window told. Returns whether another window follows what a person does here just now, and what tells it where
// that is.
export function beside(go) {
  const channel = new BroadcastChannel("ember-place");
  let isFollowed = isBeside,
    waiting = null;
  const goWhenStill = (place) => {
    if (isActing()) {
      waiting = setTimeout(goWhenStill, MOMENT, place);
    } else if (!document.querySelector("dialog[open]")) {
      go(place);
    }
  };
  channel.addEventListener("message", ({ data }) => {
    isFollowed ||= data.isBeside;
    if (data.place && (isBeside || data.isBeside)) {
      clearTimeout(waiting);
      goWhenStill(data.place);
    }
    if (data.isNew) {
      channel.postMessage({ isBeside });
    }
  });
  channel.postMessage({ isBeside, isNew: true });
  const isFollowing = () => isFollowed && isActing();
  return {
    isFollowing,
    tell: (place) => {
      if (isFollowing()) {
        clearTimeout(waiting);
        channel.postMessage({ isBeside, place });
      }
    },
  };
}

// Opens an address in the window beside this one, which takes the right half of the screen.
export function openBeside(address) {
  if (isBeside) {
    say("This window was opened beside another: the two follow each other already.");
    return;
  }
  const wide = Math.floor(screen.availWidth / 2);
  if (!window.open(address, name, `popup,left=${wide},top=0,width=${wide},height=${screen.availHeight}`)) {
    say("This browser opens no second window here. Allow it, or open the page in a window of your own.");
  }
}

document.documentElement.classList.toggle("beside-window", isBeside);
