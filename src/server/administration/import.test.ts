import { beforeAll, expect, it } from 'vitest';
import type { PeopleImported, StaffList } from '../../contract/administration.ts';
import type { ChangesUndone } from '../../contract/changes.ts';
import type { ProblemBody } from '../../contract/common.ts';
import Papa from 'papaparse';
import type { Client } from '../../../tests/support/client.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
let admin: Client;
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
});

const read = (rows: object[], check = false, welcome = false) =>
  admin.post<PeopleImported & ProblemBody>('/api/administration/import', { rows, check, welcome });
const undo = (changes: number[]) => admin.post<ChangesUndone>('/api/changes/undo', { changes });
const total = async () =>
  (await admin.get<StaffList>('/api/administration/people?limit=1')).body.total;
const file = async () =>
  (await admin.request<string>('GET', '/api/administration/people.csv')).body;
const rowsOf = (csv: string) =>
  Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true }).data;

it('a file says what it would do, does it as one, and is taken back as one', async () => {
  const before = await file();
  const rows = [
    { name: 'Farida Osman', address: 'farida.osman@ternrock.example', site: 'Bergen' },
    { address: 'leila.haddad@ternrock.example', work: 'Head of kelp', teams: 'Moorings; Sea Ice' },
    { address: 'hal.teague@ternrock.example', site: 'Skerry House' },
    { address: 'emil.rask@ternrock.example', name: 'Emil Rask' },
    { address: 'halvard.moen@ternrock.example', zone: 'Bergan' },
    { address: 'bronwyn@ternrock,example' },
    { address: 'FARIDA.osman@ternrock.example' },
  ];
  const look = await read(rows, true);
  expect(look.body).toMatchObject({
    added: [{ name: 'Farida Osman', site: 'Skerry House' }],
    addedInAll: 1,
    changedInAll: 2,
    same: 1,
    changes: [],
  });
  expect(look.body.changed.find((one) => one.name === 'Leila Haddad')!.what).toEqual([
    'work Kelp ecologist → Head of kelp',
    'teams Kelp Forests → Moorings, Sea Ice',
  ]);
  expect(look.body.fields).toMatchObject({ jobTitle: 1, teams: 1, siteId: 1 });
  expect(look.body.problems.map(({ row, field, mend }) => [row, field, mend])).toEqual([
    [5, 'zone', null],
    [6, 'address', 'bronwyn@ternrock.example'],
    [7, 'address', null],
  ]);
  expect(await file()).toBe(before);
  const done = await read(rows);
  expect(done.body.changes).toHaveLength(3);
  const after = rowsOf(await file());
  expect(after.find((one) => one.address === 'leila.haddad@ternrock.example')).toMatchObject({
    work: 'Head of kelp',
    teams: 'Moorings; Sea Ice',
    name: 'Leila Haddad',
  });
  expect((await undo(done.body.changes)).body).toMatchObject({ undone: 3, left: [] });
  expect(await file()).toBe(before);
});

it('what is written out and read in again changes nothing', async () => {
  const { body } = await read(rowsOf(await file()), false);
  expect(body).toMatchObject({ addedInAll: 0, changedInAll: 0, problems: [], changes: [] });
  expect(body.same).toBe(await total());
});

it('texts that programs for tables take for formulas come back as they were', async () => {
  const name = '=SUM(A1) of Bergen';
  const made = await read([{ name, address: 'formula@ternrock.example' }]);
  expect(await file()).toContain(`'=SUM(A1) of Bergen`);
  expect((await read(rowsOf(await file()))).body.changedInAll).toBe(0);
  await undo(made.body.changes);
});

it('leaves somebody to administer, or does nothing', async () => {
  const rows = [
    { address: 'aksel.nordvik@ternrock.example', role: 'staff' },
    { address: 'new.one@ternrock.example' },
  ];
  await server.sql(
    `update person set role = 'staff' where role = 'administrator' and email not like 'aksel%'`,
  );
  const refused = await read(rows);
  expect([refused.status, refused.body.code]).toEqual([409, 'last-administrator']);
  expect(await server.sql(`select from person where email = 'new.one@ternrock.example'`)).toEqual(
    [],
  );
});

it('two thousand people are read in and taken back as one', async () => {
  const before = await total();
  const rows = Array.from({ length: 2000 }, (_, k) => ({
    name: `Person ${k}`,
    address: `person${k}@many.example`,
    site: k % 2 ? 'Skerry House' : 'Halifax',
    teams: 'Moorings',
  }));
  const look = await read(rows, true);
  expect(look.body).toMatchObject({ addedInAll: 2000, problems: [] });
  const done = await read(rows, false, true);
  expect(done.body.changes).toHaveLength(2000);
  expect(await total()).toBe(before + 2000);
  const back = await undo(done.body.changes);
  expect(back.body).toMatchObject({ undone: 2000, left: [] });
  expect(await total()).toBe(before);
}, 120_000);
