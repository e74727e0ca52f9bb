// How large the words are, kept in this browser.
const smallest = 14,
  largest = 34,
  usual = 19;

function set(size) {
  document.documentElement.style.setProperty("--speech-size", `${size}px`);
}

export function size(step) {
  const now = parseInt(getComputedStyle(document.documentElement).getPropertyValue("--speech-size"), 10) || usual,
    next = Math.min(largest, Math.max(smallest, now + step));
  set(next);
  localStorage.setItem("speech-size", next);
}

export function sizeAsKept() {
  const kept = Number(localStorage.getItem("speech-size"));
  if (kept >= smallest && kept <= largest) {
    set(kept);
  }
}
