// What was cut or copied from the story: its words go to the system's clipboard, the pieces that they stand for stay with this browser.
import { say } from "./keys.js";
import { state } from "./story-drawn.js";

const key = "ember-story-clip";

const kept = () => {
  try {
    return JSON.parse(localStorage.getItem(key));
  } catch {
    return null;
  }
};

const plain = (text) => text.replace(/\s+/g, " ").trim();

// What something is as pieces, as JSON. What is named goes in the body: hundreds of cards are too long for an address.
async function fetched(handler, fields, page = location.pathname) {
  const answer = await fetch(`${page}?handler=${handler}`, {
    method: "POST",
    headers: JSON.parse(document.body.getAttribute("hx-headers")),
    body: new URLSearchParams(fields),
  }).catch(() => null);
  if (!answer) {
    say("The server does not answer, so nothing was copied.");
    return null;
  }
  const text = await answer.text();
  if (!answer.ok) {
    say(text || "Nothing was copied.");
    return null;
  }
  return text;
}

// What selected words, or whole pieces, are as a text.
export const textOf = (words, pieces) =>
  words
    ? words.text
    : pieces.map((piece) => plain(piece?.querySelector(".speech, .other-text, .section-name")?.textContent ?? "")).join("\n");

// Keeps selected words, or whole pieces. Returns whether something was kept.
export async function keep(words, pieces) {
  const { version } = state();
  const json = words
    ? await fetched("Words", { version, from: words.from, fromAt: words.fromAt, to: words.to, toAt: words.toAt })
    : await fetched(
        "Pieces",
        pieces.map((piece) => ["piece", piece.dataset.card]),
      );
  return json !== null && put(textOf(words, pieces), json);
}

// Keeps what is put in where a text stands on the system's clipboard, as JSON: pieces, or words of a sitting. Returns whether it was kept.
export function store(text, json) {
  try {
    localStorage.setItem(key, JSON.stringify({ text: plain(text), json }));
    return true;
  } catch {
    say("That is more than this browser keeps at once, so nothing was copied. Copy less.");
    return false;
  }
}

// The same, with the text on the system's clipboard.
export function put(text, json) {
  const isKept = store(text, json);
  if (isKept) {
    navigator.clipboard?.writeText(text).catch(() => {});
  }
  return isKept;
}

// The cards that bites of a production would be laid as, as JSON; null, said, where they cannot be had.
export const piecesOf = (production, bites) =>
  fetched(
    "Pieces",
    bites.map((id) => ["bite", id]),
    `/productions/${Number(production)}/bites`,
  );

// The production that this page shows.
export const productionHere = () => Number(/^\/productions\/(\d+)/.exec(location.pathname)[1]);

// Keeps the cards that bites would be laid as. Returns whether they were kept.
export async function keepBites(bites) {
  const json = await piecesOf(
    productionHere(),
    bites.map(({ id }) => id),
  );
  return json !== null && put(bites.map(({ text }) => text).join("\n"), json);
}

// What is to be put in: what was kept here, unless the clipboard holds a text from elsewhere by now.
export function clip(text = null) {
  const own = kept();
  if (!own) {
    say("Nothing was cut or copied from a story yet.");
    return null;
  }
  if (text !== null && plain(text) !== own.text) {
    say("This text was not cut or copied from a story, so no footage belongs to it. Lay it as narration, under “Lay something else”.");
    return null;
  }
  return own.json;
}
