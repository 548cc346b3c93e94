/** How many mistakes are forgiven in a word of a length. */
export const forgiven = (length: number): number => (length <= 3 ? 0 : length <= 5 ? 1 : 2);

/**
 * Mistakes between two words: letters left out, added, wrong, or two changed about (the distance of
 * Damerau and Levenshtein, each letter moved once at most).
 * @param most larger distances are told as `most + 1`
 */
export function mistakes(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, k) => k);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let least = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, before[j - 2]! + 1);
      row.push(least);
    }
    before = last;
    last = row;
  }
  return Math.min(last[b.length]!, most + 1);
}
