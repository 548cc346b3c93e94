import { plainLetters } from '../plainLetters.ts';

/* Words that name a day in the languages of the sites, with plain letters; whole words alone. */

const EN = 'monday tuesday wednesday thursday friday saturday sunday';
const NO = 'mandag tirsdag onsdag torsdag fredag lordag sondag';
const DE = 'montag dienstag mittwoch donnerstag freitag samstag sonntag';
const FR = 'lundi mardi mercredi jeudi vendredi samedi dimanche';
const PL = 'poniedzialek wtorek sroda czwartek piatek sobota niedziela';
const PT = 'segunda-feira terca-feira quarta-feira quinta-feira sexta-feira sabado domingo';

const WEEKDAYS = new Map<string, number>(
  [EN, NO, DE, FR, PL, PT].flatMap((names) =>
    names.split(' ').map((name, k): [string, number] => [name, k + 1]),
  ),
);
const SHORT: [string, number][] = [
  ...'mon tue wed thu fri sat sun'.split(' ').map((name, k): [string, number] => [name, k + 1]),
  ...'tues weds thur thurs'.split(' ').map((name, k): [string, number] => [name, [2, 3, 4, 4][k]!]),
  // As Portuguese says them for short, and as Polish does after "on".
  ...'segunda terca quarta quinta sexta'
    .split(' ')
    .map((name, k): [string, number] => [name, k + 1]),
  ['srode', 3],
  ['sobote', 6],
  ['niedziele', 7],
  ['sonnabend', 6],
];
for (const [name, day] of SHORT) WEEKDAYS.set(name, day);

/** The day of the week that a word names, 1 for Monday to 7 for Sunday; null where it names none. */
export const weekdayNamed = (word: string): number | null =>
  WEEKDAYS.get(plainLetters(word).replace(/[.']/g, '')) ?? null;

const AHEAD = new Map<string, number>([
  ...['today', 'i dag', 'idag', 'heute', "aujourd'hui", 'dzisiaj', 'dzis', 'hoje'].map(
    (word): [string, number] => [word, 0],
  ),
  ...['tomorrow', 'tmrw', 'tmw', 'i morgen', 'imorgen', 'demain', 'jutro', 'amanha'].map(
    (word): [string, number] => [word, 1],
  ),
  ['yesterday', -1],
]);

/** How many days from today a word such as “tomorrow” means; null where it says no day. */
export const daysAheadNamed = (words: string): number | null =>
  AHEAD.get(plainLetters(words).replace(/’/g, "'")) ?? null;

const MONTHS = new Map<string, number>(
  'january february march april may june july august september october november december'
    .split(' ')
    .flatMap((name, k): [string, number][] => [
      [name, k + 1],
      [name.slice(0, 3), k + 1],
    ]),
);
MONTHS.set('sept', 9);

/** The month that an English word names, 1 to 12; null where it names none. */
export const monthNamed = (word: string): number | null =>
  MONTHS.get(word.toLowerCase().replace(/\.$/, '')) ?? null;
