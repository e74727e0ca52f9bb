// Plays a sitting: its sound leads, every angle follows in step. Times are seconds on the sitting's clock.
export class SittingPlayer {
  constructor(root, onTime) {
    this.root = root;
    this.onTime = onTime;
    this.rate = 1;
    this.until = null;
    this.wanted = 0;
    this.find();
    const tick = () => {
      this.follow();
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  }

  find() {
    this.sound = this.root.querySelector("#sound");
    this.angles = [...this.root.querySelectorAll("video")];
    if (this.sound && this.wanted > 0) {
      this.seek(this.wanted);
    }
  }

  get playing() { return this.sound !== null && !this.sound.paused; }

  get now() { return this.sound ? toSitting(this.sound, this.sound.currentTime) : this.wanted; }

  seek(seconds) {
    this.wanted = seconds;
    if (this.sound) {
      this.sound.currentTime = clamp(this.sound, toSource(this.sound, seconds));
    }
    for (const video of this.angles) {
      video.currentTime = clamp(video, toSource(video, seconds));
    }
    this.onTime(seconds, this.playing);
  }

  async play(until = null) {
    if (!this.sound) { return; }
    this.until = until;
    this.sound.playbackRate = this.rate;
    await this.sound.play();
  }

  stop() {
    this.sound?.pause();
    this.angles.forEach((video) => video.pause());
    if (this.sound) { this.seek(this.now); }
  }

  setRate(rate) {
    this.rate = rate;
    if (this.sound) { this.sound.playbackRate = rate; }
  }

  follow() {
    if (!this.sound) { return; }
    const now = this.now;
    if (this.playing && this.until !== null && now >= this.until) {
      this.stop();
      return;
    }
    for (const video of this.angles) {
      const at = toSource(video, now), rolling = at >= 0 && at <= Number(video.dataset.length);
      video.parentElement.classList.toggle("away", !rolling);
      if (!rolling || !this.playing) {
        if (!video.paused) { video.pause(); }
        continue;
      }
      if (video.paused && video.readyState >= 2) { video.play().catch(() => {}); }
      const behind = at - video.currentTime;
      // A little behind or ahead is caught up by pace, which does not stutter; more is a jump.
      if (Math.abs(behind) > 0.3) { video.currentTime = at; }
      video.playbackRate = this.rate * Math.min(1.5, Math.max(0.7, 1 + behind));
    }
    if (this.playing) {
      this.wanted = now;
      this.onTime(now, true);
    }
  }
}

function toSitting(media, seconds) { return Number(media.dataset.start) + (seconds * Number(media.dataset.rate)); }
function toSource(media, seconds) { return (seconds - Number(media.dataset.start)) / Number(media.dataset.rate); }
function clamp(media, seconds) { return Math.min(Math.max(0, seconds), Math.max(0, Number(media.dataset.length) - 0.02)); }
