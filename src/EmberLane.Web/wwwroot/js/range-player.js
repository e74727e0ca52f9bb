// Plays parts one after another: of one sitting, or of many. A part is { length, sound, picture } with the address of each and the second
// in it where the part begins; either may be missing. Two decks take turns, so that the next part is ready when one ends; one deck does for
// parts of one file. The sound leads, and a clock does where there is none. A part may have a level (1 as it is, 0 silent), and seconds
// over which its sound comes in and goes out; what of its picture is seen, where that is not all; and seconds in which the picture and the
// sound of the part before go on under it, where two decks take turns.
import { frame, unframe } from "./framed.js";

// Seconds before its end at which the next part is begun, where a second deck has it ready: a player needs a moment to begin.
const LEAD = 0.02;

export class RangePlayer {
  // A deck is { sound, picture }, of which the picture may be missing.
  constructor(decks, { onPart = () => {}, onTime = () => {}, onSilent = () => {}, onGap = () => {}, onEnd = () => {} } = {}) {
    this.decks = decks;
    this.onPart = onPart;
    this.onTime = onTime;
    this.onSilent = onSilent;
    this.onGap = onGap;
    this.onEnd = onEnd;
    this.pace = 1;
    this.run = 0;
  }

  // Plays from a part on; onTime hears seconds from the first part's beginning, onSilent of a part whose sound can not be played, onGap how
  // many milliseconds nothing was heard at a border, onEnd whether it came to its end by itself.
  async play(parts, from = 0) {
    this.pause();
    const run = ++this.run;
    let before = parts.slice(0, from).reduce((sum, part) => sum + Number(part.length), 0);
    this.ended = null;
    await this.load(from, parts[from]);
    for (let i = from; i < parts.length && run === this.run; i++) {
      let ahead = null;
      this.onPart(parts[i]);
      // Nothing goes on under the one that playing begins with.
      const part = i === from ? { ...parts[i], dissolve: 0, crossfade: 0 } : parts[i];
      await this.playPart(this.deck(i), part, before, run, () => {
        ahead = this.decks.length > 1 && parts[i + 1] ? this.load(i + 1, parts[i + 1]) : null;
      });
      before += Number(parts[i].length);
      await (ahead ?? (run === this.run && parts[i + 1] ? this.load(i + 1, parts[i + 1]) : null));
    }
    if (run === this.run) {
      this.run++;
      this.pause();
      this.onEnd(true);
    }
  }

  deck(i) {
    return this.decks[i % this.decks.length];
  }

  async load(i, part) {
    const { sound, picture } = this.deck(i);
    sound.volume = levelAt(part, 0);
    if (picture) {
      framedAt(picture, part, 0);
    }
    await Promise.all([ready(sound, part.sound), picture ? ready(picture, part.picture) : null]);
  }

  async playPart(deck, part, before, run, onBegun) {
    const length = Number(part.length);
    if (part.picture && deck.picture) {
      deck.picture.playbackRate = this.pace;
      deck.picture.play().catch(() => {});
    }
    if (part.sound) {
      deck.sound.playbackRate = this.pace;
      await deck.sound.play().catch(() => {
        if (run === this.run) {
          this.onSilent(part);
        }
      });
    }
    if (run !== this.run) {
      return;
    }
    // The one before is let go only now: nothing is seen or heard to stop.
    const under = this.decks.length > 1 ? underOf(part) : 0;
    const others = this.decks.filter((other) => other !== deck);
    if (under > 0) {
      deck.picture?.classList.add("over");
      others.forEach(({ picture }) => picture?.classList.remove("over"));
    } else {
      others.forEach(rest);
    }
    deck.picture?.classList.toggle("shown", Boolean(part.picture));
    if (this.ended !== null) {
      this.onGap(Math.max(0, performance.now() - this.ended));
    }
    // The deck before is free for the next part once nothing of it is seen or heard any more.
    let isUnder = under > 0;
    const over = () => {
      isUnder = false;
      others.forEach(rest);
      deck.picture?.style.removeProperty("opacity");
      onBegun();
    };
    if (!isUnder) {
      over();
    }
    const started = performance.now();
    await new Promise((done) => {
      const tick = () => {
        const leads = part.sound && !deck.sound.paused;
        const passed = leads ? deck.sound.currentTime - Number(part.sound.at) : ((performance.now() - started) / 1000) * this.pace;
        if (run !== this.run) {
          done();
          return;
        }
        this.onTime(before + Math.min(passed, length));
        deck.sound.volume = levelAt(part, passed);
        if (isUnder) {
          this.dissolve(deck, others, part, passed);
          if (passed >= under) {
            over();
          }
        }
        if (deck.picture && part.framed) {
          framedAt(deck.picture, part, passed);
        }
        const left = (length - passed) / this.pace;
        if (left <= (this.decks.length > 1 ? LEAD : 0) || deck.sound.ended) {
          this.ended = performance.now() + (deck.sound.ended ? 0 : left * 1000);
          if (isUnder) {
            over();
          }
          done();
          return;
        }
        this.keepInStep(deck, part, passed);
        requestAnimationFrame(tick);
      };
      tick();
    });
  }

  // The picture comes over that of the part before, and the sound as the other goes; each in its own time.
  dissolve({ picture, sound }, others, part, passed) {
    const seen = shareOf(passed, part.dissolve),
      heard = shareOf(passed, part.crossfade);
    if (picture) {
      picture.style.opacity = seen.toFixed(3);
    }
    sound.volume = levelAt(part, passed) * heard;
    others.forEach((other) => {
      other.sound.volume = Math.min(other.sound.volume, 1 - heard);
      // Into nothing: what goes is seen to go.
      if (other.picture && !part.picture) {
        other.picture.style.opacity = (1 - seen).toFixed(3);
      }
    });
  }

  keepInStep({ picture }, part, passed) {
    if (picture && part.picture && part.sound && picture.readyState >= 2) {
      const at = Number(part.picture.at) + passed;
      if (Math.abs(picture.currentTime - at) > 0.15) {
        picture.currentTime = at;
      }
    }
  }

  get playing() {
    return this.decks.some(({ sound }) => !sound.paused);
  }

  stop() {
    this.run++;
    this.pause();
    this.onEnd(false);
  }

  pause() {
    this.decks.forEach(rest);
  }
}

// How long the part before goes on under one.
const underOf = ({ dissolve = 0, crossfade = 0 }) => Math.max(dissolve, crossfade);

const shareOf = (passed, lasting) => (lasting > 0 ? Math.min(1, Math.max(0, passed / lasting)) : 1);

// How loud a part is so many seconds after its begin.
export function levelAt({ level = 1, fadeIn = 0, fadeOut = 0, length }, passed) {
  const comes = fadeIn > 0 ? passed / fadeIn : 1,
    goes = fadeOut > 0 ? (Number(length) - passed) / fadeOut : 1;
  return level * Math.min(1, Math.max(0, Math.min(comes, goes)));
}

function framedAt(picture, { framed, length }, passed) {
  if (framed) {
    frame(picture, framed, passed / Number(length));
  } else {
    unframe(picture);
  }
}

function rest({ sound, picture }) {
  sound.pause();
  picture?.pause();
  picture?.classList.remove("shown", "over");
  picture?.style.removeProperty("opacity");
}

// Resolves when a player stands at its in point; a file that can not be played is passed over after a while, not waited for for ever.
function ready(media, part) {
  media.pause();
  if (!part) {
    media.removeAttribute("src");
    return Promise.resolve();
  }
  return new Promise((done) => {
    const seek = () => {
      media.addEventListener("seeked", done, { once: true });
      media.currentTime = Number(part.at);
    };
    setTimeout(done, 4000);
    media.addEventListener("error", done, { once: true });
    if (media.getAttribute("src") === part.address && media.readyState >= 1) {
      seek();
      return;
    }
    media.addEventListener("loadedmetadata", seek, { once: true });
    // What the page itself does not load until it is asked for is asked for now.
    media.preload = "auto";
    if (media.getAttribute("src") === part.address) {
      media.load();
    } else {
      media.src = part.address;
    }
  });
}
