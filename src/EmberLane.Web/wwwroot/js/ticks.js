// Bites that are ticked, to be changed at once. They stay ticked when the list is drawn anew.
const ticked = new Set();
const bar = document.getElementById("ticked");

function show() {
  for (const box of document.querySelectorAll("#bites input[name=tick]")) {
    box.checked = ticked.has(box.value);
  }
  document.getElementById("ticked-count").textContent = ticked.size;
  bar.hidden = ticked.size === 0;
  bar.elements.ticks.value = [...ticked].join(" ");
}

function untick() {
  ticked.clear();
  show();
}

document.addEventListener("change", ({ target }) => {
  if (target.matches("#bites input[name=tick]")) {
    ticked[target.checked ? "add" : "delete"](target.value);
    show();
  }
});
document.addEventListener("htmx:afterSettle", show);
document.getElementById("untick").addEventListener("click", untick);
document.getElementById("tick-shown").addEventListener("click", () => {
  document.querySelectorAll("#bites input[name=tick]").forEach((box) => ticked.add(box.value));
  show();
});
// A grade is a value too; the field holds a theme.
for (const button of bar.querySelectorAll("[data-tick-grade]")) {
  button.addEventListener("click", () => {
    const value = document.getElementById("ticked-value").value;
    htmx.ajax("POST", "?handler=Many", {
      source: bar,
      target: "#bites",
      swap: "outerHTML",
      values: { what: "grade", value: button.dataset.tickGrade },
    });
    document.getElementById("ticked-value").value = value;
  });
}
// What is set aside, laid or made one is done with; after a theme or a grade something else may follow.
let last = "";
bar.addEventListener("htmx:configRequest", ({ detail }) => (last = detail.parameters.what ?? ""));
bar.addEventListener("htmx:afterRequest", ({ detail }) => detail.successful && ["aside", "merge", "lay"].includes(last) && untick());
