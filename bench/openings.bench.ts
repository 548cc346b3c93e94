/** Openings for 50 people over 4 weeks, against the scan of everything that the tests compare with. */
import { Random } from '../demo/data/random.ts';
import { countOpenings, openings } from '../src/core/planner/openings.ts';
import type { LineUpMember, Wishes } from '../src/core/planner/lineUp.ts';
import { DAY, MINUTE } from '../src/core/time/interval.ts';
import { weekOf } from '../src/core/time/workingHours.ts';
import { naiveStarts } from '../tests/twins/naiveOpenings.ts';
import { medianMs, report } from './measure.ts';

const ZONES = ['Europe/Oslo', 'Europe/Oslo', 'Africa/Nairobi', 'America/Halifax', 'Asia/Kolkata'];
const random = new Random('openings bench');
const window = { start: Date.UTC(2026, 10, 23), end: Date.UTC(2026, 10, 23) + 28 * DAY };

const members: LineUpMember[] = Array.from({ length: 50 }, (_, id) => ({
  id,
  name: `Person ${id}`,
  kind: 'person',
  role: id % 5 === 0 ? 'optional' : 'required',
  setAside: false,
  zone: ZONES[id % ZONES.length]!,
  hours: weekOf({ start: 480, end: 1020 }),
  knowledge: 'known',
  busy: Array.from({ length: 10 }, () => {
    const start = window.start + random.below(28 * 96) * 15 * MINUTE;
    return { start, end: start + (1 + random.below(4)) * 15 * MINUTE, occupancy: 'busy' as const };
  }).sort((a, b) => a.start - b.start),
}));

const wishes: Wishes = {
  window,
  notBefore: window.start,
  lengthMinutes: 45,
  stepMinutes: 15,
  rule: 'required',
  stretchMinutes: 120,
  tentativeIsFree: false,
  zone: 'Europe/Oslo',
  limit: 8,
};

const began = performance.now();
const expected = naiveStarts(members, wishes).length;
const naive = performance.now() - began;
const found = countOpenings(members, wishes);
if (found !== expected) throw new Error(`${found} openings, but the scan finds ${expected}`);
const fast = await medianMs(200, () => openings(members, wishes), 50);
report('openings, 50 people, 4 weeks', fast, naive, `naive scan, same ${expected} starts found`);
