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

async function fetched(query) {
  const answer = await fetch(`${location.pathname}?${query}`);
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
    ? await fetched(
        new URLSearchParams({ handler: "Words", version, from: words.from, fromAt: words.fromAt, to: words.to, toAt: words.toAt }),
      )
    : await fetched(new URLSearchParams([["handler", "Pieces"], ...pieces.map((piece) => ["piece", piece.dataset.card])]));
  if (json === null) {
    return false;
  }
  put(textOf(words, pieces), json);
  return true;
}

// Keeps what is put in where a text stands on the system's clipboard, as JSON: pieces, or words of a sitting.
export const store = (text, json) => localStorage.setItem(key, JSON.stringify({ text: plain(text), json }));

function put(text, json) {
  store(text, json);
  navigator.clipboard?.writeText(text).catch(() => {});
}

// Keeps the cards that bites would be laid as.
export async function keepBites(bites) {
  const json = await fetched(new URLSearchParams([["handler", "Pieces"], ...bites.map(({ id }) => ["bite", id])]));
  if (json !== null) {
    put(bites.map(({ text }) => text).join("\n"), json);
  }
  return json !== null;
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
