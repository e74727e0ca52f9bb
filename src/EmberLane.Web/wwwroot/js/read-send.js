// Changes of the selected words, sent to the server.
export function changing(read) {
  const { cursor } = read;

  // The answer goes into the turn of the words where one holds them all.
  function send(query, first, last) {
    const turn = read.transcript.turnOf(first),
      one = turn === read.transcript.turnOf(last);
    return htmx.ajax(
      "POST",
      `?handler=${query}`,
      one
        ? { target: `#${turn.element.id}`, swap: "innerHTML", select: `#${turn.element.id} > *` }
        : { target: "#page", swap: "outerHTML" },
    );
  }

  // With the selected words; the cursor goes to the first one.
  function change(handler, stay = false) {
    const [first, last] = cursor.chosen(),
      { numbers } = read.transcript;
    send(`${handler}&first=${numbers[first]}&last=${numbers[last]}`, first, last);
    if (!stay) {
      cursor.word = first;
      cursor.letGo();
    }
  }

  function mark() {
    const [, last] = cursor.chosen();
    send(`Mark&word=${read.transcript.numbers[last]}`, last, last);
  }

  function undo(redo) {
    htmx.ajax("POST", `?handler=Undo&redo=${redo}`, { target: "#page", swap: "outerHTML" });
  }

  // From the selected words to another run of the recogniser over them.
  function again() {
    const [first, last] = cursor.chosen(),
      clockOf = (ms) => {
        const s = Math.max(0, ms) / 1000;
        return `${Math.floor(s / 3600)}:${String(Math.floor(s / 60) % 60).padStart(2, "0")}:${(s % 60).toFixed(1).padStart(4, "0")}`;
      };
    const from = clockOf(read.transcript.starts[first] - 200),
      to = clockOf(read.transcript.ends[last] + 200);
    location.href = `${location.pathname}/texts?from=${from}&to=${to}#again`;
  }

  return { send, change, mark, again, undo };
}
