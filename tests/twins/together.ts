import fc from 'fast-check';
import { resolveWallTime } from '../../src/core/time/wall.ts';

/*
 * Several people at one series, which may begin as a draft: two who may change it, two who answer here,
 * one of them also by somebody who acts for them, one who answers by mail, one more who comes and goes,
 * with identical units that others want too. The twin keeps every single value of every single
 * date as it stands and derives nothing; a change is the list of values it sets, and taking it back
 * is to set those that nobody set since.
 */
export const DATES = 5;
export const START = '2027-05-03T05:00';
export const LENGTH = 60;
export const UNITS = 3;
export const GUEST = 'jon@harbour.example';

export type Reply = 'needs-action' | 'accepted' | 'tentative' | 'declined';
export type Attendee = 'tomas' | 'mika' | 'guest' | 'hal';
export const ATTENDEES: Attendee[] = ['tomas', 'mika', 'guest', 'hal'];
export type Editor = 'ines' | 'tomas';

/** An answer with the moment it was given or asked for, which makes it a value of its own. */
export interface Answer {
  reply: Reply;
  mark: number;
}

/** Every value by its name, such as `title`, `3.wall`, `tomas` or `tomas.3`; null where there is none. */
type Values = Map<string, unknown>;

export interface Twin {
  values: Values;
  sequence: number;
  /** SEQUENCE from which answers count: to all, and to dates that were moved alone. */
  from: number;
  dateFrom: Map<number, number>;
  version: number;
  letters: number;
  news: Heard[];
}

/** What somebody heard of behind the bell: of which version, and whether they have dealt with it. */
interface Heard {
  who: 'ines' | 'tomas' | 'mika' | 'hal';
  what: 'invited' | 'left out' | 'changed' | 'reminded' | 'answered' | 'asked';
  version: number;
  isRead: boolean;
}

export const shifted = (wall: string, minutes: number) =>
  new Date(Date.parse(`${wall}Z`) + minutes * 60_000).toISOString().slice(0, 16);
export const instant = (wall: string) => resolveWallTime(wall, 'Europe/Oslo').instant;
export const dates = Array.from({ length: DATES }, (_, k) => k);

export const nameOf = (twin: Twin, k: number) =>
  shifted(START, k * 7 * 1440 + Number(twin.values.get('shift')));
export const wallOf = (twin: Twin, k: number) =>
  (twin.values.get(`${k}.wall`) as string | null) ?? nameOf(twin, k);
export const isGone = (twin: Twin, k: number) => twin.values.get(`${k}.gone`) !== null;
export const isDraft = (twin: Twin) => twin.values.get('sent') === false;
/** Who is invited: nobody to a draft, and Hal comes and goes. */
export const invited = (twin: Twin): Attendee[] =>
  isDraft(twin)
    ? []
    : ATTENDEES.filter((who) => who !== 'hal' || twin.values.get('in.hal') === true);
export const answerOf = (twin: Twin, who: Attendee, k: number) =>
  (twin.values.get(`${who}.${k}`) ?? twin.values.get(who)) as Answer;

/** Values that name or belong to dates: with the rule they are taken back together, or stay. */
export const DATE_VALUES = dates.flatMap((k) => [`${k}.wall`, `${k}.title`, `${k}.gone`]);

export function begin(draft: boolean): Twin {
  const values: Values = new Map<string, unknown>([
    ['title', 'Together'],
    ['place', ''],
    ['shift', 0],
    ['in.hal', false],
    ['sent', !draft],
  ]);
  for (const name of DATE_VALUES) values.set(name, null);
  for (const who of ATTENDEES) {
    values.set(who, draft || who === 'hal' ? null : { reply: 'needs-action', mark: 0 });
    // Other times they ask for, by their date, and whether they were reminded to answer.
    values.set(`${who}.asks`, null);
    values.set(`${who}.nudged`, false);
    for (const k of dates) values.set(`${who}.${k}`, null);
  }
  return {
    values,
    sequence: 0,
    from: 0,
    dateFrom: new Map(),
    version: 1,
    letters: draft ? 0 : 3,
    news: draft ? [] : (['tomas', 'mika'] as const).map((who) => heard(who, 'invited', 1)),
  };
}

export const heard = (who: Heard['who'], what: Heard['what'], version: number): Heard => ({
  who,
  what,
  version,
  isRead: false,
});

/**
 * Everybody who is or was invited hears of a change, whoever made it left out, and the organizer of what
 * others do. What is undone before it was dealt with is taken back instead; whoever is left out need
 * hear no more of it than that.
 * @param undone the version whose change is taken back
 */
export function tell(before: Twin, twin: Twin, by: Editor, undone: number | null = null): void {
  const [old, now] = [invited(before), invited(twin)];
  const told = ATTENDEES.filter((who) => old.includes(who) || now.includes(who)).map((who) => ({
    who,
    what: !old.includes(who)
      ? ('invited' as const)
      : now.includes(who)
        ? ('changed' as const)
        : ('left out' as const),
  }));
  const isOut = (who: Heard['who']) =>
    told.some((one) => one.who === who && one.what === 'left out');
  const gone = twin.news.filter((one) => !one.isRead && (one.version === undone || isOut(one.who)));
  const spared = (who: Heard['who']) =>
    gone.some(
      (one) =>
        one.who === who && (one.version === undone || (isOut(who) && one.what === 'invited')),
    );
  const fresh = told.flatMap(({ who, what }) =>
    who === 'guest' || who === by ? [] : [heard(who, what, twin.version)],
  );
  if (by !== 'ines')
    for (const what of new Set(told.map((one) => one.what)))
      fresh.push(heard('ines', what, twin.version));
  twin.news = [
    ...twin.news.filter((one) => !gone.includes(one)),
    ...fresh.filter((one) => !spared(one.who)),
  ];
}

/** A change as the values that it sets. */
export type Sets = [name: string, to: unknown][];
export interface Made {
  by: Editor;
  version: number;
  sets: { name: string; from: unknown; to: unknown }[];
}

/** Whoever is not invited has answered nothing, and whoever was or is now is written to. */
function settle(before: Twin, twin: Twin): void {
  for (const who of ATTENDEES) {
    if (invited(twin).includes(who)) continue;
    twin.values.set(who, null);
    twin.values.set(`${who}.asks`, null);
    twin.values.set(`${who}.nudged`, false);
    for (const k of dates) twin.values.set(`${who}.${k}`, null);
  }
  twin.letters += new Set([...invited(before), ...invited(twin)]).size;
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
export const copy = (twin: Twin): Twin => ({
  ...twin,
  values: new Map(twin.values),
  news: [...twin.news],
  dateFrom: new Map(twin.dateFrom),
});
/** What RFC 5546 section 2.1.4 counts. */
const scheduled = (twin: Twin) =>
  ['shift', ...dates.flatMap((k) => [`${k}.wall`, `${k}.gone`])].map((name) =>
    name.endsWith('.gone') ? twin.values.get(name) !== null : twin.values.get(name),
  );

export function apply(before: Twin, sets: Sets): { twin: Twin; made: Made['sets'] } {
  const twin = copy(before);
  const made = sets.map(([name, to]) => ({ name, from: before.values.get(name), to }));
  for (const [name, to] of sets) twin.values.set(name, to);
  twin.version++;
  if (!same(scheduled(before), scheduled(twin))) twin.sequence++;
  settle(before, twin);
  return { twin, made };
}

/** From when answers count, after times changed. */
export function outdate(before: Twin, twin: Twin) {
  if (before.values.get('shift') !== twin.values.get('shift')) {
    twin.from = twin.sequence;
    twin.dateFrom.clear();
    return;
  }
  for (const k of dates) {
    if (!same(before.values.get(`${k}.wall`), twin.values.get(`${k}.wall`)))
      twin.dateFrom.set(k, twin.sequence);
  }
}

/** @returns null when all of it has been changed since */
export function takeBack(before: Twin, { sets }: Made): Twin | null {
  const twin = copy(before);
  const shift = sets.find((one) => one.name === 'shift');
  const stands = ({ name, to }: Made['sets'][number]) => same(before.values.get(name), to);
  const isAnswer = (name: string) => ATTENDEES.includes(name.split('.')[0] as Attendee);
  if (shift && !same(shift.from, shift.to)) {
    const snapshot = sets.filter((one) => !isAnswer(one.name));
    if (!snapshot.every(stands)) return null;
  }
  const own = sets.filter((one) => !isAnswer(one.name) && !same(one.from, one.to));
  if (own.length > 0 && !own.some(stands)) return null;
  for (const one of sets) if (stands(one)) twin.values.set(one.name, one.from);
  // A draft again: whoever was to be asked when it was sent, or came since, is to be asked.
  if (isDraft(twin) && !isDraft(before)) {
    const atSending = sets.find((one) => one.name === 'hal')?.to !== null;
    twin.values.set('in.hal', atSending || before.values.get('in.hal') === true);
  }
  twin.version++;
  if (!same(scheduled(before), scheduled(twin))) twin.sequence++;
  settle(before, twin);
  outdate(before, twin);
  return twin;
}

export const steps = fc.array(
  fc.record({
    kind: fc.constantFrom(
      'rename',
      'rename',
      'rename one',
      'place',
      'move one',
      'move one',
      'move all',
      'cancel one',
      'restore one',
      'people',
      'people',
      'reply',
      'reply',
      'reply one',
      'mail',
      'mail one',
      'send',
      'send',
      'nudge',
      'counter',
      'counter',
      'take',
      'take',
      'forward',
      'by another',
      'undo',
      'undo',
      'undo',
    ),
    by: fc.constantFrom<Editor>('ines', 'tomas'),
    who: fc.constantFrom<'tomas' | 'mika' | 'hal'>('tomas', 'mika', 'hal'),
    // Mostly the same few dates, so that people get in each other’s way.
    date: fc.constantFrom(0, 0, 0, 1, 1, 2),
    minutes: fc.constantFrom(-60, -15, 45, 60, 90, 1440),
    reply: fc.constantFrom<Reply>('accepted', 'tentative', 'declined'),
    behind: fc.nat(2),
  }),
  { minLength: 4, maxLength: 12 },
);
export type Step = typeof steps extends fc.Arbitrary<(infer T)[]> ? T : never;

/** What somebody asks for, by its date: when it would begin. */
export type Asks = Record<number, number>;

export const without = (asks: Asks | null, k: number): Asks | null => {
  const left = Object.fromEntries(Object.entries(asks ?? {}).filter(([at]) => Number(at) !== k));
  return Object.keys(left).length > 0 ? left : null;
};

/** What only those who are invited do. */
export const OF_OTHERS: ReadonlySet<string> = new Set([
  'reply',
  'reply one',
  'mail',
  'mail one',
  'counter',
  'by another',
]);

/** Ways to end that chance alone may not find in so few runs. */
export const RARE = (() => {
  const step = (kind: Step['kind'], rest: Partial<Step> = {}): Step => ({
    kind,
    by: 'ines',
    who: 'tomas',
    date: 0,
    minutes: 60,
    reply: 'accepted',
    behind: 0,
    ...rest,
  });
  return {
    changedSince: [step('rename'), step('rename', { by: 'tomas' }), step('undo')],
    outdated: [step('move all', { minutes: -60 }), step('mail', { behind: 1 }), step('mail')],
    taken: [step('move one', { date: 1, minutes: 90 }), step('reply one'), step('undo')],
    draft: [
      step('send'),
      step('rename'),
      step('people'),
      step('send'),
      step('reply'),
      step('nudge'),
      step('nudge'),
      step('undo'),
      step('undo'),
      step('undo'),
    ],
    taken2: [
      step('counter', { who: 'mika', minutes: 45 }),
      step('take', { who: 'mika' }),
      step('undo'),
    ],
    // A time that was asked for under a name that its date loses again.
    renamed: [step('move all', { minutes: -60 }), step('counter', { minutes: -60 }), step('undo')],
    forwarded: [step('forward'), step('by another'), step('undo')],
    gone: [
      step('people'),
      step('reply', { who: 'hal' }),
      step('people', { by: 'tomas' }),
      step('reply', { who: 'hal' }),
      step('undo', { by: 'tomas' }),
      step('move all', { date: 1 }),
      step('people'),
      step('undo'),
      step('undo'),
      step('undo'),
    ],
  };
})();
