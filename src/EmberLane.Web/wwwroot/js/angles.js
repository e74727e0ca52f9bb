// Makes one angle large.
export function enlarge(number) {
  const wanted = document.querySelector(`.angle[data-angle="${number}"]`);
  if (!wanted) {
    return false;
  }
  document.querySelectorAll(".angle").forEach((angle) => angle.classList.toggle("large", angle === wanted));
  return true;
}
