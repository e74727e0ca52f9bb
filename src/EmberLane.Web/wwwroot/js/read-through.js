// Tells the server what was read here: turns whose end was in sight for as long as a quick reader needs for them, and what was heard.
// Whoever only leafs through has read nothing.
const wordsPerSecond = 10,
  between = 1000,
  sendAfter = 4000;

export function readingThrough(read) {
  const inSight = new Set(),
    seconds = new Map(),
    done = new Set();
  let ranges = [],
    heardTo = -1,
    sending = null;
  const sight = new IntersectionObserver(
    (entries) => entries.forEach(({ target, isIntersecting }) => (isIntersecting ? inSight.add(target) : inSight.delete(target))),
    { root: document.querySelector(".read") },
  );

  function watch() {
    sight.disconnect();
    inSight.clear();
    read.transcript.turns.forEach(({ element }) => sight.observe(element));
  }

  function note(from, to) {
    // A file may begin before the clock of its sitting.
    ranges.push(`${Math.max(0, from)}-${Math.max(0, to)}`);
    sending ??= setTimeout(send, sendAfter);
  }

  function send() {
    clearTimeout(sending);
    sending = null;
    if (ranges.length === 0) {
      return;
    }
    const body = new URLSearchParams({ ranges: ranges.join(",") });
    ranges = [];
    // What can not be told is read again some time: nothing hangs on it.
    fetch("?handler=Read", { method: "POST", body, keepalive: true, headers: JSON.parse(document.body.getAttribute("hx-headers")) }).catch(
      () => {},
    );
  }

  function look() {
    if (document.visibilityState !== "visible") {
      return;
    }
    const { transcript, lit, player } = read;
    const bottom = document.querySelector(".read").getBoundingClientRect().bottom;
    for (const element of inSight) {
      const turn = transcript.turns.find((other) => other.element === element);
      if (
        !turn ||
        turn.words.length === 0 ||
        done.has(element.id) ||
        element.getBoundingClientRect().bottom > Math.min(bottom, innerHeight)
      ) {
        continue;
      }
      const seen = (seconds.get(element.id) ?? 0) + between / 1000;
      seconds.set(element.id, seen);
      if (seen >= Math.max(1, turn.words.length / wordsPerSecond)) {
        done.add(element.id);
        note(turn.words[0].start, turn.words.at(-1).end);
      }
    }
    // Played on from where it was a moment ago: those words were heard.
    if (player.playing && lit > heardTo && heardTo >= 0 && lit - heardTo < 30) {
      note(transcript.starts[heardTo], transcript.ends[lit]);
    }
    heardTo = player.playing ? lit : -1;
  }

  watch();
  setInterval(look, between);
  document.addEventListener("changed", ({ detail }) => detail.whole && watch());
  window.addEventListener("pagehide", send);
}
