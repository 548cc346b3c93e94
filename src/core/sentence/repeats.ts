import { numberOf } from '../time/numberWords.ts';
import { weekdayNamed } from '../time/dayWords.ts';
import { eachRun, type Reading } from './words.ts';

const WEEKS: Record<string, number> = { second: 2, other: 2, third: 3, fourth: 4 };
const MOST_WEEKS = 4;
const MOST_COUNT = 26;

const weeksOf = (text: string): number => WEEKS[text.toLowerCase()] ?? numberOf(text);

/** How often, other than every so many weeks. */
const RULES: [words: RegExp, rule: string, name: string][] = [
  [/^(daily|every ?day|each day)$/i, 'FREQ=DAILY', 'every day'],
  [
    /^(every|each) (week|working) ?days?$|^(on )?(week|working )days$|^on week ?days$/i,
    'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
    'every weekday',
  ],
  [/^(monthly|every month|each month)$/i, 'FREQ=MONTHLY', 'every month'],
  [/^(quarterly|every quarter|every three months)$/i, 'FREQ=MONTHLY;INTERVAL=3', 'every 3 months'],
  [/^(yearly|annually|every year)$/i, 'FREQ=YEARLY', 'every year'],
];

/** "x6", "6 times", "for eight weeks". */
function countIn(text: string): number | null {
  const match =
    /^(?:x|×)?\s?(\d{1,2})\s?(?:times|x|×)$/i.exec(text) ??
    /^(?:x|×)\s?(\d{1,2})$/i.exec(text) ??
    /^(\w+) times$/i.exec(text) ??
    /^for (\w+) weeks$/i.exec(text);
  const count = numberOf(match?.[1] ?? '');
  return count >= 2 && count <= MOST_COUNT ? count : null;
}

/** Every so many weeks, and which run of words says it; "every Tuesday" leaves the day to be read. */
function weeksIn(text: string): number | null {
  if (/^(weekly|(every|each) week)$/i.test(text)) return 1;
  if (/^(fortnightly|biweekly|every fortnight)$/i.test(text)) return 2;
  const match = /^every (\w+) weeks?$/i.exec(text);
  const weeks = weeksOf(match?.[1] ?? '');
  return weeks >= 2 && weeks <= MOST_WEEKS ? weeks : null;
}

/** Takes what says how often; "weekly", "every other Monday", "every weekday", "Tuesdays", "daily". */
export function readRepeats({ words, take }: Reading): void {
  let count: number | null = null;
  const counted: number[] = [];
  eachRun(words, 3, countIn, (at, length, value) => {
    count = value;
    for (let k = at; k < at + length; k++) counted.push(k);
  });
  let repeats = false;
  for (const [said, rule, name] of RULES)
    eachRun(
      words,
      3,
      (text) => (said.test(text) ? rule : null),
      (at, length, _rule, text) => {
        repeats = true;
        take(at, length, { kind: 'repeats', words: text, rule, name, count });
      },
    );
  eachRun(words, 3, weeksIn, (at, length, everyWeeks, text) => {
    repeats = true;
    take(at, length, { kind: 'weekly', words: text, everyWeeks, count });
  });
  const before = (text: string): number | null => {
    const match = /^(?:every|each)(?: (\w+))?$/i.exec(text);
    if (!match) return null;
    const weeks = match[1] === undefined ? 1 : weeksOf(match[1]);
    return weeks >= 1 && weeks <= MOST_WEEKS ? weeks : null;
  };
  eachRun(words, 2, before, (at, length, everyWeeks, text) => {
    const next = words[at + length];
    if (!next || next.taken || weekdayNamed(next.text) === null) return;
    repeats = true;
    take(at, length, { kind: 'weekly', words: text, everyWeeks, count });
  });
  words.forEach((word, at) => {
    const day = /^(mon|tues|wednes|thurs|fri|satur|sun)days$/i.exec(word.text);
    if (!day || word.taken) return;
    repeats = true;
    take(at, 1, { kind: 'weekly', words: word.text, everyWeeks: 1, count });
    // The day is said by the same word.
    word.text = word.text.slice(0, -1);
    word.taken = false;
  });
  if (repeats) for (const k of counted) words[k]!.taken = true;
}
