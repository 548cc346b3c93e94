import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composeMessage } from '../icalendar/compose.ts';
import { parseRequests } from '../icalendar/request.ts';
import { decideChange } from './change.ts';
import { decideCreate } from './create.ts';
import { editsBetween, takeBack } from './edits.ts';
import {
  DATE_FIELD_NAMES,
  FIELD_NAMES,
  fieldOf,
  PROPERTY_FIELD_NAMES,
  shownOf,
  USUAL_FIELDS,
  type FieldName,
  type MeetingFields,
  type PropertyFields,
} from './fields.ts';
import { occurrenceOf, type Meeting } from './meeting.ts';
import { USUAL_RIGHTS } from './rights.ts';

const known = { now: Date.UTC(2026, 10, 24, 8), newId: { id: 'kelp', uid: 'kelp@x' } };

const valueOf = (name: FieldName): fc.Arbitrary<string | number> => {
  const field = fieldOf(name);
  switch (field.kind) {
    case 'line':
      return fc.constantFrom('Kelp', 'Reed', 'Wrack and dulse', 'x'.repeat(field.longest));
    case 'rich':
      return fc.constantFrom('Bring boots', 'Two lines of it');
    case 'choice':
      return fc.constantFrom(...field.among);
    case 'number':
      return fc.integer({ min: field.least, max: field.most });
  }
};
const fields = fc.record(
  Object.fromEntries(FIELD_NAMES.map((name) => [name, valueOf(name)])),
) as unknown as fc.Arbitrary<MeetingFields>;

const made = (said: MeetingFields): Meeting =>
  decideCreate(
    {
      ...said,
      rights: USUAL_RIGHTS,
      times: {
        startsAt: '2027-03-03T09:00',
        endsAt: '2027-03-03T10:00',
        zone: 'Europe/Oslo',
        endZone: null,
        fold: 'earlier',
        allDay: false,
      },
      repeats: { rule: 'FREQ=DAILY;COUNT=5', except: [] },
      dates: [],
      resources: [],
      send: false,
      draft: null,
      message: '',
    },
    { personId: 1, name: 'Ines', email: 'ines@x.example' },
    [],
    known,
  ).changes[0]!.after!;

const changed = (before: Meeting, said: Partial<MeetingFields>, at?: string): Meeting =>
  decideChange(
    before,
    {
      fields: said,
      scope: at ? 'one' : 'all',
      occurrence: at,
      dates: [],
      tell: 'nobody',
      message: '',
    },
    known,
  ).changes[0]!.after!;

const DATE = '2027-03-04T09:00';

describe('every field of a meeting', () => {
  it('is changed, named by what it is called, and taken back', () => {
    fc.assert(
      fc.property(fields, fields, (was, is) => {
        const before = made(was);
        const after = changed(before, is);
        for (const name of FIELD_NAMES) expect(after[name]).toBe(is[name]);
        const edits = editsBetween(before, after);
        const others = FIELD_NAMES.filter((name) => was[name] !== is[name]);
        expect(edits.map((edit) => edit.path).sort()).toEqual([...others].sort());
        const { meeting, left } = takeBack(after, edits);
        expect(left).toEqual([]);
        for (const name of FIELD_NAMES) expect(meeting[name]).toBe(was[name]);
      }),
    );
  });

  it('is of one date alone where it may be, and goes back to what the series says', () => {
    fc.assert(
      fc.property(fields, fields, fc.constantFrom(...DATE_FIELD_NAMES), (was, is, name) => {
        const before = made(was);
        const after = changed(before, { [name]: is[name] }, DATE);
        expect(occurrenceOf(after, DATE)[name]).toBe(is[name]);
        expect(occurrenceOf(after, '2027-03-05T09:00')[name]).toBe(was[name]);
        const back = takeBack(after, editsBetween(before, after)).meeting;
        expect(occurrenceOf(back, DATE)[name]).toBe(was[name]);
      }),
    );
  });

  it('is refused for one date where it is of all', () => {
    expect(() => changed(made(USUAL_FIELDS), { visibility: 'private' }, DATE)).toThrow();
  });

  it('with a property of its own comes back as it went', () => {
    fc.assert(
      fc.property(fields, (said) => {
        const sent = Object.fromEntries(
          PROPERTY_FIELD_NAMES.map((name) => [name, said[name]]),
        ) as PropertyFields;
        const text = composeMessage({
          method: 'REQUEST',
          uid: 'kelp@x.example',
          sequence: 0,
          stamp: known.now,
          organizer: { name: 'Ines', email: 'ines@x.example' },
          attendees: [
            { name: 'Tomas', email: 'tomas@x.example', role: 'required', reply: 'needs-action' },
          ],
          resources: [],
          transparent: false,
          confidential: false,
          fields: sent,
          start: Date.UTC(2027, 2, 3, 8),
          end: Date.UTC(2027, 2, 3, 9),
          allDay: false,
          zone: 'Europe/Oslo',
        });
        const [request] = parseRequests(text, { zone: 'UTC' });
        expect(request!.events[0]!.fields).toMatchObject(sent);
      }),
    );
  });

  it('says itself in words only where there is something to say', () => {
    for (const name of FIELD_NAMES) expect(shownOf(name, USUAL_FIELDS[name])).toBeNull();
    expect(shownOf('showsAs', 'away')).toBe('My time: away');
  });
});
