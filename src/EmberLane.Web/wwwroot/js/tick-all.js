// A box that ticks all boxes of a list, or none.
document.addEventListener("change", ({ target }) => {
  const list = target.dataset?.tickAll && document.querySelector(target.dataset.tickAll);
  list?.querySelectorAll("input[type=checkbox]").forEach((box) => {
    box.checked = target.checked;
  });
});
