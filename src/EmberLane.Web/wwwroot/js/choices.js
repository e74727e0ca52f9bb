// What a reader chose for the page; it stays in this browser. Returns a way to ask for a choice.
export function choices(root, changed) {
  const kept = JSON.parse(localStorage.getItem("page-choices") || "{}");
  const fields = [...document.querySelectorAll("[data-choice]")];
  const apply = () => {
    root.dataset.margin = kept.margin ?? "clock";
    root.dataset.pauses = kept.pauses ?? "1000";
    root.dataset.aside = kept.aside ?? "folded";
    document.documentElement.style.setProperty("--speech-lines", kept.spacing ?? "1.6");
  };
  for (const field of fields) {
    const name = field.dataset.choice;
    if (name in kept) {
      if (field.type === "checkbox") {
        field.checked = kept[name];
      } else if ([...field.options].some((option) => option.value === kept[name])) {
        field.value = kept[name];
      }
    }
    field.addEventListener("change", () => {
      kept[name] = field.type === "checkbox" ? field.checked : field.value;
      localStorage.setItem("page-choices", JSON.stringify(kept));
      apply();
      changed();
    });
  }
  apply();
  return (name) => kept[name] ?? false;
}
