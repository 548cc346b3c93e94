import { expect, it } from 'vitest';
import type { NewPlaceRequest } from '../../contract/catalogue.ts';
import type { ChangesUndone, LogEntry } from '../../contract/changes.ts';
import type { Place } from '../../contract/places.ts';
import { newPlace } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Taking back what was done to a place while others do the same, or something else to it. */
const server = useServer();
const send = async <T>(method: string, path: string, body?: unknown) =>
  (await server.as('ines.aldabe')).request<T>(method, path, body);

const add = async (more: Partial<NewPlaceRequest>) =>
  (await send<{ id: number }>('POST', '/api/catalogue/places', newPlace({ features: [], ...more })))
    .body;
const placeOf = async (id: number) => (await send<Place>('GET', `/api/places/${id}`)).body;
/** Changes a place as it is now. @returns by which that is taken back */
async function change(id: number, part: Partial<NewPlaceRequest>): Promise<number> {
  const { version } = await placeOf(id);
  const path = `/api/catalogue/places/${id}`;
  const done = await send<{ change: number }>('PATCH', path, { version, ...part });
  expect(done.status).toBe(200);
  return done.body.change;
}
const undo = (change: number) =>
  send<ChangesUndone>('POST', '/api/changes/undo', { changes: [change] });
const whatOf = async (id: number) =>
  (await send<{ entries: LogEntry[] }>('GET', `/api/changes?place=${id}`)).body.entries;

it('a change is taken back once, however many ask at the same moment', async () => {
  const { id } = await add({ name: 'Dunlin', capacity: 8 });
  const changed = await change(id, { capacity: 10 });
  const answers = await Promise.all(Array.from({ length: 6 }, () => undo(changed)));
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409, 409]);
  expect(await placeOf(id)).toMatchObject({ capacity: 8 });
  expect(await whatOf(id)).toHaveLength(3);
});

it('a change is not undone by halves while somebody changes the place at the same moment', async () => {
  const { id } = await add({ name: 'Knot', capacity: 8 });
  for (let seats = 10; seats < 13; seats++) {
    const changed = await change(id, { capacity: seats, floor: `${seats}` });
    const { version } = await placeOf(id);
    const [undone, again] = await Promise.all([
      undo(changed),
      send('PATCH', `/api/catalogue/places/${id}`, { version, capacity: 30 + seats }),
    ]);
    const { capacity, floor } = await placeOf(id);
    // Whoever was second found what the first had made: a stale version, or seats that were changed since.
    if (again.status === 200) {
      expect(undone).toMatchObject({
        status: 200,
        body: { left: ['seats of Knot, changed since'] },
      });
      expect({ capacity, floor }).toEqual({ capacity: 30 + seats, floor: '1' });
    } else {
      expect(again.status).toBe(409);
      expect(undone).toMatchObject({ status: 200, body: { left: [] } });
      expect({ capacity, floor }).toEqual({ capacity: 8, floor: '1' });
    }
    await change(id, { capacity: 8, floor: '1' });
  }
});

it('the log of a place is read a page at a time, each entry once', async () => {
  const { id } = await add({ name: 'Ruff', capacity: 8 });
  await server.sql(
    `insert into fact (kind, thing, thing_id, actor_id, at, details)
     select kind, thing, thing_id, actor_id, at + k * interval '1 second', details
     from fact, generate_series(1, 10000) k where thing = 'place' and thing_id = $1`,
    [id],
  );
  const seen: number[] = [];
  let after: number | null = null;
  for (let page = 0; page < 3; page++) {
    const { body }: { body: { entries: LogEntry[]; more: boolean } } = await send(
      'GET',
      `/api/changes?place=${id}${after ? `&after=${after}` : ''}`,
    );
    expect(body.more).toBe(true);
    seen.push(...body.entries.map((one) => one.id));
    after = seen.at(-1)!;
  }
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen).toEqual([...seen].sort((a, b) => b - a));
});
