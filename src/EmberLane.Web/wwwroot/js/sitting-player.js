import { clockText } from "./keys.js";

// Plays a sitting: its sound leads, every angle follows in step; where there is no sound, before it begins or after it ends, a clock leads.
// Times are seconds on the sitting's clock.
export class SittingPlayer {
  constructor(root, onTime) {
    this.root = root;
    this.onTime = onTime;
    this.rate = 1;
    this.until = null;
    this.loop = null;
    this.wanted = 0;
    this.playing = false;
    this.find();
    const tick = () => {
      this.follow();
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  }

  find() {
    this.sound = this.root.querySelector("#sound");
    if (this.sound) {
      this.sound.preservesPitch = true;
    }
    this.angles = [...this.root.querySelectorAll("video")];
    const all = [...this.angles, ...(this.sound ? [this.sound] : [])];
    this.first = Math.min(...all.map(starts), Infinity);
    this.last = Math.max(...all.map(ends), -Infinity);
    if (!Number.isFinite(this.first)) {
      this.first = 0;
      this.last = 0;
    }
    if (this.wanted > 0) {
      this.seek(this.wanted);
    }
  }

  // The sound leads while it runs; a clock does while there is none at this moment.
  get now() {
    if (!this.playing) {
      return this.wanted;
    }
    return this.leading
      ? toSitting(this.sound, this.sound.currentTime)
      : this.wanted + (this.rate * (performance.now() - this.since)) / 1000;
  }

  seek(seconds) {
    this.wanted = Math.min(Math.max(seconds, this.first), this.last);
    this.since = performance.now();
    this.lead(this.wanted);
    for (const video of this.angles) {
      video.currentTime = clamp(video, toSource(video, this.wanted));
    }
    this.onTime(this.wanted, this.playing);
  }

  async play(until = null) {
    if (this.angles.length === 0 && !this.sound) {
      return;
    }
    if (this.wanted >= this.last - 0.05) {
      this.seek(this.first);
    }
    this.until = until;
    this.playing = true;
    this.since = performance.now();
    this.lead(this.wanted);
  }

  stop() {
    const now = this.now;
    this.playing = false;
    this.leading = false;
    this.sound?.pause();
    this.angles.forEach((video) => video.pause());
    this.seek(now);
  }

  setRate(rate) {
    this.wanted = this.now;
    this.since = performance.now();
    this.rate = rate;
    if (this.sound) {
      this.sound.playbackRate = rate;
    }
  }

  // Puts the sound where it belongs at a moment, and lets it lead when it has that moment.
  lead(at) {
    if (!this.sound) {
      this.leading = false;
      return;
    }
    const has = at >= starts(this.sound) && at < ends(this.sound) - 0.02;
    this.sound.currentTime = clamp(this.sound, toSource(this.sound, at));
    this.leading = this.playing && has;
    if (this.leading) {
      this.sound.playbackRate = this.rate;
      this.sound.play().catch(() => {
        this.leading = false;
        this.since = performance.now();
      });
    } else {
      this.sound.pause();
    }
  }

  follow() {
    const now = this.now;
    if (this.playing && this.loop && now >= this.loop[1]) {
      this.seek(this.loop[0]);
      return;
    }
    if (this.playing && (now >= this.last || (this.until !== null && now >= this.until))) {
      this.stop();
      return;
    }
    if (this.playing && this.sound) {
      const over = this.leading && (this.sound.ended || now >= ends(this.sound) - 0.02),
        begins = !this.leading && now >= starts(this.sound) && now < ends(this.sound) - 0.1;
      if (over || begins) {
        this.wanted = now;
        this.since = performance.now();
        this.lead(over ? ends(this.sound) : now);
      }
    }
    for (const video of this.angles) {
      const at = toSource(video, now),
        rolling = at >= 0 && at <= Number(video.dataset.length);
      video.classList.toggle("away", !rolling);
      if (!rolling || !this.playing) {
        if (!video.paused) {
          video.pause();
        }
        continue;
      }
      if (video.paused && video.readyState >= 2) {
        video.play().catch(() => {});
      }
      const behind = at - video.currentTime;
      // A little behind or ahead is caught up by pace, which does not stutter; more is a jump.
      if (Math.abs(behind) > 0.3 && !video.seeking) {
        video.currentTime = at;
      }
      video.playbackRate = (this.rate / Number(video.dataset.rate)) * Math.min(1.5, Math.max(0.7, 1 + 4 * behind));
    }
    for (const figure of this.root.querySelectorAll(".angle")) {
      stillOf(figure, now);
    }
    if (this.playing) {
      if (this.leading) {
        this.wanted = now;
        this.since = performance.now();
      }
      this.onTime(now, true);
    }
  }
}

// An angle that does not roll shows its nearest picture, and when it rolls.
function stillOf(figure, now) {
  const clips = [...figure.querySelectorAll("video")],
    still = clips.length > 0 && clips.every((video) => video.classList.contains("away"));
  figure.classList.toggle("still", still);
  const away = (video) => Math.max(starts(video) - now, now - ends(video)),
    nearest = still ? clips.reduce((one, other) => (away(other) < away(one) ? other : one)) : null;
  clips.forEach((video) => video.classList.toggle("nearest", video === nearest));
  const said = !still
    ? ""
    : starts(nearest) > now
      ? `rolls from ${clockText(starts(nearest))}`
      : `rolled until ${clockText(ends(nearest))}`;
  if (figure.dataset.still !== said) {
    figure.dataset.still = said;
  }
}

function starts(media) {
  return Number(media.dataset.start);
}
function ends(media) {
  return toSitting(media, Number(media.dataset.length));
}
function toSitting(media, seconds) {
  return Number(media.dataset.start) + seconds * Number(media.dataset.rate);
}
function toSource(media, seconds) {
  return (seconds - Number(media.dataset.start)) / Number(media.dataset.rate);
}
function clamp(media, seconds) {
  return Math.min(Math.max(0, seconds), Math.max(0, Number(media.dataset.length) - 0.02));
}
