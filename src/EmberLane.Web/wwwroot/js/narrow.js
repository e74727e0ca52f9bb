// Typing a part of a name narrows a long list to what has it: links in a list, or the options of a choice. The list may be drawn anew
// meanwhile.
const fold = (text) => text.normalize("NFD").replace(/\p{M}/gu, "").toLocaleLowerCase();

function narrow(field) {
  const asked = fold(field.value.trim()),
    list = document.querySelector(field.dataset.narrow);
  for (const item of list?.querySelectorAll(field.dataset.items ?? "option:not([value=''])") ?? []) {
    item.hidden = asked !== "" && !fold(item.textContent).includes(asked);
  }
}

document.addEventListener("input", ({ target }) => {
  if (target.dataset?.narrow) {
    narrow(target);
  }
});
document.addEventListener("keydown", (event) => {
  const field = event.target.closest?.("[data-narrow]");
  if (!field) {
    return;
  }
  if (event.key === "Enter") {
    // The first that is left.
    const first = [...document.querySelectorAll(`${field.dataset.narrow} ${field.dataset.items ?? "option"}`)].find(
      (item) => !item.hidden && item.value !== "",
    );
    event.preventDefault();
    if (first?.matches("option")) {
      first.selected = true;
      first.parentElement.dispatchEvent(new Event("change", { bubbles: true }));
    } else {
      (first?.matches("a") ? first : first?.querySelector("a"))?.click();
    }
  } else if (event.key === "Escape") {
    field.value = "";
    narrow(field);
  }
});
document.addEventListener("htmx:afterSettle", () =>
  document.querySelectorAll("[data-narrow]").forEach((field) => {
    if (field.value) {
      narrow(field);
    }
  }),
);
