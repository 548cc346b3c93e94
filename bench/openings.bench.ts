/** The planner's core, against the scan of everything that the tests compare with. */
import { Random } from '../demo/data/random.ts';
import { smallestAbsences } from '../src/core/planner/absences.ts';
import { concessions } from '../src/core/planner/blockers.ts';
import type { LineUpMember } from '../src/core/planner/lineUp.ts';
import { openings } from '../src/core/planner/openings.ts';
import { ridge } from '../src/core/planner/ridge.ts';
import { NO_ROOM_WISHES, NO_SURROUNDINGS, type Wishes } from '../src/core/planner/wishes.ts';
import { DAY, MINUTE } from '../src/core/time/interval.ts';
import { weekOf } from '../src/core/time/workingHours.ts';
import { naiveBlockers, naiveStarts } from '../tests/twins/naiveOpenings.ts';
import { medianMs, report } from './measure.ts';

const ZONES = ['Europe/Oslo', 'Europe/Oslo', 'Africa/Nairobi', 'America/Halifax', 'Asia/Kolkata'];
const START = Date.UTC(2026, 10, 22, 23);
const HOURS = weekOf({ start: 480, end: 1020 });

function crowd(people: number, weeks: number, required = 5): LineUpMember[] {
  const random = new Random(`openings bench ${people} ${weeks}`);
  return Array.from({ length: people }, (_, id) => ({
    id,
    name: `Person ${id}`,
    kind: 'person',
    role: id % required === 0 ? 'required' : 'optional',
    setAside: false,
    zone: ZONES[id % ZONES.length]!,
    hours: HOURS,
    knowledge: 'known',
    // Some twelve a week, at times of day at which people meet.
    busy: Array.from({ length: weeks * 12 }, () => {
      const day = random.below(weeks * 7);
      const start = START + day * DAY + (7 * 4 + random.below(40)) * 15 * MINUTE;
      const end = start + (1 + random.below(4)) * 15 * MINUTE;
      return { start, end, occupancy: 'busy' as const };
    }).sort((a, b) => a.start - b.start),
  }));
}

const wishesFor = (weeks: number): Wishes => ({
  window: { start: START, end: START + weeks * 7 * DAY },
  notBefore: START,
  lengthMinutes: 45,
  stepMinutes: 15,
  rule: 'required',
  places: 'listed',
  rooms: NO_ROOM_WISHES,
  stretchMinutes: 240,
  stretches: {},
  tentativeIsFree: false,
  unknown: 'busy',
  leastBad: false,
  zone: 'Europe/Oslo',
  askerId: 1,
  limit: 8,
});

/** Ridge and openings as Plan asks for them, timed against the scan, which must find the same starts. */
async function bothTogether(people: number, weeks: number, required: number) {
  const members = crowd(people, weeks, required);
  const wishes = wishesFor(weeks);
  const began = performance.now();
  const expected = naiveStarts(members, wishes).length;
  const naive = performance.now() - began;
  const anew = await medianMs(7, () => {
    // Copies, so that nothing is known from before.
    const fresh = members.map((one) => ({ ...one, busy: [...one.busy] }));
    ridge(fresh, wishes);
    openings(fresh, wishes);
  });
  const found = openings(members, wishes).count;
  if (found !== expected) throw new Error(`${found} openings, but the scan finds ${expected}`);
  const fast = await medianMs(
    60,
    () => {
      ridge(members, wishes);
      openings(members, wishes);
    },
    30,
  );
  const spans = members.reduce((sum, one) => sum + one.busy.length, 0);
  report(
    `ridge and openings, ${people} people, ${weeks} weeks`,
    fast,
    naive,
    `naive scan for the starts alone, same ${expected} found; ${spans} busy times, which take ${anew.toFixed(1)} ms when they are new`,
  );
}

await bothTogether(50, 4, 5);
await bothTogether(500, 12, 50);

// The cost grows with the busy times, not with their square. The scan is left out: it takes minutes.
let before: number | undefined;
for (const people of [10, 100, 1000]) {
  const members = crowd(people, 12, Math.max(1, people / 10));
  const wishes = wishesFor(12);
  const took = await medianMs(
    25,
    () => {
      ridge(members, wishes);
      openings(members, wishes);
    },
    10,
  );
  report(
    `ridge and openings, ${people} people, 12 weeks`,
    took,
    before ?? took,
    'ten times fewer people',
  );
  before = took;
}

const fifty = crowd(50, 4, 2);
const question = { members: fifty, wishes: wishesFor(4), surroundings: NO_SURROUNDINGS };
const blockers = await medianMs(
  40,
  () => {
    concessions(question);
    smallestAbsences(question);
  },
  20,
);
const began = performance.now();
const length = question.wishes.lengthMinutes * MINUTE;
for (let start = START; start + length <= question.wishes.window.end; start += 15 * MINUTE)
  naiveBlockers(fifty, { start, end: start + length }, question.wishes);
report(
  'blockers, 50 people, 4 weeks',
  blockers,
  performance.now() - began,
  'naive scan for who blocks each start, one pass',
);

// Memory: the planner's own, beside the busy times it is given.
const many = crowd(2000, 26, 200);
const half = wishesFor(26);
globalThis.gc?.();
const heapBefore = process.memoryUsage();
let peak = 0;
const sample = () => {
  const now = process.memoryUsage();
  const used = now.heapUsed + now.arrayBuffers - heapBefore.heapUsed - heapBefore.arrayBuffers;
  peak = Math.max(peak, used);
};
ridge(many, half);
sample();
openings(many, half);
sample();
process.stdout.write(
  `${JSON.stringify({
    name: 'memory of ridge and openings, 2000 people, 26 weeks, garbage included',
    value: Math.round(peak / 1024 / 1024),
    unit: 'MB',
    baseline: 64,
    of: 'what is allowed',
  })}\n`,
);
if (peak > 64 * 1024 * 1024) process.exitCode = 1;
