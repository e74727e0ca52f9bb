// Words compared as they are spelt.
export function bare(word) {
  return word.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, "");
}

// Near spellings: one letter in four may be another, be missing or be too many; words of up to three letters must be the same.
export function closeTo(one, other) {
  const most = Math.floor(Math.max(one.length, other.length) / 4);
  if (most === 0 || Math.abs(one.length - other.length) > most) {
    return false;
  }
  let row = Array.from({ length: other.length + 1 }, (_, j) => j);
  for (let i = 1; i <= one.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= other.length; j += 1) {
      next.push(Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (one[i - 1] === other[j - 1] ? 0 : 1)));
    }
    row = next;
  }
  return row[other.length] <= most;
}
