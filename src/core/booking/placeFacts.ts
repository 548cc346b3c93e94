import type { Edit } from '../edits.ts';
import { formatSpan, type ClockStyle } from '../time/format.ts';
import { openWords, priceWords } from './ruleWords.ts';
import type { PlaceRules } from './rules.ts';

/** A place by its name at that moment. */
interface Named {
  name: string;
}
/** A time out of use. Epoch milliseconds, half-open. */
interface OutOfUse extends Named {
  start: number;
  end: number;
  reason: string;
}

/** What happens to a place, and what of it is kept besides. */
export interface PlaceFactDetails {
  'place-added': Named;
  'place-changed': Named & { edits: readonly Edit[] };
  'place-retired': Named;
  /** What was retired is there again. */
  'place-returned': Named;
  'place-shut': OutOfUse;
  'place-reopened': OutOfUse;
  /** It has another picture, or none any more. */
  'place-pictured': Named & { isRemoved: boolean };
}
export const PLACE_FACT_KINDS = [
  'place-added',
  'place-changed',
  'place-retired',
  'place-returned',
  'place-shut',
  'place-reopened',
  'place-pictured',
] as const satisfies readonly (keyof PlaceFactDetails)[];

/** What ids in edits stand for, and the reader's zone and clock. */
export interface PlaceWords {
  zone: string;
  clock: ClockStyle;
  nameOf: (what: 'site' | 'team' | 'person', id: number) => string;
}

type InWords = (value: never, words: PlaceWords) => string;
const plain: InWords = (value: unknown) =>
  value === null || value === '' ? 'none' : String(value);
const minutes: InWords = (value: number | null) => (value === null ? 'none' : `${value} min`);
const list: InWords = (value: readonly string[]) => (value.length > 0 ? value.join(', ') : 'none');

/** How the values of a place are called, and said. */
const FIELDS: Record<string, [name: string, say: InWords]> = {
  name: ['name', plain],
  kind: ['kind', plain],
  siteId: ['site', (id: number, { nameOf }) => nameOf('site', id)],
  floor: ['floor', plain],
  capacity: ['seats', plain],
  units: ['units', plain],
  description: ['what others should know', plain],
  features: ['features', list],
  prepareMinutes: ['kept free before', minutes],
  clearMinutes: ['kept free after', minutes],
  ownerId: [
    'whose it is',
    (id: number | null, { nameOf }) => (id === null ? 'nobody’s' : nameOf('person', id)),
  ],
  'rules/open': [
    'open',
    (open: PlaceRules['open'], { clock }) => (open ? openWords(open, clock) : 'always'),
  ],
  'rules/shortestMinutes': ['shortest booking', minutes],
  'rules/longestMinutes': ['longest booking', minutes],
  'rules/stepMinutes': ['steps', minutes],
  'rules/noticeMinutes': ['notice', minutes],
  'rules/horizonDays': [
    'bookable ahead',
    (days: number | null) => (days === null ? 'without end' : `${days} days`),
  ],
  'rules/teams': [
    'who may book it',
    (teams: readonly number[] | null, { nameOf }) =>
      teams ? teams.map((id) => nameOf('team', id)).join(', ') : 'everybody',
  ],
  'rules/weeklyMinutes': ['at most a week', minutes],
  'rules/approval': ['agreement', (asks: boolean | null) => (asks ? 'needed' : 'not needed')],
  'rules/graceMinutes': ['given up without check-in after', minutes],
  'rules/hourlyPrice': [
    'price an hour',
    (price: PlaceRules['hourlyPrice']) => (price ? priceWords(price) : 'nothing'),
  ],
};

/** How values that edits are about are called, in their order. */
export const placeFieldNames = (edits: readonly Edit[]): string[] =>
  edits.flatMap(({ path }) => FIELDS[path]?.[0] ?? []);

/** What edits of a place did, a clause each, such as `seats 8 → 10`. */
export const placeEditsInWords = (edits: readonly Edit[], words: PlaceWords): string[] =>
  edits.flatMap(({ path, from, to }) => {
    const field = FIELDS[path];
    if (!field) return [];
    const [name, say] = field;
    return [`${name} ${say(from as never, words)} → ${say(to as never, words)}`];
  });

/** What happened to a place, as it stands behind the name of whoever did it. */
export function placeFactInWords<Kind extends keyof PlaceFactDetails>(
  kind: Kind,
  details: PlaceFactDetails[Kind],
  words: PlaceWords,
): string {
  const say: { [K in keyof PlaceFactDetails]: (details: PlaceFactDetails[K]) => string } = {
    'place-added': () => 'added it',
    'place-changed': ({ edits }) => `changed ${placeEditsInWords(edits, words).join('; ')}`,
    'place-retired': () => 'retired it',
    'place-returned': () => 'brought it back',
    'place-shut': ({ reason, ...span }) =>
      `took it out of use, ${formatSpan(span, words.zone, words.clock)}: ${reason}`,
    'place-reopened': (span) =>
      `put it to use again, which was out of use ${formatSpan(span, words.zone, words.clock)}`,
    'place-pictured': ({ isRemoved }) => (isRemoved ? 'removed its picture' : 'gave it a picture'),
  };
  return say[kind](details);
}
