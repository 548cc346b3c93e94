import { describe, expect, it } from 'vitest';
import { matchHeadings, newOfRow, readPersonRow } from './peopleFile.ts';

const names = {
  siteOf: new Map([
    ['skerry house', { id: 1, zone: 'Europe/Oslo' }],
    ['bergen', { id: 1, zone: 'Europe/Oslo' }],
  ]),
  teamOf: new Map([
    ['kelp forests', 4],
    ['moorings', 2],
  ]),
  zoneOf: (city: string) => (city === 'Bergan' ? 'Europe/Oslo' : null),
};

describe('a file of people', () => {
  it.each([
    [
      ['Name', 'E-Mail', 'Team'],
      ['name', 'address', 'teams'],
    ],
    [
      ['Full name', 'Work e-mail', 'Job title', 'Office', 'Timezone', 'Role'],
      ['name', 'address', 'work', 'site', 'zone', 'role'],
    ],
    [
      ['navn', 'E-post', 'Avdeling'],
      ['name', 'address', 'teams'],
    ],
    [
      ['email', 'email address', 'shoe size'],
      ['address', null, null],
    ],
    [
      ['', '??'],
      [null, null],
    ],
  ])('has the columns that its headings seem to say: %j', (headings, columns) => {
    expect(matchHeadings(headings)).toEqual(columns);
  });

  it('says what its rows say, and leaves alone what they leave empty', () => {
    expect(
      readPersonRow(
        { address: ' a@x.example ', name: 'Ana', site: 'BERGEN', teams: 'Moorings; kelp forests' },
        names,
      ),
    ).toEqual({
      person: { email: 'a@x.example', name: 'Ana', siteId: 1, zone: 'Europe/Oslo', teams: [2, 4] },
    });
    expect(readPersonRow({ address: 'a@x.example', name: '', role: '' }, names)).toEqual({
      person: { email: 'a@x.example' },
    });
  });

  it.each([
    [{ address: 'a@x,example' }, 'address', 'a@x.example'],
    [{ address: '' }, 'address', undefined],
    [{ address: 'a@x.example', site: 'Nowhere' }, 'site', undefined],
    [{ address: 'a@x.example', zone: 'Bergan' }, 'zone', 'Europe/Oslo'],
    [{ address: 'a@x.example', role: 'boss' }, 'role', undefined],
    [{ address: 'a@x.example', teams: 'Seals' }, 'teams', undefined],
    [{ address: 'a@x.example', name: 'x'.repeat(121) }, 'name', undefined],
  ])('names what is wrong with a row: %j', (row, field, mend) => {
    expect(readPersonRow(row, names)).toMatchObject({
      problems: [mend === undefined ? { field } : { field, mend }],
    });
  });

  it('makes somebody new of what a row leaves out', () => {
    const usual = { siteId: 1, zone: 'Europe/Oslo' };
    expect(newOfRow({ email: 'cal.reid@x.example' }, usual)).toMatchObject({
      name: 'Cal Reid',
      siteId: 1,
      zone: 'Europe/Oslo',
      role: 'staff',
    });
    expect(newOfRow({ email: 'a@x.example', zone: 'Asia/Tokyo' }, usual)).toMatchObject({
      siteId: null,
      zone: 'Asia/Tokyo',
    });
  });
});
