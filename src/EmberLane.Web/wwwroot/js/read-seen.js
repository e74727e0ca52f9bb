// What this page shows of the text's changes: all of them when it was laid anew, one more when only a turn was. Gives what takes the line
// about a change away that is shown already: news of it may overtake the answer to the one who made it.
export function seeing() {
  const seen = document.getElementById("seen");

  function forgetSeen() {
    const line = document.querySelector("#others [data-version]");
    if (line && Number(line.dataset.version) <= Number(seen.value)) {
      line.remove();
    }
  }

  document.addEventListener("changed", ({ detail }) => {
    if (detail.whole || Number(seen.value) === detail.version - 1) {
      seen.value = detail.version;
    }
    forgetSeen();
  });
  return forgetSeen;
}
