// What is set aside is passed over in listening, as in reading, unless the reader chose to hear all of it, or has opened the passage. Who
// begins to play within it hears it. The element of the id tells its stretches. Gives the moment to go on at, or null.
export function skipping(choice, isOpened, id = "strip") {
  let before = null,
    written = null,
    stretches = [];

  function aside() {
    const now = document.getElementById(id).dataset.aside;
    if (now !== written) {
      written = now;
      stretches = now
        .split(" ")
        .filter(Boolean)
        .map((stretch) => stretch.split(",").map(Number));
    }
    return stretches;
  }

  // The last stretch that has begun, by halving: this is asked in every frame.
  function at(seconds) {
    const all = aside();
    let low = 0,
      high = all.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (all[middle][0] <= seconds) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low > 0 && seconds < all[low - 1][1] ? all[low - 1] : null;
  }

  return (seconds, playing) => {
    const last = before;
    before = seconds;
    if (!playing || last === null || choice("playing") === "all") {
      return null;
    }
    const stretch = at(seconds);
    return stretch && last < stretch[0] && !isOpened(stretch[0]) ? stretch[1] : null;
  };
}
