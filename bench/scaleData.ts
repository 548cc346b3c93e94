/** Fills a scratch database with an organisation of 2,000 people, 500 resources and two million claims. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { Random } from '../demo/data/random.ts';
import { DAY, MINUTE } from '../src/core/time/interval.ts';
import { migrate } from '../src/server/db/migrate.ts';

export const SCALE = { people: 2000, resources: 500, claims: 2_000_000 };

/** Monday 25 November 2024: two years of working days around the moment at which the benches happen. */
const FIRST_DAY = Date.UTC(2024, 10, 25);
/** Some 670 working days make up the claims. */
const MEETINGS_A_DAY = 900;
const ZONES = [
  'Europe/Oslo',
  'America/Halifax',
  'Australia/Hobart',
  'Africa/Nairobi',
  'Asia/Kolkata',
];
const QUARTERS = 36;
const CHUNK = 2000;

interface Meeting {
  number: number;
  start: number;
  end: number;
  /** Indexes of people, the organizer first. */
  people: number[];
  /** Index of a resource, or null. */
  resource: number | null;
}

const eventId = (number: number) =>
  `00000000-0000-4000-8000-${number.toString(16).padStart(12, '0')}`;
const stamp = (instant: number) => new Date(instant).toISOString();

/** The same meetings every time, day after day, until they make up the claims asked for. */
function* meetings(): Generator<Meeting> {
  const random = new Random('scale');
  let claims = 0;
  let number = 0;
  for (let day = 0; claims < SCALE.claims; day++) {
    const midnight = FIRST_DAY + (Math.floor(day / 5) * 7 + (day % 5)) * DAY;
    const rooms = new Map<number, number>();
    const guests = random.some(
      Array.from({ length: 80 }, (_, k) => k),
      80,
    );
    for (let group = 0; group < MEETINGS_A_DAY && claims < SCALE.claims; group++) {
      const quarters = random.pick([1, 2, 2, 4, 4, 6]);
      const at = random.below(QUARTERS - quarters);
      const start = midnight + (7 * 4 + at) * 15 * MINUTE;
      const organizer = random.below(SCALE.people);
      const size = 1 + random.below(5);
      const people = Array.from(
        { length: size },
        (_, k) => (organizer + k * (1 + guests[group % 80]!)) % SCALE.people,
      );
      const distinct = [...new Set(people)];
      // A room of its own for some meetings; one that was used that day is free again from its last end.
      const resource = random.below(SCALE.resources);
      const free = random.chance(0.45) && (rooms.get(resource) ?? 0) <= at;
      if (free) rooms.set(resource, at + quarters);
      number++;
      claims += distinct.length + (free ? 1 : 0);
      yield {
        number,
        start,
        end: start + quarters * 15 * MINUTE,
        people: distinct,
        resource: free ? resource : null,
      };
    }
  }
}

function* lines(rows: (meeting: Meeting) => string): Generator<string> {
  let chunk: string[] = [];
  for (const meeting of meetings()) {
    chunk.push(rows(meeting));
    if (chunk.length >= CHUNK) {
      yield chunk.join('');
      chunk = [];
    }
  }
  yield chunk.join('');
}

/**
 * Loads the organisation unless the database has it already.
 * @param say told what is being done
 */
export async function loadScaleData(url: string, say: (text: string) => void): Promise<void> {
  await migrate(url);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const loaded = await client.query(`select 1 from setting where key = 'scale'`);
    if (loaded.rowCount) return say('the large organisation is loaded already');
    await loadPeople(client);
    const restore = await dropIndexes(client, say);
    const copy = async (table: string, columns: string, rows: (meeting: Meeting) => string) => {
      say(`copying ${table} …`);
      await pipeline(
        Readable.from(lines(rows)),
        client.query(copyFrom(`copy ${table} (${columns}) from stdin`)),
      );
    };
    await copy(
      'event',
      'id, uid, organizer_id, created_by, title, starts_at, length_minutes, zone, created_at, updated_at',
      ({ number, start, end, people }) =>
        `${eventId(number)}\tscale-${number}\t${people[0]! + 1}\t${people[0]! + 1}\tMeeting ${number}\t` +
        `${stamp(start).slice(0, 19)}\t${(end - start) / MINUTE}\tUTC\t${stamp(start)}\t${stamp(start)}\n`,
    );
    await copy(
      'occurrence',
      'id, event_id, starts_at, ends_at',
      ({ number, start, end }) => `${number}\t${eventId(number)}\t${stamp(start)}\t${stamp(end)}\n`,
    );
    await copy(
      'attendee',
      'event_id, person_id, role, reply, invited_at',
      ({ number, start, people }) =>
        people
          .map(
            (index, k) =>
              `${eventId(number)}\t${index + 1}\t` +
              `${k === 0 ? 'organizer' : 'required'}\taccepted\t${stamp(start)}\n`,
          )
          .join(''),
    );
    await copy(
      'reservation',
      'id, occurrence_id, event_id, resource_id, unit, state, since, starts_at, ends_at, holder_id',
      ({ number, start, end, people, resource }) =>
        resource === null
          ? ''
          : `${number}\t${number}\t${eventId(number)}\t${SCALE.people + resource + 1}\t1\theld\t${stamp(start)}\t` +
            `${stamp(start)}\t${stamp(end)}\t${people[0]! + 1}\n`,
    );
    await copy(
      'claim',
      'subject_id, during, occupancy, occurrence_id, exclusive, reservation_id',
      ({ number, start, end, people, resource }) => {
        const during = `[${stamp(start)},${stamp(end)})`;
        const rows = people.map((index) => `${index + 1}\t${during}\tbusy\t${number}\tf\t\\N\n`);
        if (resource !== null)
          rows.push(`${SCALE.people + resource + 1}\t${during}\tbusy\t${number}\tt\t${number}\n`);
        return rows.join('');
      },
    );
    await restore();
    say('analyzing …');
    await client.query(
      `select setval(pg_get_serial_sequence('occurrence', 'id'), max(id)) from occurrence`,
    );
    await client.query(
      `select setval(pg_get_serial_sequence('reservation', 'id'), max(id)) from reservation`,
    );
    await client.query('vacuum analyze');
    await client.query(`insert into setting (key, value) values ('scale', 'true')`);
  } finally {
    await client.end();
  }
}

async function loadPeople(client: pg.Client) {
  await client.query(`insert into organization (name, is_home) values ('Scale', true)`);
  for (const [k, zone] of ZONES.entries()) {
    await client.query(
      'insert into site (organization_id, name, city, zone) values (1, $1, $1, $2)',
      [`Site ${k}`, zone],
    );
  }
  await client.query(
    `insert into subject (kind, name)
     select case when n <= $1 then 'person' else 'resource' end,
            case when n <= $1 then 'Person ' else 'Room ' end || n
     from generate_series(1, $2) as n`,
    [SCALE.people, SCALE.people + SCALE.resources],
  );
  await client.query(
    `insert into person (subject_id, organization_id, site_id, email, zone)
     select subject.id, 1, site.id, 'person' || subject.id - 1 || '@scale.example', site.zone
     from subject join site on site.id = subject.id % $1 + 1 where subject.kind = 'person'`,
    [ZONES.length],
  );
  await client.query(
    `insert into working_shift select subject_id, weekday, 480, 1020 from person, generate_series(1, 5) as weekday`,
  );
  await client.query(
    `insert into resource (subject_id, kind, site_id, floor, capacity)
     select id, 'room', id % $1 + 1, '1', 4 + id % 20 from subject where kind = 'resource'`,
    [ZONES.length],
  );
}

/** Takes the indexes of the large tables away; the returned function makes them again, as they were. */
async function dropIndexes(client: pg.Client, say: (text: string) => void) {
  const { rows } = await client.query<{ drop: string; make: string; name: string }>(
    `select 'alter table ' || conrelid::regclass || ' drop constraint ' || conname as drop,
            'alter table ' || conrelid::regclass || ' add constraint ' || conname || ' '
              || pg_get_constraintdef(oid) as make, conname as name
     from pg_constraint where conrelid in ('claim'::regclass, 'attendee'::regclass) and contype in ('x', 'f')
     union all
     select 'drop index ' || indexname, indexdef, indexname from pg_indexes
     where tablename in ('claim', 'attendee', 'event') and indexname not like '%_pkey'
       and indexname not in (select conname from pg_constraint)`,
  );
  for (const row of rows) await client.query(row.drop);
  return async () => {
    await client.query(`set maintenance_work_mem = '1GB'`);
    for (const { name, make } of rows) {
      say(`indexing ${name} …`);
      await client.query(make);
    }
  };
}
