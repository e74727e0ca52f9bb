// What the page shows of the story by now, as the server knows it, and answers that hold only what is not so any more.

// What every request says of the page: the version that it shows, by what name its drawing is known, which seam lies open.
export const state = () => ({
  shown: document.getElementById("shelf-shown")?.value ?? "",
  ...Object.fromEntries([...document.querySelectorAll("#story-state input")].map(({ name, value }) => [name, value])),
});

// Where an answer holds changes of a drawing that is not what the page shows any more, all of the story is asked for.
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  const on = detail.xhr.getResponseHeader("Ember-Drawn-On");
  if (on && on !== state().drawn) {
    detail.shouldSwap = false;
    htmx.ajax("GET", "?handler=Story", { target: "#story", swap: "outerHTML", values: { ...state(), seen: 0, drawn: "" } });
  } else if (on && detail.requestConfig.verb === "post") {
    document.querySelector("#story > .alert-line")?.remove();
    // A form that stays where it is has done what it was filled for.
    if (detail.requestConfig.elt.matches("form")) {
      detail.requestConfig.elt.reset();
    }
  }
});

// Calls back when the story is there, and each time that some of it has been drawn anew.
export function drawn(then) {
  let soon = false;
  addEventListener("DOMContentLoaded", then);
  if (document.readyState === "complete") {
    then();
  }
  document.addEventListener("htmx:afterSettle", ({ target }) => {
    if (!soon && target.closest?.("#story")) {
      soon = true;
      queueMicrotask(() => {
        soon = false;
        then();
      });
    }
  });
}
