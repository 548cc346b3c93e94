import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  naiveOutside,
  naivelyInBreak,
  naivelyPossible,
  naivelyPressed,
} from '../../../tests/twins/naiveOpenings.ts';
import {
  at,
  member,
  NO_TERMS,
  question,
  questions,
  wishes,
} from '../../../tests/twins/planning.ts';
import { formatTime } from '../time/format.ts';
import { weekOf } from '../time/workingHours.ts';
import { LineUpFit, fitOf } from './fit.ts';
import type { LineUpMember } from './lineUp.ts';
import { openings } from './openings.ts';
import type { Wishes } from './wishes.ts';
import { listNames, openingReasons } from './words.ts';

describe('reasons', () => {
  it('are true: each says what a scan of everybody’s day finds', () => {
    fc.assert(
      fc.property(questions(), fc.boolean(), ({ members, wishes: w, surroundings }, leastBad) => {
        const asked = { ...w, leastBad };
        // Names that differ in their first word, so that a reason names one person only.
        const named = members.map((one) => ({ ...one, name: `M${one.id} Sample` }));
        const people = named.filter((one) => one.kind === 'person' && !one.setAside);
        const places = named.filter((one) => one.kind === 'resource' && !one.setAside);
        for (const opening of openings(named, asked, surroundings).best.slice(0, 4)) {
          const said = openingReasons(opening, named).map((one) => one.text);
          const coming = people.filter((one) => naivelyPossible(one, opening, asked));
          const doubtful = coming.filter(
            (one) => !naivelyPossible(one, opening, { ...asked, unknown: 'busy' }),
          );
          const free = coming.length - doubtful.length;
          const absent = people.filter((one) => !coming.includes(one));
          const names = (list: LineUpMember[]) =>
            listNames(list.map((one) => one.name.split(' ')[0]!));
          if (people.length > 1) {
            const count =
              free === people.length ? `all ${free} free` : `${free} of ${people.length} free`;
            expect(said).toContain(count);
          }
          const without = said.find((text) => text.startsWith('without '));
          expect(without?.replace(/, (some )?required$/, '')).toBe(
            absent.length ? `without ${names(absent)}` : undefined,
          );
          for (const one of coming) {
            const [own] = one.name.split(' ');
            const hour = said.filter((text) =>
              /^((until )?\d\d:\d\d|in the break) for /.test(text),
            );
            const mentioned = hour.filter((text) => new RegExp(`\\b${own}\\b`).test(text));
            if (naiveOutside(one, opening) === 0) expect(mentioned).toEqual([]);
            else if (people.length <= 3) {
              const from = formatTime(opening.start, one.zone);
              const until = `until ${formatTime(opening.end, one.zone)}`;
              const hourSaid = mentioned[0]!.split(' for ')[0];
              if (naivelyInBreak(one, opening)) expect(hourSaid).toBe('in the break');
              else expect([from, until]).toContain(hourSaid);
            }
          }
          const pressed = coming.filter((one) => naivelyPressed(one, opening, asked));
          const noBreak = said.find((text) => text.startsWith('no break for '));
          expect(noBreak).toBe(pressed.length ? `no break for ${names(pressed)}` : undefined);
          const gone = places.filter((one) => !naivelyPossible(one, opening, asked));
          const open = places.filter((one) => !gone.includes(one));
          const whole = (list: LineUpMember[]) => listNames(list.map((one) => one.name));
          if (gone.length) expect(said).toContain(`${whole(gone)} taken`);
          if (open.length) expect(said).toContain(`${whole(open)} free`);
        }
      }),
      { numRuns: 60 },
    );
  }, 60_000);

  const words = (
    members: LineUpMember[],
    w: Wishes,
    history: { start: number; end: number; people: number[] }[] = [],
  ) => {
    const { best } = openings(members, w, { rooms: [], history });
    const speech = { clock: '24' as const, placeOf: () => 'Halifax' };
    return openingReasons(best[0]!, members, speech).map((reason) => reason.text);
  };

  const mika = member({
    id: 2,
    name: 'Mika Sandoval',
    zone: 'America/Halifax',
    hours: weekOf({ start: 720, end: 960 }),
  });
  const late = wishes({ stretchMinutes: 60, window: { start: at(14), end: at(16) } });

  it('say who is free, at what hour for whom, and whose turn it was', () => {
    const room = member({ id: 3, name: 'Gannet', kind: 'resource', hours: null });
    expect(words([member(), mika, room], late).slice(0, 3)).toEqual([
      'all 2 free',
      'Gannet free',
      '11:00 for Mika',
    ]);
    // Yesterday at 11:00 in Halifax; before that within their hours.
    const before = [15, 17].map((hour, k) => ({
      start: at(hour - 24 * (k ? 4 : 1)),
      end: at(hour + 1 - 24 * (k ? 4 : 1)),
      people: [1, 2],
    }));
    expect(words([member(), mika], late, before)).toContain(
      '11:00 for Mika, Halifax took the early hour last time',
    );
  });

  it('say who is missing, whether they are required, and of whom nothing is known', () => {
    const away = member({
      id: 2,
      name: 'Robine Thys',
      role: 'optional',
      busy: [{ start: at(0), end: at(24), occupancy: 'away' }],
    });
    expect(words([member(), away], wishes())).toEqual(['1 of 2 free', 'without Robine']);
    const needed = { ...away, role: 'required' as const };
    expect(words([member(), needed], wishes({ leastBad: true }))).toContain(
      'without Robine, required',
    );
    const silent = member({ id: 3, name: 'Oskar Lindqvist', knowledge: 'none' });
    expect(words([member(), silent], wishes({ unknown: 'ignored' }))).toEqual([
      '1 of 2 free',
      'nothing known of Oskar',
    ]);
  });
});

describe('how a chosen time fits', () => {
  it('tells the gravest thing about each, and until when', () => {
    const span = { start: at(15, 30), end: at(16, 30) };
    const members = [
      member({ id: 1, hours: weekOf({ start: 480, end: 1080 }) }),
      member({ id: 2 }),
      member({ id: 3, busy: [{ start: at(15), end: at(16), occupancy: 'tentative' }] }),
      member({
        id: 4,
        busy: [
          { start: at(15), end: at(18), occupancy: 'away' },
          { start: at(16), end: at(17), occupancy: 'busy' },
        ],
      }),
      member({ id: 5, busy: [{ start: at(16, 30), end: at(17), occupancy: 'busy' }], hours: null }),
      member({ id: 6, setAside: true }),
      member({ id: 7, knowledge: 'none' }),
      member({ id: 8, busy: [{ start: at(0), end: at(24), occupancy: 'unknown' }] }),
      member({ id: 9, holidays: [{ date: '2026-11-24', name: 'Day of the Tern' }] }),
    ];
    expect(fitOf(members, span).map(({ id, state, until }) => [id, state, until])).toEqual([
      [1, 'free', null],
      [2, 'outside', null],
      [3, 'tentative', at(16)],
      [4, 'away', at(18)],
      [5, 'free', null],
      [7, 'unknown', null],
      [8, 'unknown', at(24)],
      [9, 'holiday', null],
    ]);
    expect(new LineUpFit(members, question([]).wishes.window).at(span).at(-1)!.holiday).toBe(
      'Day of the Tern',
    );
  });

  it('tells what a place asks of bookings of a meeting, and not of a moment', () => {
    const terms = { ...NO_TERMS, shortestMinutes: 90 };
    const gannet = member({ id: 1, kind: 'resource', hours: null, terms });
    const meeting = { start: at(10), end: at(11) };
    expect(fitOf([gannet], meeting)).toMatchObject([
      { state: 'barred', broken: { rule: 'too-short', least: 90 } },
    ]);
    expect(fitOf([gannet], { ...meeting, end: at(12) })).toMatchObject([{ state: 'free' }]);
    expect(new LineUpFit([gannet], meeting).at(meeting)).toMatchObject([{ state: 'free' }]);
  });
});
