import { clockText } from "./keys.js";

// Plays cards one after another from their sources. Two players take turns, so that the next card is ready when one ends; the sound leads.
export class StoryPlayer {
  constructor(dialog, onCard) {
    this.dialog = dialog;
    this.onCard = onCard;
    this.sides = ["a", "b"].map((side) => ({
      sound: dialog.querySelector(`#sound-${side}`),
      picture: dialog.querySelector(`#picture-${side}`),
    }));
    this.run = 0;
  }

  async play(cards, from) {
    this.stop();
    const run = ++this.run;
    if (!this.dialog.open) {
      this.dialog.showModal();
    }
    let before = cards.slice(0, from).reduce((sum, card) => sum + Number(card.length), 0);
    await this.load(this.sides[from % 2], cards[from]);
    for (let i = from; i < cards.length && run === this.run; i++) {
      const next = cards[i + 1] ? this.load(this.sides[(i + 1) % 2], cards[i + 1]) : null;
      this.onCard(cards[i].place);
      await this.playCard(this.sides[i % 2], cards[i], before, run);
      before += Number(cards[i].length);
      await next;
    }
    if (run === this.run) {
      this.dialog.close();
    }
  }

  async load(side, card) {
    await Promise.all([ready(side.sound, card.sound), ready(side.picture, card.picture)]);
  }

  async playCard(side, card, before, run) {
    this.sides.forEach((other) => {
      other.sound.pause();
      other.picture.pause();
      other.picture.classList.remove("shown");
    });
    this.dialog.querySelector("#player-words").textContent = card.words;
    const length = Number(card.length),
      started = performance.now();
    if (card.picture) {
      side.picture.classList.add("shown");
      side.picture.play().catch(() => {});
    }
    if (card.sound) {
      await side.sound.play().catch(() => {});
    }
    await new Promise((done) => {
      const tick = () => {
        const passed =
          card.sound && !side.sound.paused ? side.sound.currentTime - Number(card.sound.at) : (performance.now() - started) / 1000;
        this.dialog.querySelector("#player-clock").textContent = clockText(before + Math.min(passed, length));
        if (run !== this.run || passed >= length || side.sound.ended) {
          done();
          return;
        }
        if (
          card.picture &&
          card.sound &&
          Math.abs(side.picture.currentTime - Number(card.picture.at) - passed) > 0.15 &&
          side.picture.readyState >= 2
        ) {
          side.picture.currentTime = Number(card.picture.at) + passed;
        }
        requestAnimationFrame(tick);
      };
      tick();
    });
  }

  stop() {
    this.run++;
    this.onCard(-1);
    this.sides.forEach((side) => {
      side.sound.pause();
      side.picture.pause();
    });
    if (this.dialog.open) {
      this.dialog.close();
    }
  }
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
    if (media.getAttribute("src") === part.address && media.readyState >= 1) {
      seek();
      return;
    }
    media.addEventListener("loadedmetadata", seek, { once: true });
    media.src = part.address;
  });
}
