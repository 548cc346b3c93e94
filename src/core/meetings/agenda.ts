import { lengthIn } from '../time/typedLength.ts';

/** A point of an agenda that takes a stated time. */
export interface TimedPoint {
  /** Without its length. */
  words: string;
  minutes: number;
}

/** A length is said in so many words at most: `1 h 30 min`. */
const MOST_WORDS = 4;
const LONGEST_MINUTES = 1440;
/** A longer line is no point but a text, and is not looked at. */
const LONGEST_POINT = 300;

/** What stands around a length at the end of a point: `Rent (10 min)`, `Rent, Wanjiru: 10 min.` */
const [BEFORE, AFTER] = [' ,;:(–—-', ' .)'];

/** A text without what it ends in of some characters. */
function without(characters: string, text: string): string {
  let end = text.length;
  while (end > 0 && characters.includes(text[end - 1]!)) end--;
  return text.slice(0, end);
}

/**
 * The points of an agenda that end in a length, in their order; lines without one are no timed points.
 * @param lines its points and paragraphs as plain text
 */
export function timedPoints(lines: readonly string[]): TimedPoint[] {
  return lines.flatMap((line): TimedPoint[] => {
    if (line.length > LONGEST_POINT) return [];
    const words = without(AFTER, line.trimEnd()).split(/[\s(]+/);
    for (let count = Math.min(MOST_WORDS, words.length - 1); count >= 1; count--) {
      const said = words.slice(-count).join(' ');
      const minutes = lengthIn(said);
      if (minutes === null || minutes < 1 || minutes > LONGEST_MINUTES) continue;
      return [{ words: without(BEFORE, words.slice(0, -count).join(' ')), minutes }];
    }
    return [];
  });
}
