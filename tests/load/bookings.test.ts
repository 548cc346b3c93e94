import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startCluster } from '../../scripts/lib/cluster.mjs';
import { ensurePostgres } from '../../scripts/lib/programs.mjs';
import { Random } from '../../demo/data/random.ts';
import type { PlaceRequestsResponse } from '../../src/contract/bookings.ts';
import type { ProblemBody } from '../../src/contract/common.ts';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { HOUR, MINUTE } from '../../src/core/time/interval.ts';
import { Client, type Answer } from '../support/client.ts';
import { createTemplate, type TestCluster } from '../support/cluster.ts';
import { createTestDatabase } from '../support/database.ts';
import { isLong } from '../support/effort.ts';
import { noteLoad } from '../support/load.ts';
import { ServerProcess } from '../support/process.ts';
import { brokenRules } from '../support/rules.ts';
import { eventually } from '../support/server.ts';

/*
 * Many people make, move, lengthen, exchange and cancel bookings of a few places through two servers
 * before one database, with series, units, approvals and waiting lists, while the servers are killed and
 * the database is restarted. What was confirmed stands, what was refused left nothing, nothing is twice.
 */
const CLIENTS = isLong ? 64 : 12;
const LASTS_MS = isLong ? 60_000 : 8_000;
const PLACES = 20;
/** Of the places: those with several units, and those to which a steward agrees. */
const WITH_UNITS = 3;
const WITH_APPROVAL = 3;
const UNITS = 3;
const FIRST_DAY = Date.UTC(2027, 2, 1);
const DAYS = 3;

let cluster: TestCluster | null = null;
let sql: pg.Client;
let drop: () => Promise<void>;
const servers: ServerProcess[] = [];
let places: number[] = [];

beforeAll(async () => {
  let url: string;
  if (isLong) {
    // Its own, since it is restarted.
    const bin = await ensurePostgres(() => undefined);
    cluster = await startCluster({ name: 'booking-cluster', bin, usualPort: 54_940 });
    url = cluster.url(await createTemplate(cluster));
    drop = () => cluster!.end();
  } else {
    const database = await createTestDatabase();
    ({ url, drop } = database);
  }
  await connect(url);
  for (let k = 0; k < 2; k++) {
    const server = new ServerProcess(url);
    servers.push(server);
    await server.start();
  }
  const { rows } = await sql.query<{ id: number }>(
    `with made as (insert into subject (kind, name)
                   select 'resource', 'Contended ' || k from generate_series(1, $1::int) k returning id)
     insert into resource (subject_id, kind, site_id, capacity, units, prepare_minutes, clear_minutes, rules)
     select id, 'room', 1, 4, case when place <= $2 then ${UNITS} else 1 end, 5, 10,
            case when place > $1 - $3 then '{"approval": true}'::jsonb else '{}' end
     from (select id, row_number() over (order by id) as place from made) numbered
     returning subject_id as id`,
    [PLACES, WITH_UNITS, WITH_APPROVAL],
  );
  places = rows.map((row) => row.id).sort((a, b) => a - b);
}, 300_000);

afterAll(async () => {
  for (const server of servers) await server.end();
  await sql.end().catch(() => undefined);
  await drop();
});

async function connect(url: string): Promise<void> {
  sql = new pg.Client({ connectionString: url });
  // The database is restarted on purpose.
  sql.on('error', () => undefined);
  await sql.connect();
}

const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);

/** What is answered: the meeting as it is now, or why not. */
type Told = Pick<EventDetail, 'id' | 'version'> & Pick<ProblemBody, 'code'>;

/** A booking as its holder was told it stands. */
interface Held {
  id: string;
  version: number;
  places: number[];
  start: number;
  end: number;
  weeks: number;
}

const counts = { confirmed: 0, refused: 0, moved: 0, cancelled: 0, agreed: 0, waited: 0, again: 0 };

/** Somebody who books, remembering what they were told. */
class Booker {
  readonly held: Held[] = [];
  /** Everything that was ever confirmed to them. */
  readonly confirmed = new Set<string>();
  private asked = 0;

  constructor(
    private readonly cookie: string,
    private readonly random: Random,
    private readonly number: number,
  ) {}

  /** Asks one server or the other until one answers: a repeated request does nothing twice. */
  private async ask<Body>(method: string, path: string, body: unknown): Promise<Answer<Body>> {
    const key = randomUUID();
    for (let tries = 0; ; tries++) {
      const server = servers[(this.number + this.asked++) % servers.length]!;
      const client = Client.signedIn(server.base, this.cookie);
      const answer = await client
        .request<Body>(method, path, body, { 'Idempotency-Key': key })
        .catch(() => null);
      if (answer && answer.status < 500) return answer;
      counts.again++;
      if (tries > 200) throw new Error(`${method} ${path}: never answered, ${answer?.status}`);
      await pause(100);
    }
  }

  private span(): { start: number; end: number } {
    const start =
      FIRST_DAY + this.random.below(DAYS) * 24 * HOUR + (24 + this.random.below(48)) * 15 * MINUTE;
    return { start, end: start + (1 + this.random.below(6)) * 15 * MINUTE };
  }

  private somePlaces(): number[] {
    const first = this.random.pick(places);
    return this.random.chance(0.15) ? [...new Set([first, this.random.pick(places)])] : [first];
  }

  async act(): Promise<void> {
    const what = this.random.below(100);
    const one = this.held.length > 0 ? this.random.pick(this.held) : null;
    if (!one || what < 40) return this.make();
    if (what < 60) return this.change(one, { ...this.span() });
    if (what < 70) return this.change(one, { end: one.end + 30 * MINUTE });
    if (what < 85) return this.change(one, { places: this.somePlaces() });
    return this.cancel(one);
  }

  private async make(): Promise<void> {
    const { start, end } = this.span();
    const resources = this.somePlaces();
    const weeks = this.random.chance(0.1) ? 3 : 1;
    const made = await this.ask<Told>('POST', '/api/events', {
      title: `Load ${this.number}`,
      times: { startsAt: wall(start), endsAt: wall(end), zone: 'UTC' },
      ...(weeks > 1 && { repeats: { rule: `FREQ=WEEKLY;COUNT=${weeks}` } }),
      resources,
    });
    if (made.status === 201) {
      counts.confirmed++;
      const { id, version } = made.body;
      this.confirmed.add(id);
      this.held.push({ id, version, places: resources, start, end, weeks });
      return;
    }
    expect([made.status, made.body.code]).toEqual([409, 'resource-taken']);
    counts.refused++;
    if (!this.random.chance(0.2)) return;
    const wish = { placeId: resources[0], start, end, title: 'Waited for', wants: 'given' };
    const waits = await this.ask<ProblemBody>('POST', '/api/waiting', wish);
    if (waits.status === 201) counts.waited++;
    else expect([409, 422]).toContain(waits.status);
  }

  private async change(one: Held, to: Partial<Held>): Promise<void> {
    const after = { ...one, ...to };
    const { status, body } = await this.ask<Told>('PATCH', `/api/events/${one.id}`, {
      version: one.version,
      times: { startsAt: wall(after.start), endsAt: wall(after.end), zone: 'UTC' },
      ...(to.places && { resources: to.places }),
      ...(one.weeks > 1 && { scope: 'all' }),
      tell: 'nobody',
    });
    if (status === 200) {
      counts.moved++;
      Object.assign(one, after, { version: body.version });
    } else this.understand(one, status, body);
  }

  private async cancel(one: Held): Promise<void> {
    const { status, body } = await this.ask<Told>('POST', `/api/events/${one.id}/cancel`, {
      version: one.version,
      ...(one.weeks > 1 && { scope: 'all' }),
      tell: 'nobody',
    });
    if (status === 200) {
      counts.cancelled++;
      this.held.splice(this.held.indexOf(one), 1);
    } else this.understand(one, status, body);
  }

  /** Why something was refused: it is taken, or a steward did something to it meanwhile. */
  private understand(one: Held, status: number, body: Told): void {
    expect([409, 422]).toContain(status);
    if (body.code === 'stale') this.held.splice(this.held.indexOf(one), 1);
    else counts.refused++;
  }
}

/** A steward who agrees to what is asked for, or does not, as it comes. */
async function decide(cookie: string, random: Random, goesOn: () => boolean): Promise<void> {
  while (goesOn()) {
    const client = Client.signedIn(servers[0]!.base, cookie);
    const open = await client
      .get<PlaceRequestsResponse>('/api/bookings/requests')
      .catch(() => null);
    for (const { eventId, placeId, version } of (open?.status === 200 && open.body.requests) ||
      []) {
      const answer = await client
        .post('/api/bookings/requests/decide', {
          eventId,
          placeId,
          version,
          agreed: random.chance(0.7),
        })
        .catch(() => null);
      if (answer?.status === 200) counts.agreed++;
      if (!goesOn()) return;
    }
    await pause(200);
  }
}

it('nothing is booked twice, nothing confirmed is lost and nothing refused is left, whatever falls over', async () => {
  const url = servers[0]!.databaseUrl;
  const mailboxes = await sql.query<{ mailbox: string }>(
    `select split_part(email, '@', 1) as mailbox from person
     where password_hash is not null and role = 'staff' order by subject_id limit $1`,
    [CLIENTS],
  );
  const people = await Promise.all(
    mailboxes.rows.map(({ mailbox }) => Client.signIn(servers[0]!.base, mailbox)),
  );
  const steward = await Client.signIn(servers[0]!.base, 'ines.aldabe');
  const bookers = Array.from(
    { length: CLIENTS },
    (_, k) => new Booker(people[k % people.length]!.cookie, new Random(`booker ${k}`), k),
  );
  const end = Date.now() + LASTS_MS;
  const goesOn = () => Date.now() < end;
  const working = [
    ...bookers.map(async (one) => {
      while (goesOn()) await one.act();
    }),
    decide(steward.cookie, new Random('steward'), goesOn),
  ];
  const faults = async () => {
    await pause(LASTS_MS / 4);
    await servers[0]!.end();
    await servers[0]!.start();
    if (!cluster) return;
    await pause(LASTS_MS / 4);
    await cluster.restart();
    await pause(LASTS_MS / 6);
    await servers[1]!.end();
    await servers[1]!.start();
  };
  await Promise.all([...working, faults()]);
  await sql.end().catch(() => undefined);
  await connect(url);
  expect(counts.confirmed).toBeGreaterThan(CLIENTS);
  expect(counts.refused).toBeGreaterThan(0);

  const twice = await sql.query(
    `select 1 from claim one join claim other
       on one.subject_id = other.subject_id and one.unit = other.unit and one.id < other.id
      and one.during && other.during
     where one.exclusive and other.exclusive and one.subject_id = any($1)`,
    [places],
  );
  expect(twice.rowCount).toBe(0);

  expect(
    await brokenRules(async (text) => (await sql.query<{ rule: string; what: string }>(text)).rows),
  ).toEqual([]);

  // Every reservation that holds has its claim, as wide as its place asks, and no claim is without one.
  const apart = await sql.query(
    `select reservation.id, reservation.state from reservation
     join occurrence on occurrence.id = reservation.occurrence_id
     join resource on resource.subject_id = reservation.resource_id
     left join claim on claim.reservation_id = reservation.id
     where reservation.resource_id = any($1) and case
       when reservation.state in ('requested', 'held', 'in-use') then
         claim.id is null or claim.unit <> reservation.unit or claim.during <> tstzrange(
           occurrence.starts_at - make_interval(mins => prepare_minutes),
           occurrence.ends_at + make_interval(mins => clear_minutes))
       else claim.id is not null end`,
    [places],
  );
  expect(apart.rows).toEqual([]);

  const there = await sql.query<{
    id: string;
    status: string;
    version: number;
    dates: { start: string; places: number[] }[];
  }>(
    `select event.id, event.status, event.version,
            (select json_agg(json_build_object('start', occurrence.starts_at, 'places', array(
               select resource_id from reservation
               where occurrence_id = occurrence.id and state <> 'released' order by 1))
               order by occurrence.starts_at)
             from occurrence where event_id = event.id) as dates
     from event where title like 'Load %'`,
  );
  const known = new Map(there.rows.map((row) => [row.id, row]));
  const confirmed = new Set(bookers.flatMap((one) => [...one.confirmed]));
  // What was refused left nothing, and what was confirmed is there.
  expect(there.rows.filter(({ id }) => !confirmed.has(id))).toEqual([]);
  expect([...confirmed].filter((id) => !known.has(id))).toEqual([]);
  let compared = 0;
  for (const booker of bookers) {
    for (const one of booker.held) {
      const row = known.get(one.id)!;
      // A steward's decision makes another version of it, which its holder is told of by letter.
      if (row.version !== one.version) continue;
      compared++;
      expect(row.status).toBe('confirmed');
      expect(row.dates.map((date) => [Date.parse(date.start), date.places])).toEqual(
        Array.from({ length: one.weeks }, (_, week) => [
          one.start + week * 7 * 24 * HOUR,
          [...one.places].sort((a, b) => a - b),
        ]),
      );
    }
  }
  expect(compared).toBeGreaterThan(CLIENTS / 2);
  await eventually(async () => (await servers[0]!.healthy()) && (await servers[1]!.healthy()));
  noteLoad(
    `${CLIENTS} people book ${PLACES} places for ${LASTS_MS / 1000} s by two servers, both killed, the database restarted`,
    `${counts.confirmed} made, ${counts.moved} changed, ${counts.cancelled} cancelled, ${counts.refused} refused, ${counts.agreed} decided, ${counts.waited} waited for, ${counts.again} asked again; 0 twice, 0 lost`,
  );
}, 300_000);
