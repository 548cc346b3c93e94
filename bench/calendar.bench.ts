/** A week of my calendar with 50 layers, and a search of all of mine, out of two million claims. */
import type { CalendarResponse, FoundEvent, FullnessResponse } from '../src/contract/calendar.ts';
import { DAY } from '../src/core/time/interval.ts';
import { startLargeServer } from './largeServer.ts';
import { medianMs, report } from './measure.ts';
import { SCALE } from './scaleData.ts';

const server = await startLargeServer();
let round = 0;
const week = () => {
  const from = Date.UTC(2026, 3, 6) + (round % 20) * 7 * DAY;
  return { from, to: from + 7 * DAY };
};
const layers = () =>
  Array.from({ length: 50 }, (_, k) => ((round * 53 + k * 37) % SCALE.people) + 1);
const address = (subjects: readonly number[]) => {
  const { from, to } = week();
  return `/calendar?from=${from}&to=${to}&subjects=${subjects.join(',')}`;
};

let items = 0;
const together = await medianMs(60, async () => {
  round++;
  const { subjects } = await server.get<CalendarResponse>(address(layers()));
  items = subjects.reduce((sum, one) => sum + one.items.length, 0);
});
if (items < 200) throw new Error(`only ${items} items came back`);
const apart = await medianMs(
  8,
  async () => {
    round++;
    for (const id of layers()) await server.get(address([id]));
  },
  1,
);
report(
  'a week of 50 layers over HTTP',
  together,
  apart,
  `a request for each layer; ${items} items in the last answer`,
);

const words = () => `Meeting ${((round * 7919) % 9000) + 1000}`;
let found = 0;
const search = await medianMs(60, async () => {
  round++;
  const q = round % 2 ? words().slice(0, 9) : `Person ${round % 900}`;
  found += (await server.get<{ found: FoundEvent[] }>(`/calendar/search?q=${q}`)).found.length;
});
if (found === 0) throw new Error('nothing was ever found');
const reading = await medianMs(
  3,
  () =>
    server.client.query(
      `select event.id from event where title ilike '%' || $1 || '%' or description ilike '%' || $1 || '%'`,
      [words()],
    ),
  1,
);
report(
  'a search of all my past and future over HTTP',
  search,
  reading,
  'reading every event through, without HTTP',
);

const fullness = await medianMs(30, () => {
  round++;
  return server.get<FullnessResponse>(
    `/calendar/fullness?first=2026-01-0${(round % 9) + 1}&days=366`,
  );
});
const whole = await medianMs(10, () => {
  round++;
  const from = Date.UTC(2026, 0, 1 + (round % 9));
  return server.get<CalendarResponse>(`/calendar?from=${from}&to=${from + 366 * DAY}`);
});
report('how full each day of a year is, over HTTP', fullness, whole, 'reading the year’s events');
await server.end();
