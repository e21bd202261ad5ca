/** The candidate a person most likely meant: at most two edits away (Levenshtein), else null. */
export function nearest(word: string, candidates: Iterable<string>): string | null {
  let best: string | null = null;
  let distance = 3;
  for (const candidate of candidates) {
    const edits =
      Math.abs(candidate.length - word.length) > 2
        ? 3
        : editDistance(word.toLowerCase(), candidate.toLowerCase());
    if (edits < distance) [best, distance] = [candidate, edits];
  }
  return best;
}

function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const swap = (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1);
      next.push(Math.min(swap, (row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1));
    }
    row = next;
  }
  return row[b.length] ?? 0;
}
