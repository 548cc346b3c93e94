import { lengthIn } from '../time/typedLength.ts';
import { eachRun, type Reading } from './words.ts';

const LONGEST = 1440;

/** "45m", "1h30", "for two and a half hours", "3/4 hour". */
export function readLengths({ words, take }: Reading): void {
  const length = (text: string) => {
    const minutes = lengthIn(text);
    return minutes !== null && minutes >= 1 && minutes <= LONGEST ? minutes : null;
  };
  eachRun(words, 5, length, (at, count, minutes, text) => {
    take(at, count, { kind: 'length', words: text, minutes });
  });
}
