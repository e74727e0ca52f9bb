// What plays beside a shown text: a sitting's sound with its pictures, or the one file that a story is.
import { enlarge } from "./angles.js";
import { SittingPlayer } from "./sitting-player.js";
import { skipping } from "./skipping.js";

const nothing = { plays: false, play() {}, seek() {}, toggle: () => false, setRate() {} };

export function playerOf(onTime) {
  const sitting = document.getElementById("playing");
  return sitting ? sittingPlayer(sitting, onTime) : document.getElementById("shown-copy") ? copyPlayer(onTime) : nothing;
}

function sittingPlayer(root, onTime) {
  // Always passed over, as it is left out in the text.
  const skip = skipping(
    () => "skips",
    () => false,
    "main",
  );
  const player = new SittingPlayer(root, (seconds, playing) => {
    const on = skip(seconds, playing);
    if (on !== null) {
      player.seek(on);
      return;
    }
    onTime(seconds, playing);
  });
  // Playing copies come as they are made.
  document.addEventListener("htmx:afterSettle", ({ target }) => target.id === "angles" && player.find());
  root.addEventListener("click", ({ target }) => {
    const angle = target.closest(".angle");
    if (angle) {
      enlarge(angle.dataset.angle);
    }
  });
  return {
    plays: true,
    play(from, until = null) {
      player.stop();
      player.seek(from);
      player.play(until);
    },
    seek: (seconds) => player.seek(seconds),
    toggle() {
      if (player.playing) {
        player.stop();
      } else {
        player.play();
      }
      return true;
    },
    setRate: (rate) => player.setRate(rate),
  };
}

// The copy is looked for anew each time: it may have been made since.
function copyPlayer(onTime) {
  const copy = () => document.getElementById("copy");
  let until = null;
  const tick = () => {
    const video = copy();
    if (video && video.readyState > 0) {
      if (until !== null && video.currentTime >= until) {
        until = null;
        video.pause();
      }
      onTime(video.currentTime, !video.paused);
    }
    requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
  const seek = (seconds) => {
    const video = copy();
    if (video) {
      video.currentTime = seconds;
    }
  };
  return {
    get plays() {
      return Boolean(copy());
    },
    play(from, to = null) {
      seek(from);
      until = to ?? null;
      copy()
        ?.play()
        .catch(() => {});
    },
    seek,
    toggle() {
      const video = copy();
      if (!video) {
        return false;
      }
      if (video.paused) {
        until = null;
        video.play().catch(() => {});
      } else {
        video.pause();
      }
      return true;
    },
    setRate() {},
  };
}
