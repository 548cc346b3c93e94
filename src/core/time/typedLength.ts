import { numberOf } from './numberWords.ts';
import { parseLength } from './typedTime.ts';

/** One number with its unit, or hours and minutes; a bare number is no length. */
const LENGTH = /^(\d+([.,]\d+)?\s?(m|mins?|minutes?|h|hrs?|hours?)|\d+\s?h\s?\d{1,2}m?)$/i;
/** `14h30` and `15h` are times of day, `1h30` and `2h` are not. */
const CLOCK_LIKE = /^(1[3-9]|2[0-3])h$|^([7-9]|1\d|2[0-3])h[0-5]\d$/i;
const FRACTIONS: Record<string, number> = { '1/4': 15, '1/2': 30, '3/4': 45 };

/** A length as it is said: "45m", "1h30", "two and a half hours". @returns minutes; null where a text says none */
export function lengthIn(text: string): number | null {
  const plain = text
    .replace(/¼/g, ' 1/4')
    .replace(/½/g, ' 1/2')
    .replace(/¾/g, ' 3/4')
    .trim()
    .toLowerCase();
  if (/^half an? hour$|^(a )?half hour$/.test(plain)) return 30;
  if (/^(a )?quarter of an hour$|^(a )?quarter hour$/.test(plain)) return 15;
  if (/^three quarters of an hour$/.test(plain)) return 45;
  if (/^an? hour and a half$/.test(plain)) return 90;
  if (/^(an?|one) hour$/.test(plain)) return 60;
  const part = /^(?:(\d{1,2}) )?(1\/4|1\/2|3\/4)(?: of an)? ?(?:h|hrs?|hours?)$/.exec(plain);
  if (part) return Number(part[1] ?? 0) * 60 + FRACTIONS[part[2]!]!;
  const halves = /^(\w+) and a half hours?$/.exec(plain);
  if (halves) return numberOf(halves[1]!) * 60 + 30 || null;
  const spelt = /^([a-z]+) (hours?|minutes?)$/.exec(plain);
  if (spelt) return numberOf(spelt[1]!) * (spelt[2]!.startsWith('h') ? 60 : 1) || null;
  const both = /^(\d{1,2}) ?(?:h|hrs?|hours?) (?:and )?(\d{1,2}) ?(?:m|mins?|minutes?)$/.exec(
    plain,
  );
  if (both) return Number(both[1]) * 60 + Number(both[2]);
  if (!LENGTH.test(plain) || CLOCK_LIKE.test(plain)) return null;
  return parseLength(plain.replace(/hrs?$/, 'h').replace(/mins$/, 'min'));
}

const UNITS: Record<string, number> = { m: 1, h: 60, d: 1440, w: 10_080 };
const PART =
  /^(\d{1,6}(?:[.,]\d{1,3})?) ?(w|weeks?|d|days?|h|hrs?|hours?|m|mins?|minutes?)(?![a-z])(?: and |, | )?/;

/**
 * A length as it is typed into a field, which may be long: "90", "1h30", "2 h", "1 day", "2 weeks", "1 day 4 h".
 * @param bare minutes that a number without a unit stands for
 * @returns whole minutes, from 0 on; null where it is no length
 */
export function readTypedLength(text: string, bare: number): number | null {
  const plain = text.trim().toLowerCase().replace(/\s+/g, ' ');
  if (/^\d{1,6}$/.test(plain)) return Number(plain) * bare;
  let [rest, sum] = [plain, 0];
  for (let match = PART.exec(rest); match; match = PART.exec(rest)) {
    sum += Number(match[1]!.replace(',', '.')) * UNITS[match[2]![0]!]!;
    rest = rest.slice(match[0].length);
  }
  if (rest === '' && plain !== '') return Number.isInteger(sum) ? sum : null;
  return lengthIn(plain) ?? parseLength(plain);
}
