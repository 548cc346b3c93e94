import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Chip } from '../../core/sentence/sentence.ts';
import { LineUpFit } from '../../core/planner/fit.ts';
import { DAY, HOUR, MINUTE } from '../../core/time/interval.ts';
import { weekOf } from '../../core/time/workingHours.ts';
import { missingWords } from './absenceWords.ts';
import {
  asKept,
  joined,
  outsider,
  planPath,
  readPlan,
  required,
  sentenceAddress,
  writePlan,
  type LineUpEntry,
  type PlanAddress,
} from '../lineUp/index.ts';
import { dayRemarks } from './dayRemarks.ts';
import type { Plan } from './usePlan.ts';
import type { Member } from '../lineUp/useLineUpData.ts';
import { seriesParts, weeklyWords } from './weekly.ts';

/** Tuesday 24 November 2026, 09:12 in Bergen. */
const NOW = Date.UTC(2026, 10, 24, 8, 12);
const OSLO = 'Europe/Oslo';

const member = (changes: Partial<Member>): Member => ({
  id: 1,
  name: 'Ines Aldabe',
  kind: 'person',
  role: 'required',
  setAside: false,
  zone: OSLO,
  hours: weekOf({ start: 480, end: 990 }),
  siteId: 1,
  busy: [],
  knowledge: 'known',
  detail: 'Bergen',
  seats: null,
  email: null,
  published: null,
  outside: false,
  ...changes,
});

describe('the address of a plan', () => {
  const spoken = fc.string({ maxLength: 20 });
  const ids = fc.uniqueArray(fc.integer({ min: 1, max: 99 }), { maxLength: 6 });
  const lineUps = fc
    .uniqueArray(
      fc.tuple(
        fc.integer({ min: 1, max: 99 }),
        fc.boolean(),
        fc.constantFrom('required' as const, 'optional' as const),
        fc.boolean(),
      ),
      { selector: ([id]) => id, minLength: 1, maxLength: 8 },
    )
    .map((list) => {
      let outside = 0;
      return list.map(([n, isOutside, role, setAside]): LineUpEntry =>
        isOutside
          ? { id: -++outside, email: `p${n}@x.example`, role, setAside }
          : { id: n, role, setAside },
      );
    });
  const stretch = fc.record({ early: fc.constantFrom(0, 30, 720), late: fc.constantFrom(60, 90) });
  const plans: fc.Arbitrary<PlanAddress> = fc.record({
    title: spoken,
    unread: spoken,
    lineUp: fc.option(lineUps),
    from: fc.constantFrom(null, '2026-11-26', '2027-02-28'),
    dayCount: fc.integer({ min: 1, max: 30 }),
    allDays: fc.boolean(),
    minutes: fc.option(fc.integer({ min: 5, max: 7 * 1440 })),
    at: fc.option(fc.integer({ min: 0, max: 50_000_000 }).map((minute) => minute * MINUTE)),
    repeating: fc.constantFrom(null, { count: 8, everyWeeks: 2 }, { count: 26, everyWeeks: 1 }),
    eventId: fc.option(fc.uuid()),
    occurrence: fc.constantFrom(null, '2026-11-30T10:00'),
    rule: fc.constantFrom('required', 'everyone'),
    places: fc.constantFrom('listed', 'fitting', 'ignored'),
    features: fc.uniqueArray(fc.constantFrom('screen', 'step-free', 'hearing loop')),
    roomText: spoken,
    roomSeats: fc.integer({ min: 0, max: 10_000 }),
    withoutRoom: ids,
    between: fc.option(
      fc
        .tuple(fc.integer({ min: 0, max: 700 }), fc.integer({ min: 701, max: 1440 }))
        .map(([from, to]) => ({ from, to })),
    ),
    leadMinutes: fc.option(fc.integer({ min: 0, max: 43_200 })),
    stretchMinutes: fc.integer({ min: 0, max: 720 }),
    stretches: fc.dictionary(fc.constantFrom('Asia/Kolkata', OSLO), stretch),
    tentativeIsFree: fc.boolean(),
    unknown: fc.constantFrom('busy', 'ignored'),
    leastBad: fc.boolean(),
  });

  it('gives back every plan as it was', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        expect(readPlan(writePlan(plan))).toEqual(plan);
        expect(asKept(plan)).toEqual(plan);
      }),
    );
  });

  it('says nothing of what is as usual', () => {
    expect(writePlan(readPlan(''))).toBe('');
    expect(planPath({ lineUp: [required(3), required(5)], rule: 'required' })).toBe(
      '/plan?with=3%2C5',
    );
  });

  it('believes neither nonsense nor too much', () => {
    const read = (search: string) => readPlan(search);
    expect(read('?with=3,3,x,0,-1,4z,5ox,,7').lineUp!.map((one) => one.id)).toEqual([3, 5, 7]);
    expect(read('?with=7,7,0,x,@,a@b,jon@x.example:ox,JON@x.example').lineUp).toEqual([
      { id: 7, role: 'required', setAside: false },
      { id: -1, email: 'jon@x.example', role: 'optional', setAside: true },
    ]);
    expect(read('?zones=Mars/Olympus:60:0,Europe/Oslo:-5:9999').stretches).toEqual({
      [OSLO]: { early: 0, late: 720 },
    });
    for (const text of ['1x1', '14x2', '8x5', 'often'])
      expect(read(`?repeat=${text}`).repeating).toBeNull();
    expect(read('?days=999&minutes=-4&stretch=1e9&at=1e300&from=2026-02-30')).toMatchObject({
      dayCount: 30,
      minutes: 5,
      between: null,
      leadMinutes: null,
      stretchMinutes: 720,
      at: Date.UTC(2200, 0, 1),
      from: null,
    });
    expect(read('?days=&minutes=soon&at=NaN&rule=none&places=__proto__')).toEqual(read(''));
  });

  it('numbers those outside when they are added one after another', () => {
    const added = asKept({ lineUp: [outsider('a@x.example'), outsider('b@x.example')] });
    expect(added.lineUp!.map((one) => one.id)).toEqual([-1, -2]);
  });
});

describe('a sentence as an address', () => {
  const chip = (kind: Chip['kind'], rest: object): Chip => ({ kind, words: '', ...rest }) as Chip;
  const asked = (chips: Chip[]) =>
    Object.fromEntries(
      new URLSearchParams(
        sentenceAddress(chips, { siteIds: [1, 2], now: NOW, zone: OSLO }).split('?')[1],
      ),
    );

  it('has the line-up, the time and the place', () => {
    expect(
      asked([
        chip('title', { text: 'Kelp review' }),
        chip('person', { id: 4, optional: true, others: [] }),
        chip('team', { memberIds: [5, 6], optional: false }),
        chip('address', { email: 'jon@x.example', optional: false }),
        chip('day', { date: '2026-11-26', other: null }),
        chip('time', { minute: 840, zone: null }),
        chip('length', { minutes: 45 }),
        chip('except', { id: 6, others: [] }),
        chip('room', { siteId: 2, features: ['video'], seats: 8 }),
        chip('unread', { words: 'soon' }),
      ]),
    ).toEqual({
      title: 'Kelp review',
      with: '4o,5,jon@x.example',
      at: String(Date.UTC(2026, 10, 26, 13)),
      from: '2026-11-26',
      minutes: '45',
      places: 'fitting',
      noroom: '1',
      features: 'video',
      seats: '8',
      unread: 'soon',
    });
  });

  it('takes a time that is over today for tomorrow’s, and a week for its working days', () => {
    const at = (minute: number) => asked([chip('time', { minute, zone: null })]).at;
    expect(at(540)).toBe(String(Date.UTC(2026, 10, 25, 8)));
    expect(at(600)).toBe(String(Date.UTC(2026, 10, 24, 9)));
    expect(asked([chip('days', { from: '2026-11-30', days: 5 })])).toEqual({
      from: '2026-11-30',
      days: '5',
    });
    // 9:00 in Hobart, which is 23:00 of the day before in Bergen.
    expect(
      asked([
        chip('day', { date: '2026-11-26', other: null }),
        chip('time', { minute: 540, zone: 'Australia/Hobart' }),
      ]),
    ).toEqual({ at: String(Date.UTC(2026, 10, 25, 22)), from: '2026-11-25' });
    expect(asked([chip('weekly', { everyWeeks: 4, count: null })]).repeat).toBe('6x4');
  });
});

describe('what is said of a day and a moment', () => {
  it('names clock changes, holidays and who is away, for those who count', () => {
    const day = Date.UTC(2026, 10, 24, 23);
    const members = [
      member({
        zone: 'America/Halifax',
        holidays: [
          { date: '2026-11-11', name: 'Remembrance Day', part: { start: 720, end: 1440 } },
        ],
      }),
      member({
        id: 2,
        name: 'Robine Thys',
        busy: [{ start: day, end: day + 2 * DAY, occupancy: 'away' }],
      }),
      member({
        id: 3,
        name: 'Set Aside',
        setAside: true,
        zone: 'Australia/Hobart',
        busy: [{ start: day, end: day + DAY, occupancy: 'away' }],
      }),
    ];
    const reader = {
      zone: OSLO,
      clock: '12' as const,
      zoneNames: { 'America/Halifax': 'Halifax' },
    };
    const said = dayRemarks(
      ['2026-11-01', '2026-11-11', '2026-11-25', '2026-11-27'],
      members,
      reader,
    );
    expect([...said.values()].map((one) => one.text)).toEqual([
      'clock change, Halifax',
      'Remembrance Day, from 12:00 pm, Halifax',
      'away: Robine',
      '',
    ]);
    expect(said.get('2026-11-01')!.clockChange).toBe(true);
  });

  it('names who is missing, why, and until when in the reader’s zone', () => {
    const at = NOW + 2 * HOUR;
    const members = [
      member({ id: 1 }),
      member({
        id: 2,
        name: 'Mika Sandoval',
        busy: [{ start: at, end: at + 90 * MINUTE, occupancy: 'busy' }],
      }),
      member({
        id: 3,
        name: 'Robine Thys',
        busy: [{ start: at - DAY, end: at + 3 * DAY, occupancy: 'away' }],
      }),
      member({ id: 4, name: 'Hal Teague', zone: 'Australia/Hobart' }),
      member({ id: 5, name: 'jon@x.example', outside: true, hours: null, knowledge: 'none' }),
    ];
    const window = { start: at - DAY, end: at + DAY };
    const fits = new LineUpFit(members, window).at({ start: at, end: at + 15 * MINUTE });
    expect(missingWords(fits, members, at, { zone: OSLO, clock: '24' })).toBe(
      'Mika (taken until 12:42), Robine (away until Fri 27 Nov 11:12), Hal (21:12 there, outside their hours), jon@x.example (not known)',
    );
    expect(missingWords(fits, members, at, { zone: OSLO, clock: '12' })).toContain('12:42 pm');
  });
});

describe('a series as it is sent', () => {
  it('leaves out, moves and holds the failing dates, with one room and others where it is taken', () => {
    const start = Date.UTC(2026, 10, 30, 9);
    const dates = [0, 1, 2, 3].map((k) => ({
      start: start + k * 14 * DAY,
      end: start + k * 14 * DAY + HOUR,
    }));
    const instead = { start: dates[1]!.start + DAY, end: dates[1]!.end + DAY };
    const weekly = {
      weekday: 1,
      minute: 600,
      points: 0,
      typical: null,
      dates,
      failing: [
        { ...dates[1]!, blockers: [], instead: instead as never },
        { ...dates[2]!, blockers: [], instead: null },
        { ...dates[3]!, blockers: [], instead: null },
      ],
    };
    const room = (id: number, name: string, busy: typeof dates) => ({
      id,
      name,
      siteId: 1,
      site: 'Bergen',
      floor: '1',
      seats: 2,
      features: [],
      busy,
    });
    const plan = {
      me: { zone: OSLO },
      repeating: { count: 4, everyWeeks: 2 },
      members: [member({})],
      wishes: { places: 'fitting', rooms: { features: [], text: '', without: [] } },
      data: { rooms: [room(8, 'Puffin', [dates[3]!]), room(9, 'Skua', [dates[0]!, dates[1]!])] },
    } as unknown as Plan;
    const parts = seriesParts(weekly, new Map([[dates[3]!.start, 'keep' as const]]), plan);
    expect(parts).toEqual({
      repeats: { rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=4', except: ['2026-12-28T10:00'] },
      dates: [
        {
          do: 'move',
          at: '2026-12-14T10:00',
          startsAt: '2026-12-15T10:00',
          endsAt: '2026-12-15T11:00',
        },
        { do: 'instead', at: '2027-01-11T10:00', instead: 8, resourceId: 9 },
      ],
      resources: [8],
    });
    expect(weeklyWords(weekly, '12')).toBe('Mondays 10:00 am');
  });
});

describe('a line-up that is joined', () => {
  it('holds each once as they were there first, and numbers those outside', () => {
    const before = [{ ...required(4), role: 'optional' as const }, outsider('jon@skau.example')];
    expect(
      joined(before, [required(4), outsider('JON@skau.example'), outsider('a@b.example')]),
    ).toEqual([
      { id: 4, role: 'optional', setAside: false },
      { id: -1, email: 'jon@skau.example', role: 'required', setAside: false },
      { id: -2, email: 'a@b.example', role: 'required', setAside: false },
    ]);
  });
});
