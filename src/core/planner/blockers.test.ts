import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { naiveBlockers, naiveStarts } from '../../../tests/twins/naiveOpenings.ts';
import {
  at,
  DAY_START,
  member,
  NO_TERMS,
  question,
  questions,
} from '../../../tests/twins/planning.ts';
import { freedBy, mergedUnits } from '../booking/freeing.ts';
import type { BookingTerms } from '../booking/terms.ts';
import { allUnitsTaken, changeovers, type UnitClaim } from '../booking/units.ts';
import { DAY, MINUTE } from '../time/interval.ts';
import { smallestAbsences } from './absences.ts';
import { conceded, concessions, type BlockerQuestion } from './blockers.ts';
import type { LineUpMember } from './lineUp.ts';
import { moves, without, type OwnMeeting } from './moves.ts';
import { whyNothing } from './refusals.ts';
import { often } from '../../../tests/support/effort.ts';

const scan = ({ members, wishes, surroundings }: BlockerQuestion) =>
  naiveStarts(members, wishes, surroundings.rooms);

const busy = (from: number, to: number, occupancy: 'busy' | 'tentative' | 'away' = 'busy') => ({
  start: at(from),
  end: at(to),
  occupancy,
});

describe('concessions against the naive twin', () => {
  it('gain what asking for them gains, and their best is one of those they add', () => {
    fc.assert(
      fc.property(questions(), (one) => {
        const now = new Set(scan(one));
        const known = { start: one.wishes.window.start, end: one.wishes.window.end + DAY };
        for (const { concession, gains, best } of concessions(one, { known, most: 40 })) {
          const then = scan(conceded(one, concession));
          expect(then.length - now.size, JSON.stringify(concession)).toBe(gains);
          const added = then.filter((start) => !now.has(start));
          expect(added).toContain(best!.start);
        }
      }),
      { numRuns: often(25) },
    );
  }, 120_000);

  it('leave nobody out whose leaving would open something', () => {
    fc.assert(
      fc.property(questions(3), (one) => {
        const now = scan(one).length;
        const active = one.members.filter((m) => !m.setAside);
        fc.pre(active.length > 1);
        const offered = concessions(one, { most: 100 }).flatMap(({ concession }) =>
          concession.kind === 'setAside' ? [concession.memberId] : [],
        );
        for (const { id } of active) {
          const then = scan(conceded(one, { kind: 'setAside', memberId: id })).length;
          if (then > now) expect(offered).toContain(id);
        }
      }),
      { numRuns: often(25) },
    );
  }, 120_000);
});

describe('more of everybody’s hours', () => {
  const lengths = Array.from({ length: 12 }, (_, k) => (k + 1) * 60);

  it('is offered by itself as the fewest hours that open anything, where nothing is open', () => {
    fc.assert(
      fc.property(questions(2), (one) => {
        fc.pre(scan(one).length === 0 && one.wishes.stretchMinutes === 0);
        const opens = (minutes: number) =>
          scan(conceded(one, { kind: 'stretch', minutes })).length > 0;
        const fewest = lengths.find(opens) ?? null;
        const offered = concessions(one, { most: 100 }).flatMap(({ concession }) =>
          concession.kind === 'stretch' ? [concession.minutes] : [],
        );
        const hasPeople = one.members.some((m) => m.kind === 'person' && !m.setAside && m.hours);
        expect(offered).toEqual(fewest === null || !hasPeople ? [] : [fewest]);
      }),
      { numRuns: often(25) },
    );
  }, 120_000);

  it('is offered for those ends of the world where an hour more opens nothing', () => {
    const far = [
      member({ id: 1, name: 'Ines' }),
      member({ id: 2, name: 'Wanjiru', zone: 'Australia/Hobart' }),
    ];
    const offered = concessions(question(far)).map(({ concession }) => concession);
    // 09:00 to 17:00 in both: Hobart, eleven hours before, ends at 06:00 UTC, an hour's meeting three away.
    const stretched = offered.flatMap((one) =>
      'minutes' in one ? [`${one.kind} ${'zone' in one ? `${one.zone} ` : ''}${one.minutes}`] : [],
    );
    expect(stretched.sort()).toEqual([
      'early Australia/Hobart 360',
      'early UTC 240',
      'late Australia/Hobart 240',
      'late UTC 360',
      'stretch 120',
    ]);
  });
});

describe('the smallest absences', () => {
  it('are the fewest that the scan finds at any start, and open what it says', () => {
    fc.assert(
      fc.property(questions(), (one) => {
        const { members, wishes, surroundings } = one;
        fc.pre(members.some((m) => !m.setAside) && wishes.places !== 'fitting');
        fc.pre(scan(one).length === 0);
        const { sets, complete } = smallestAbsences(one, { most: 50 });
        expect(complete).toBe(true);
        const length = wishes.lengthMinutes * MINUTE;
        const seen = new Map<string, number>();
        for (
          let start = wishes.window.start;
          start + length <= wishes.window.end;
          start += 15 * MINUTE
        ) {
          if (start < wishes.notBefore) continue;
          const who = naiveBlockers(
            members,
            { start, end: start + length },
            wishes,
            surroundings.rooms,
          );
          seen.set(who.join(), (seen.get(who.join()) ?? 0) + 1);
        }
        const size = (key: string) => key.split(',').length;
        const fewest = Math.min(...[...seen.keys()].map(size));
        const expected = [...seen].filter(([key]) => size(key) === fewest);
        const found = sets.map(({ blockers, gains }): [string, number] => [
          blockers.map((b) => (b.kind === 'member' ? b.id : '')).join(),
          gains,
        ]);
        expect(new Map(found)).toEqual(new Map(expected));
      }),
      { numRuns: often(40) },
    );
  }, 60_000);

  it('name the two without whom there is a time, and never the organizer', () => {
    const people = [
      member({ id: 1 }),
      member({ id: 2, name: 'Tomas Okafor', busy: [busy(0, 24)] }),
      member({ id: 3, name: 'Mika Sandoval', busy: [busy(0, 24)] }),
    ];
    const { sets } = smallestAbsences(question(people), { keep: [1] });
    expect(sets[0]!.blockers).toEqual([
      { kind: 'member', id: 2 },
      { kind: 'member', id: 3 },
    ]);
    expect(sets[0]).toMatchObject({ gains: 29, best: { start: at(8) } });
    expect(concessions(question(people), { keep: [1] })).toEqual([]);
    const mine = [member({ id: 1, busy: [busy(0, 24)] }), ...people.slice(1)];
    expect(smallestAbsences(question(mine), { keep: [1] }).sets).toEqual([]);
  });
});

describe('concessions', () => {
  const kinds = (one: BlockerQuestion) => concessions(one).map(({ concession }) => concession.kind);

  it('offer another room, no room, fewer features and unknown time where those help', () => {
    const gannet = member({
      id: 9,
      name: 'Gannet',
      kind: 'resource',
      isRoom: true,
      siteId: 1,
      hours: null,
      busy: [busy(0, 24)],
    });
    const skua = {
      id: 20,
      name: 'Skua',
      siteId: 1,
      site: 'Bergen',
      floor: '2',
      seats: 8,
      features: ['screen'],
      busy: [],
    };
    const ines = member({ siteId: 1 });
    const rooms = { rooms: [skua], history: [] };
    const listed = { ...question([ines, gannet]), surroundings: rooms };
    const other = concessions(listed).find((one) => one.concession.kind === 'otherRoom');
    expect(other).toMatchObject({ gains: 29, best: { rooms: [{ room: { name: 'Skua' } }] } });
    const picky = question([ines], {
      places: 'fitting',
      rooms: { features: ['video'], text: '', without: [] },
    });
    expect(kinds({ ...picky, surroundings: rooms })).toEqual(
      expect.arrayContaining(['noRoom', 'anyFeatures']),
    );
    expect(whyNothing({ ...picky, surroundings: rooms })).toBe(
      'No room at Bergen has all that was asked for.',
    );
    const silent = question([ines, member({ id: 2, knowledge: 'none', hours: null })]);
    expect(kinds(silent)).toContain('unknown');

    // A room that is booked for three quarters of an hour at most opens where the hour is cut.
    const brief = { ...skua, terms: { ...NO_TERMS, longestMinutes: 45 } };
    const short = {
      ...question([ines], { places: 'fitting' }),
      surroundings: { rooms: [brief], history: [] },
    };
    expect(whyNothing(short)).toBe('No room at Bergen can be booked for 1 h.');
    expect(concessions(short)).toContainEqual(
      expect.objectContaining({ concession: { kind: 'length', minutes: 45 }, gains: 30 }),
    );
    // One that is booked for an hour and a half at least, in steps of an hour, opens for two.
    const long = { ...skua, terms: { ...NO_TERMS, shortestMinutes: 90, stepMinutes: 60 } };
    const longer = { ...short, surroundings: { rooms: [long], history: [] } };
    expect(concessions(longer).map((one) => [one.concession, one.gains])).toEqual([
      [{ kind: 'noRoom', siteId: 1 }, 29],
      [{ kind: 'length', minutes: 120 }, 7],
    ]);
  });

  it('look a week further, but no further than is known', () => {
    const taken = question([member({ busy: [busy(0, 24)] }), member({ id: 2 })]);
    const window = { start: DAY_START, end: at(24 * 3) };
    const later = concessions(taken, { known: window }).find(
      (one) => one.concession.kind === 'later',
    );
    expect(later).toMatchObject({ concession: { until: window.end }, best: { start: at(24 + 8) } });
    expect(kinds(taken)).not.toContain('later');
  });
});

describe('moving one of my own meetings', () => {
  const own = (lineUp: LineUpMember[]): OwnMeeting => ({
    eventId: 'budget',
    recurrenceId: null,
    title: 'Buoy budget',
    start: at(8),
    end: at(9),
    takes: [1, 7],
    frees: [],
    lineUp,
  });
  const me = member({ id: 1, busy: [busy(8, 9), busy(11, 16)] });
  const mika = member({ id: 2, busy: [busy(9, 16)] });

  it('is offered with the time at which its own people can come instead', () => {
    const priya = member({ id: 7, busy: [busy(8, 9), busy(9, 10)] });
    const [move] = moves(question([me, mika]), [own([me, priya])]);
    expect(move).toMatchObject({ gains: 1, best: { start: at(8) }, to: { start: at(10) } });
    expect(move!.to.missing).toEqual([]);
  });

  it('is not offered where its own people have no other time', () => {
    const priya = member({ id: 7, busy: [busy(8, 9), busy(9, 16)] });
    expect(moves(question([me, mika]), [own([me, priya])])).toEqual([]);
    const silent = member({ id: 7, knowledge: 'none' });
    expect(moves(question([me, mika]), [own([me, silent])])).toEqual([]);
  });

  // A room that is cleared for a quarter of an hour, with a neighbour right behind: it is taken from eight
  // to half past ten as one, and by its rules from noon on.
  const room = (units = 1): UnitClaim[][] => [
    [{ unit: 1, start: at(8), end: at(9, 15) }],
    [
      { unit: 1, start: at(9, 15), end: at(10, 30) },
      ...(units > 1 ? [{ unit: 2, start: at(8, 30), end: at(16) }] : []),
    ],
  ];
  const taking = (units: number): [LineUpMember, OwnMeeting] => {
    const [held, others] = room(units) as [UnitClaim[], UnitClaim[]];
    const taken = mergedUnits([...held, ...others]);
    const skua = member({
      id: 9,
      kind: 'resource',
      hours: null,
      busy: [
        ...allUnitsTaken(taken, units).map((one) => ({ ...one, occupancy: 'busy' as const })),
        { start: at(12), end: at(24), occupancy: 'barred' as const },
      ],
      changeovers: changeovers(taken, units),
    });
    const frees = [{ id: 9, ...freedBy(others, held, units) }];
    return [skua, { ...own([member({ id: 7 })]), takes: [9], frees }];
  };

  it('frees of a room what the meeting has, and nothing of its neighbour’s or by its rules', () => {
    const [skua, meeting] = taking(1);
    expect(without([skua], meeting)[0]!.busy).toEqual([
      { start: at(9, 15), end: at(10, 30), occupancy: 'busy' },
      { start: at(12), end: at(24), occupancy: 'barred' },
    ]);
    const starts = { window: { start: at(8), end: at(18) } };
    const [move] = moves(question([member({ id: 2 }), skua], starts), [meeting]);
    // From eight on, for an hour: two starts that end by a quarter past nine.
    expect(move).toMatchObject({ gains: 2, best: { start: at(8) } });
  });

  it('frees one of several units', () => {
    const [skua, meeting] = taking(2);
    const after = without([skua], meeting)[0]!;
    expect(after.busy.filter((one) => one.occupancy === 'busy')).toEqual([
      { start: at(9, 15), end: at(10, 30), occupancy: 'busy' },
    ]);
    const starts = { window: { start: at(8), end: at(12) } };
    expect(moves(question([skua], starts), [meeting])[0]).toMatchObject({ gains: 2 });
  });

  it('frees nothing of what is not known as it was', () => {
    const [skua, meeting] = taking(1);
    const cut = { ...skua, busy: [{ start: at(8), end: at(10), occupancy: 'busy' as const }] };
    expect(without([cut], meeting)).toEqual([cut]);
  });

  it('asks nothing of the part of the day that the new one lies in', () => {
    const priya = member({ id: 7, busy: [busy(8, 9), busy(9, 14)] });
    const asked = question([me, mika], { between: { from: 480, to: 600 } });
    expect(moves(asked, [own([priya])])[0]!.to.start).toBeGreaterThanOrEqual(at(14));
  });

  it('takes one span away, also where two are alike', () => {
    const twice = member({ busy: [busy(8, 9), busy(8, 9)] });
    expect(without([twice], own([]))[0]!.busy).toHaveLength(1);
  });
});

const gannet = (asked: Partial<BookingTerms>) =>
  member({
    id: 9,
    name: 'Gannet',
    kind: 'resource',
    hours: null,
    terms: { ...NO_TERMS, ...asked },
  });

describe('why there is nothing', () => {
  it.each<[string, LineUpMember[], Parameters<typeof question>[1], RegExp | null]>([
    ['an empty line-up', [], {}, /line-up is empty/],
    ['all set aside', [member({ setAside: true })], {}, /Everyone is set aside/],
    ['one who is free', [member()], {}, null],
    ['a window that is over', [member()], { notBefore: at(48) }, /days are over/],
    ['a meeting longer than the window', [member()], { lengthMinutes: 1500 }, /25 h do not fit/],
    [
      'twelve hours',
      [member()],
      { lengthMinutes: 720 },
      /12 h are longer than the working day of Ines/,
    ],
    [
      'never the same hours',
      [member(), member({ id: 2, zone: 'Pacific/Auckland' })],
      {},
      /never overlap for 1 h/,
    ],
    [
      'somebody silent',
      [member({ name: 'Oskar Lindqvist', knowledge: 'none' })],
      {},
      /Oskar Lindqvist shares nothing/,
    ],
    [
      'a place that is not booked for so long',
      [member(), gannet({ longestMinutes: 45 })],
      {},
      /^Gannet is booked for 45 min at most, and this lasts 1 h\.$/,
    ],
    [
      'a place of which nothing is left this week',
      [
        member(),
        gannet({
          weeklyMinutes: 120,
          weeks: [{ start: DAY_START - DAY, end: DAY_START + 6 * DAY, had: 90 }],
        }),
      ],
      {},
      /^Gannet has no free 1 h in these days\.$/,
    ],
    [
      'one who never can',
      [member({ busy: [busy(0, 24, 'away')] }), member({ id: 2 })],
      {},
      /Ines has no free 1 h/,
    ],
    [
      'each at another time',
      [member({ busy: [busy(8, 12)] }), member({ id: 2, busy: [busy(12, 16)] })],
      {},
      /never all of them at once/,
    ],
    [
      'all of them free together, but not for so long',
      [
        member({ busy: [busy(8, 12)] }),
        member({ id: 2, busy: [busy(8, 10), { ...busy(12, 16), start: at(12, 30) }] }),
      ],
      {},
      /All of them are free together now and then, but never for 1 h\.$/,
    ],
    [
      'all of them free, but sooner than it may begin',
      [member({ busy: [busy(10, 16)] }), member({ id: 2, busy: [busy(10, 16)] })],
      { now: at(8), notBefore: at(10) },
      /free together only sooner than 2 h from now/,
    ],
  ])('%s', (_, members, changes, expected) => {
    const words = whyNothing(question(members, changes));
    if (expected) expect(words).toMatch(expected);
    else expect(words).toBeNull();
  });

  it('is said of two hundred people without taking long to say', () => {
    const crowd = Array.from({ length: 200 }, (_, id) =>
      member({ id: id + 1, name: `Person ${id}`, busy: [busy(8 + (id % 8), 9 + (id % 8))] }),
    );
    expect(whyNothing(question(crowd))).toMatch(/never all of them at once/);
    expect(concessions(question(crowd)).every((one) => one.gains > 0)).toBe(true);
    expect(smallestAbsences(question(crowd)).sets[0]!.blockers).toHaveLength(25);
  });
});
