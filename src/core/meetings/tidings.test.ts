import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { USUAL_FIELDS } from './fields.ts';
import { NOTHING_OF_ITS_OWN, type Meeting, type Participant } from './meeting.ts';
import { askedAt } from './people.ts';
import { USUAL_RIGHTS } from './rights.ts';
import { MOST_DATES_TOLD, tidings } from './tidings.ts';

const person = (personId: number, role: Participant['role'] = 'required'): Participant => ({
  ...askedAt(
    { personId, name: `P${personId}`, email: `p${personId}@x.example`, role: 'required' },
    0,
  ),
  id: personId,
  role,
});
const TIMING = {
  startsAt: '2027-06-03T10:00',
  zone: 'Europe/Oslo',
  fold: 'earlier' as const,
  lengthMinutes: 60,
  allDay: false,
};
const meeting: Meeting = {
  ...USUAL_FIELDS,
  title: 'Kelp',
  id: 'kelp',
  uid: 'kelp@x.example',
  sequence: 0,
  minReplySequence: 0,
  version: 1,
  organizerId: 1,
  timing: TIMING,
  endZone: null,
  rule: 'FREQ=WEEKLY;COUNT=10',
  except: [],
  overrides: [],
  rights: USUAL_RIGHTS,
  status: 'confirmed',
  draft: null,
  cancelledAt: null,
  resources: [7],
  participants: [person(1, 'organizer'), person(2), person(3)],
};
const date = (k: number) => new Date(Date.UTC(2027, 5, 3 + 7 * k, 10)).toISOString().slice(0, 16);
const own = (
  k: number,
  { cancelled = false, hours = 0, title = null as string | null } = {},
): Meeting['overrides'][number] => ({
  recurrenceId: date(k),
  cancelled,
  timing: hours ? { ...TIMING, startsAt: date(k).replace('T10', `T${10 + hours}`) } : null,
  details: { ...NOTHING_OF_ITS_OWN, title, cancelledAt: cancelled ? 1 : null },
});
const told = (before: Meeting | null, after: Meeting | null, key = '2') =>
  tidings(before, after, key).map(({ kind, occurrence }) =>
    occurrence === null ? kind : `${kind} ${occurrence.slice(5, 10)}`,
  );
const without = (id: number): Meeting => ({
  ...meeting,
  participants: meeting.participants.filter((one) => one.personId !== id),
});
const cancelled: Meeting = { ...meeting, status: 'cancelled', cancelledAt: 1 };
const draft: Meeting = { ...meeting, draft: { holds: false, invited: [] } };

describe('what somebody is told of a meeting', () => {
  it.each<[string, Meeting | null, Meeting | null, string[]]>([
    ['never heard of it, and is asked', null, meeting, ['invited']],
    ['never heard of it, and it is gone', null, null, []],
    ['never heard of it, and it is cancelled', null, cancelled, []],
    ['was not asked, and is', without(2), meeting, ['invited']],
    ['was asked, and is not', meeting, without(2), ['uninvited']],
    [
      'was asked, is not, and it is cancelled',
      meeting,
      { ...without(2), status: 'cancelled' },
      ['uninvited'],
    ],
    ['was asked, and it is cancelled', meeting, cancelled, ['cancelled']],
    ['was asked, and it is gone', meeting, null, ['cancelled']],
    ['was asked, and it is a draft again', meeting, draft, ['uninvited']],
    ['heard that it is off, and it is on', cancelled, meeting, ['restored']],
    ['heard that it is off, and it is', cancelled, cancelled, []],
    ['it is as it was', meeting, { ...meeting, version: 9, sequence: 4 }, []],
    ['another title', meeting, { ...meeting, title: 'Reed' }, ['changed']],
    [
      'another time',
      meeting,
      { ...meeting, timing: { ...TIMING, startsAt: '2027-06-03T11:00' } },
      ['moved'],
    ],
    ['another room', meeting, { ...meeting, resources: [8] }, ['changed']],
    ['another person', meeting, without(3), ['changed']],
    [
      'another answer',
      meeting,
      {
        ...meeting,
        participants: meeting.participants.map((one) => ({ ...one, reply: 'accepted' as const })),
      },
      [],
    ],
    [
      'a date less',
      meeting,
      { ...meeting, overrides: [own(2, { cancelled: true })] },
      ['cancelled 06-17'],
    ],
    [
      'a date back',
      { ...meeting, overrides: [own(2, { cancelled: true })] },
      meeting,
      ['restored 06-17'],
    ],
    ['a date moved', meeting, { ...meeting, overrides: [own(1, { hours: 2 })] }, ['moved 06-10']],
    [
      'a date moved and back',
      { ...meeting, overrides: [own(1, { hours: 2 })] },
      { ...meeting, overrides: [own(1)] },
      ['moved 06-10'],
    ],
    [
      'a date that says what the series says',
      meeting,
      { ...meeting, overrides: [own(1, { title: 'Kelp' })] },
      [],
    ],
    [
      'two dates',
      meeting,
      { ...meeting, overrides: [own(1, { title: 'Reed' }), own(2, { cancelled: true })] },
      ['changed 06-10', 'cancelled 06-17'],
    ],
    [
      'a date and all of it',
      meeting,
      { ...meeting, title: 'Reed', overrides: [own(1, { hours: 2 })] },
      ['moved'],
    ],
  ])('who %s', (_, before, after, expected) => expect(told(before, after)).toEqual(expected));

  it('of many dates is told by one letter about all', () => {
    const overrides = Array.from({ length: MOST_DATES_TOLD + 1 }, (_, k) =>
      own(k + 1, { title: 'Reed' }),
    );
    expect(told(meeting, { ...meeting, overrides })).toEqual(['changed']);
    expect(told(meeting, { ...meeting, overrides: overrides.slice(1) })).toHaveLength(
      MOST_DATES_TOLD,
    );
  });

  it('is nothing where all was taken back, whatever became of it in between', () => {
    const change = fc.record({
      title: fc.constantFrom('Kelp', 'Reed'),
      hours: fc.nat(2),
      off: fc.nat(3),
    });
    fc.assert(
      fc.property(change, change, (one, other) => {
        const as = ({ title, hours, off }: typeof one): Meeting => ({
          ...meeting,
          title,
          overrides: [own(1, { hours }), own(off + 2, { cancelled: true })],
        });
        expect(told(as(one), as(one))).toEqual([]);
        const isSame = JSON.stringify(as(one).overrides) === JSON.stringify(as(other).overrides);
        expect(told(as(one), as(other)).length === 0).toBe(isSame && one.title === other.title);
      }),
    );
  });
});
