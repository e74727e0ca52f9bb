// On set: stamps flags with this device's time of day. A flag is kept in this browser first and sent then; without a line it waits, through
// reloads too. The server keeps one that arrives twice once.
const production = document.body.dataset.production,
  key = `set-flags-${production}`,
  form = document.getElementById("stamp"),
  state = document.getElementById("stamp-state"),
  pending = document.getElementById("stamp-pending");
let sending = false;

const waiting = () => JSON.parse(localStorage.getItem(key) || "[]");
const keep = (flags) => localStorage.setItem(key, JSON.stringify(flags));
const two = (number) => String(number).padStart(2, "0");
const dayOf = (now) => `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
const sinceMidnight = (now) => ((now.getHours() * 60 + now.getMinutes()) * 60 + now.getSeconds()) * 1000 + now.getMilliseconds();
const clockOf = (ms) => `${two(Math.floor(ms / 3600000))}:${two(Math.floor(ms / 60000) % 60)}:${two(Math.floor(ms / 1000) % 60)}`;

function show(note = "") {
  const flags = waiting();
  state.textContent = note || (flags.length > 0 ? `${flags.length} kept here, sent when the line is back.` : "");
  pending.replaceChildren(
    ...flags.map(({ at, words }) => {
      const item = document.createElement("li");
      item.textContent = `${clockOf(at)} ${words}`;
      return item;
    }),
  );
}

// One after another, the oldest first. One that the server refuses is told of and kept no longer; all else waits.
async function send() {
  if (sending) {
    return;
  }
  sending = true;
  let sent = 0,
    refused = "";
  try {
    const { RequestVerificationToken } = JSON.parse(document.body.getAttribute("hx-headers"));
    for (let [flag] = waiting(); flag; [flag] = waiting()) {
      const answer = await fetch("?handler=Stamp", {
        method: "POST",
        body: new URLSearchParams(flag),
        headers: { RequestVerificationToken, "HX-Request": "true" },
      });
      if (!answer.ok && answer.status !== 409) {
        break;
      }
      refused = answer.ok ? refused : await answer.text();
      keep(waiting().filter(({ id }) => id !== flag.id));
      sent += 1;
    }
  } catch {
    // No line: it is tried again.
  }
  sending = false;
  show(refused);
  if (sent > 0) {
    document.body.dispatchEvent(new CustomEvent("stamped", { bubbles: true }));
  }
}

form.addEventListener("submit", (event) => {
  event.preventDefault();
  const now = new Date(),
    { who, words } = Object.fromEntries(new FormData(form));
  keep([...waiting(), { id: crypto.randomUUID(), day: dayOf(now), at: sinceMidnight(now), who, words }]);
  form.elements.words.value = "";
  show();
  send();
});
window.addEventListener("online", send);
setInterval(() => waiting().length > 0 && send(), 4000);

const clock = document.getElementById("stamp-clock");
const tick = () => {
  clock.textContent = clockOf(sinceMidnight(new Date()));
};
setInterval(tick, 250);
tick();
show();
send();

// So that the page can be loaded again while the line is lost.
navigator.serviceWorker?.register("/onset-worker.js", { scope: "/" }).catch(() => {});
