import { USUAL_FIELDS } from './fields.ts';
import { USUAL_RIGHTS } from './rights.ts';
import { describe, expect, it } from 'vitest';
import { askAgain, isNewRevision } from '../icalendar/sequence.ts';
import type { Refusal } from '../refusal.ts';
import { decideCancel, decideRestore } from './cancel.ts';
import { decideChange, type ChangeCommand, type Known } from './change.ts';
import { decideCreate } from './create.ts';
import { editsBetween, takeBack } from './edits.ts';
import { isSeries, occurrenceOf, type Meeting } from './meeting.ts';
import { nextOccurrence } from './next.ts';
import { decideReply, type ReplyCommand } from './reply.ts';
import { answersOf, decideUndo } from './undo.ts';

const NOW = Date.UTC(2026, 10, 24, 8);
const known: Known = { now: NOW, newId: { id: 'tail', uid: 'tail@x' } };
const times = (from: string, to: string) => ({
  startsAt: from,
  endsAt: to,
  zone: 'Europe/Oslo',
  endZone: null,
  fold: 'earlier' as const,
  allDay: false,
});

/** A meeting as it stands once it is stored: everybody has a number. */
function made(repeats: string | null = null): Meeting {
  const decision = decideCreate(
    {
      ...USUAL_FIELDS,
      title: 'Kelp',
      rights: USUAL_RIGHTS,
      times: times('2027-03-03T09:00', '2027-03-03T10:00'),
      repeats: repeats === null ? null : { rule: repeats, except: [] },
      dates: [],
      resources: [7],
      send: true,
      draft: null,
      message: '',
    },
    { personId: 1, name: 'Ines', email: 'ines@x' },
    [
      { personId: 2, name: 'Tomas', email: 'tomas@x', role: 'required' },
      { personId: null, name: 'Jon', email: 'jon@y', role: 'optional' },
    ],
    { ...known, newId: { id: 'kelp', uid: 'kelp@x' } },
  );
  const { after } = decision.changes[0]!;
  return {
    ...after!,
    participants: after!.participants.map((one, k) => ({ ...one, id: 100 + k })),
  };
}
const weekly = () => made('FREQ=WEEKLY;COUNT=5');

const change = (meeting: Meeting, command: Partial<ChangeCommand>) =>
  decideChange(
    meeting,
    { scope: 'all', fields: {}, dates: [], tell: 'everyone', message: '', ...command },
    known,
  );
const after = (meeting: Meeting, command: Partial<ChangeCommand>) =>
  change(meeting, command).changes.at(-1)!.after!;
const answered = (meeting: Meeting, command: Partial<ReplyCommand>, id = 101) =>
  decideReply(
    meeting,
    id,
    { reply: 'accepted', note: '', occurrence: null, stamp: NOW, sequence: null, ...command },
    NOW,
  ).changes[0]!.after!;
const replyOf = (meeting: Meeting, id = 101) => meeting.participants.find((one) => one.id === id)!;
const codeOf = (work: () => unknown): string => {
  try {
    work();
    return 'done';
  } catch (error) {
    return (error as Refusal).code;
  }
};

describe('making a meeting', () => {
  it('invites everybody but its organizer, who has accepted', () => {
    expect(made().participants.map((one) => [one.role, one.reply])).toEqual([
      ['organizer', 'accepted'],
      ['required', 'needs-action'],
      ['optional', 'needs-action'],
    ]);
  });

  it('begins with the first date that the rule names', () => {
    expect(made('FREQ=WEEKLY;BYDAY=FR;COUNT=2').timing.startsAt).toBe('2027-03-05T09:00');
  });
});

describe('what is a new revision, and whom it asks again', () => {
  it('words and places are none', () => {
    const next = after(weekly(), { fields: { title: 'Reed', place: 'Quay' }, resources: [8, 9] });
    expect(next).toMatchObject({ sequence: 0, version: 2, title: 'Reed', resources: [8, 9] });
    expect(isNewRevision(weekly(), next)).toBe(false);
  });

  it('other times ask everybody for all of it, answers to single dates and all', () => {
    const accepted = answered(answered(weekly(), {}), {
      occurrence: '2027-03-10T09:00',
      reply: 'declined',
    });
    const moved = after(accepted, { times: times('2027-03-04T09:00', '2027-03-04T10:00') });
    expect(moved).toMatchObject({ sequence: 1, minReplySequence: 1 });
    expect(replyOf(moved)).toMatchObject({ reply: 'needs-action', occurrences: {} });
  });

  it('one date that is moved asks for that date', () => {
    const accepted = answered(weekly(), {});
    const moved = after(accepted, {
      scope: 'one',
      occurrence: '2027-03-10T09:00',
      times: times('2027-03-11T09:00', '2027-03-11T10:00'),
    });
    expect(moved).toMatchObject({ sequence: 1, minReplySequence: 0 });
    expect(replyOf(moved).reply).toBe('accepted');
    expect(replyOf(moved).occurrences['2027-03-10T09:00']?.reply).toBe('needs-action');
    expect(moved.overrides[0]!.details.minReplySequence).toBe(1);
  });

  it.each([
    ['FREQ=WEEKLY;COUNT=5', 'FREQ=WEEKLY;COUNT=3', false],
    ['FREQ=WEEKLY;COUNT=5', 'FREQ=WEEKLY;COUNT=9', true],
    ['FREQ=WEEKLY', 'FREQ=WEEKLY;UNTIL=20270401', false],
    ['FREQ=WEEKLY;UNTIL=20270401', 'FREQ=WEEKLY;UNTIL=20270501', true],
    ['FREQ=WEEKLY;UNTIL=20270401', 'FREQ=WEEKLY', true],
    ['FREQ=WEEKLY;COUNT=5', 'FREQ=WEEKLY;INTERVAL=2;COUNT=3', true],
  ])('%s become %s asks again: %s', (before, next, whole) => {
    const meeting = made(before);
    expect(askAgain(meeting, { ...meeting, rule: next }).whole).toBe(whole);
    expect(isNewRevision(meeting, { ...meeting, rule: next })).toBe(true);
  });

  it('a single meeting that becomes a series is a new revision', () => {
    const next = after(made(), { repeats: { rule: 'FREQ=WEEKLY;COUNT=3', except: [] } });
    expect(next.sequence).toBe(1);
    expect(isSeries(next)).toBe(true);
  });
});

describe('this and following', () => {
  it('is a meeting of its own that begins as the series was, and then is changed', () => {
    const accepted = answered(weekly(), {});
    const decision = change(accepted, {
      scope: 'following',
      occurrence: '2027-03-17T09:00',
      fields: { title: 'Reed' },
    });
    const [split, head, tail] = decision.changes;
    expect(split).toMatchObject({ before: null, splitFrom: { id: 'kelp' } });
    expect(split!.after).toMatchObject({ title: 'Kelp', timing: { startsAt: '2027-03-17T09:00' } });
    expect(head!.after).toMatchObject({ sequence: 1, rule: 'FREQ=WEEKLY;UNTIL=20270316' });
    expect(replyOf(head!.after!).reply).toBe('accepted');
    expect(tail!.after).toMatchObject({ id: 'tail', sequence: 0, version: 1, title: 'Reed' });
    expect(tail!.after!.participants.map((one) => one.reply)).toEqual([
      'accepted',
      'accepted',
      'needs-action',
    ]);
    expect(decision.undo).toEqual({ id: 'kelp', version: 2 });
  });

  it('from the first date on is the whole', () => {
    const decision = change(weekly(), { scope: 'following', occurrence: '2027-03-03T09:00' });
    expect(decision.changes).toHaveLength(1);
  });
});

describe('cancelling and restoring', () => {
  const telling = { tell: 'everyone' as const, message: '' };

  it('is done once, and taken back, each a new revision', () => {
    const meeting = made();
    const cancelled = decideCancel(meeting, { scope: 'all', ...telling }, known)!;
    const gone = cancelled.changes[0]!.after!;
    expect(gone).toMatchObject({ status: 'cancelled', cancelledAt: NOW, sequence: 1 });
    expect(decideCancel(gone, { scope: 'all', ...telling }, known)).toBeNull();
    const back = decideRestore(gone, telling, known)!.changes[0]!.after!;
    expect(back).toMatchObject({ status: 'confirmed', cancelledAt: null, sequence: 2 });
    expect(back.minReplySequence).toBe(0);
    expect(decideRestore(back, telling, known)).toBeNull();
  });

  it('refuses to change what is cancelled, and to restore what is not', () => {
    const gone = decideCancel(made(), { scope: 'all', ...telling }, known)!.changes[0]!.after!;
    expect(codeOf(() => change(gone, { fields: { title: 'Late' } }))).toBe('cancelled');
    const restore = { occurrence: '2027-03-10T09:00', ...telling };
    expect(codeOf(() => decideRestore(weekly(), restore, known))).toBe('invalid-request');
  });
});

describe('answering', () => {
  it('to all of it answers the dates that asked again, and keeps the others', () => {
    const moved = after(weekly(), {
      scope: 'one',
      occurrence: '2027-03-10T09:00',
      times: times('2027-03-11T09:00', '2027-03-11T10:00'),
    });
    const alone = answered(moved, { occurrence: '2027-03-17T09:00', reply: 'declined' });
    const whole = answered(alone, { reply: 'accepted' });
    expect(Object.keys(replyOf(whole).occurrences)).toEqual(['2027-03-17T09:00']);
  });

  it.each([
    ['nobody who is invited', made(), 999, {}, 'not-invited'],
    ['the organizer', made(), 100, {}, 'not-invited'],
    ['a date that is none', weekly(), 101, { occurrence: '2027-03-11T09:00' }, 'invalid-request'],
    [
      'a date of what happens once',
      made(),
      101,
      { occurrence: '2027-03-03T09:00' },
      'invalid-request',
    ],
    ['an earlier time', { ...made(), minReplySequence: 2 }, 101, { sequence: 1 }, 'outdated'],
  ] as const)('by or to %s is refused', (_, meeting, id, command, code) => {
    expect(codeOf(() => answered(meeting, command, id))).toBe(code);
  });
});

describe('taking back', () => {
  const undo = (present: Meeting, edits: ReturnType<typeof editsBetween>) =>
    decideUndo(present, { version: 2, edits, later: [], splitOff: null }, { tell: 'nobody' }, null);

  it('is the inverse of any change that nobody touched since', () => {
    const meeting = answered(weekly(), {});
    const commands: Partial<ChangeCommand>[] = [
      { fields: { title: 'Reed', agenda: '<p>1</p>', visibility: 'private' }, resources: [8] },
      { times: times('2027-03-04T13:00', '2027-03-04T15:00') },
      { repeats: { rule: 'FREQ=DAILY;COUNT=4', except: ['2027-03-04T09:00'] } },
      { repeats: null },
      {
        scope: 'one',
        occurrence: '2027-03-10T09:00',
        fields: { place: 'Quay' },
        times: times('2027-03-12T09:00', '2027-03-12T09:30'),
        resources: [],
      },
    ];
    for (const command of commands) {
      const next = after(meeting, command);
      const { meeting: back, left } = takeBack(next, editsBetween(meeting, next));
      expect(left).toEqual([]);
      const numbers = { version: 0, sequence: 0, minReplySequence: 0 };
      const dates = (one: Meeting) =>
        one.overrides.filter((date) => date.timing || date.details.place || date.details.resources);
      expect({ ...back, ...numbers, overrides: dates(back) }).toEqual({
        ...meeting,
        ...numbers,
        overrides: dates(meeting),
      });
    }
  });

  it('leaves what was changed since and names it; of nothing else left it refuses', () => {
    const first = made();
    const second = after(first, { fields: { title: 'Second', place: 'Quay' } });
    const edits = editsBetween(first, second);
    const third = after(second, { fields: { title: 'Third' } });
    const decision = undo(third, edits);
    expect(decision.changes[0]!.after).toMatchObject({ title: 'Third', place: '', version: 4 });
    expect(decision.notes.join()).toContain('title');
    const fourth = after(third, { fields: { place: 'Pier' } });
    expect(codeOf(() => undo(fourth, edits))).toBe('changed-since');
  });

  it('of a part split off that was changed since is refused', () => {
    const meeting = weekly();
    const decision = change(meeting, { scope: 'following', occurrence: '2027-03-17T09:00' });
    const [, head, tail] = decision.changes;
    const revision = {
      version: 2,
      edits: editsBetween(meeting, head!.after!),
      later: [],
      splitOff: { id: 'tail', at: '2027-03-17T09:00', answers: answersOf(tail!.after!) },
    };
    const apart = (changedSince: boolean) =>
      decideUndo(
        head!.after!,
        revision,
        { tell: 'nobody' },
        { meeting: tail!.after!, changedSince, laidOut: ['2027-03-17T09:00', '2027-03-24T09:00'] },
      );
    expect(codeOf(() => apart(true))).toBe('changed-since');
    const whole = apart(false).changes.at(-1)!.after!;
    expect(whole).toMatchObject({ rule: 'FREQ=WEEKLY;COUNT=5', sequence: 2 });
  });
});

describe('one occurrence', () => {
  it('has its own times and words, and the series’ where it has none', () => {
    const meeting = after(weekly(), {
      scope: 'one',
      occurrence: '2027-03-10T09:00',
      fields: { title: 'Reed' },
      resources: [],
    });
    expect(occurrenceOf(meeting, '2027-03-10T09:00')).toMatchObject({
      title: 'Reed',
      showsAs: 'busy',
      resources: [],
      start: Date.UTC(2027, 2, 10, 8),
    });
    expect(occurrenceOf(meeting, '2027-03-17T09:00')).toMatchObject({
      title: 'Kelp',
      resources: [7],
    });
  });

  it('is next after the one that is over', () => {
    expect(nextOccurrence(weekly(), Date.UTC(2027, 2, 10, 9))).toBe('2027-03-17T09:00');
    expect(nextOccurrence(weekly(), Date.UTC(2028, 0, 1))).toBeNull();
    expect(nextOccurrence(made(), NOW)).toBeNull();
  });
});
