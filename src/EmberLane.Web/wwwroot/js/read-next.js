import { say } from "./keys.js";

// Goes from one open thing to the next: flags, doubtful words, unsure voices; and settles what is open.
export function goingOn(read) {
  function nextFlag() {
    const flags = [...document.querySelectorAll(".flag")].map(({ dataset }) => read.transcript.placeOf(Number(dataset.word)));
    const flag = flags.find((word) => word > read.cursor.word) ?? flags[0];
    if (flag === undefined) {
      say("There is no flag yet. F puts one.");
      return;
    }
    read.cursor.choose(flag, false);
  }

  // The next turn whose voice is unsure, selected as a whole; but for the one that is being settled.
  function nextUnsure(settled = null) {
    const here = read.transcript.turnOf(read.cursor.word),
      unsure = read.transcript.turns.filter((turn) => turn.unsure && (settled === null || turn !== read.transcript.turnOf(settled)));
    const turn = unsure.find((one) => one.first > here.first) ?? unsure[0];
    if (!turn) {
      settledAll("No voice is unsure any more.");
      return;
    }
    read.cursor.select(turn.first, turn.first + turn.words.length - 1);
  }

  // The next doubtful word; but for those that are being settled.
  function nextDoubtful(first = -1, last = -1) {
    const doubtful = read.transcript.doubtful.filter((word) => word < first || word > last),
      word = doubtful.find((one) => one > Math.max(read.cursor.word, last)) ?? doubtful[0];
    if (word === undefined) {
      settledAll("No word is doubtful any more.");
      return;
    }
    read.cursor.select(...read.transcript.unit(word));
  }

  // What is open about the words is right as it is; then on to the next of its kind.
  function settle() {
    const { transcript } = read,
      [first, last] = read.cursor.chosen(),
      turn = transcript.turnOf(first),
      voice = turn.unsure && first === turn.first && last === turn.first + turn.words.length - 1;
    const open = voice || Array.from({ length: last - first + 1 }, (_, i) => transcript.at(first + i)).some((word) => word.doubtful);
    if (!open) {
      say("Nothing is doubtful here. N goes to the next doubtful word, W to the next unsure voice.");
      return;
    }
    read.send(`Settle&voice=${voice}&first=${transcript.numbers[first]}&last=${transcript.numbers[last]}`, first, last);
    if (voice) {
      nextUnsure(first);
    } else {
      nextDoubtful(first, last);
    }
  }

  function settledAll(said) {
    read.cursor.letGo();
    say(said);
  }

  return { nextFlag, nextUnsure, nextDoubtful, settle };
}
