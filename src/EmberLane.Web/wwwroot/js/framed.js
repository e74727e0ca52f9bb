// Shows a part of a picture: left edge, upper edge and size as shares of it, at the begin and at the end of what is played.
export function frame(video, [left, top, size, leftThen, topThen, sizeThen], passed) {
  const way = Math.min(1, Math.max(0, passed)),
    at = (from, to) => from + (to - from) * way;
  video.style.transformOrigin = "0 0";
  video.style.transform =
    `scale(${(1 / at(size, sizeThen)).toFixed(5)}) ` +
    `translate(${(-100 * at(left, leftThen)).toFixed(3)}%, ${(-100 * at(top, topThen)).toFixed(3)}%)`;
}

// The whole picture.
export function unframe(video) {
  video.style.transform = "";
}
