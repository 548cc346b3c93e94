import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LISTS } from '../../../tests/support/bombs.ts';
import { addressesIn, isTooLong, listReader, type Listed, type ListNames } from './nameList.ts';

const people = [
  'Ines Aldabe',
  'Tomas Okafor',
  'Mika Sandoval',
  'Leila Haddad',
  'Jonas Vågen',
  'Devika Menon',
  'Ravi Menon',
  'Wanjiru Keele',
  'Alma Robinson',
  'Alma Robinson',
].map((name, k) => ({
  id: k + 1,
  name,
  email: `${name.toLowerCase().replace(' ', '.').replace('å', 'a')}${k === 9 ? '2' : ''}@ternrock.example`,
}));
const names: ListNames = {
  people,
  teams: [{ id: 1, name: 'Kelp Forests', memberIds: [1, 2] }],
  resources: [{ id: 101, name: 'Gannet' }],
  owners: new Map(people.map((one) => [one.email, one])),
  ownDomain: 'ternrock.example',
};
const reader = listReader(names);

/** `Tomas`, `~Tomas` (optional), `jon@x.example`, `?Menon: Devika, Ravi`, `!Zebulon`. */
const brief = (one: Listed): string => {
  const mark = one.isOptional ? '~' : '';
  switch (one.is) {
    case 'meant':
      return `${mark}${one.meant.kind === 'person' ? one.meant.name.split(' ')[0] : `[${one.meant.name}]`}`;
    case 'address':
      return `${mark}${one.email}`;
    case 'nobodys':
      return `!${one.email}`;
    case 'doubtful':
      return `?${one.text}: ${one.choices.map(({ name }) => name.split(' ')[0]).join(', ')}`;
    case 'unknown':
      return `!${one.text}`;
  }
};
const read = (text: string) => [...reader.read(text)].map(brief);

describe('a list of names', () => {
  it.each([
    ['Tomas, Leila', ['Tomas', 'Leila']],
    ['Tomas Okafor, Leila Haddad; Mika Sandoval', ['Tomas', 'Leila', 'Mika']],
    ['Tomas\nLeila\n\nMika', ['Tomas', 'Leila', 'Mika']],
    ['Okafor, Tomas\nHaddad, Leila', ['Tomas', 'Leila']],
    ['Okafor, Tomas; Haddad, Leila', ['Tomas', 'Leila']],
    ['Okafor Tomas', ['Tomas']],
    ['1. Dr. Tomas Okafor (Bergen)\n2) Prof Leila Haddad, PhD', ['Tomas', 'Leila']],
    ['- Tomas Okafor - chair\n- Mika Sandoval: notes', ['Tomas', 'Mika']],
    ['Tomas Okafor\tBergen\ttomas.okafor@ternrock.example', ['Tomas']],
    [
      'Tomas Okafor <tomas.okafor@ternrock.example>, Jon Skau <jon@skau.example>',
      ['Tomas', 'jon@skau.example'],
    ],
    ['"Okafor, Tomas" <tomas.okafor@ternrock.example>', ['Tomas']],
    ['TOMAS.OKAFOR@ternrock.example', ['Tomas']],
    ['mailto:jon@skau.example', ['jon@skau.example']],
    ['jonas vagen', ['Jonas']],
    ['T. Okafor, Mika S', ['Tomas', 'Mika']],
    ['Kelp Forests, Gannet', ['[Kelp Forests]', '[Gannet]']],
    ['Mika (optional), Tomas [cc]', ['~Mika', '~Tomas']],
    ['Tomas, Tomas Okafor, tomas.okafor@ternrock.example', ['Tomas']],
    ['Menon', ['?Menon: Devika, Ravi']],
    ['Alma Robinson', ['?Alma Robinson: Alma, Alma']],
    ['Wanjru Keele', ['?Wanjru Keele: Wanjiru']],
    ['Zebulon, Tomas', ['!Zebulon', 'Tomas']],
    ['tomas.okafro@ternrock.example', ['!tomas.okafro@ternrock.example']],
    ['', []],
    [' , ;\n', []],
  ])('%j', (text, meant) => {
    expect(read(text)).toEqual(meant);
  });

  it('tells its addresses beforehand, each once', () => {
    const text = 'Tomas Okafor <t@x.example>, t@x.example\nJon\tBergen\tjon@skau.example';
    expect(addressesIn(text)).toEqual(['t@x.example', 'jon@skau.example']);
  });

  it('of thirty lines loses nobody', () => {
    const lines = Array.from({ length: 30 }, (_, k) => `${k + 1}. Person Nobody${k} (site ${k})`);
    expect(read(lines.join('\n'))).toHaveLength(30);
  });

  it('names whoever is in it, however it is written', () => {
    const written = fc
      .tuple(fc.integer({ min: 0, max: 7 }), fc.integer({ min: 0, max: 6 }))
      .map(([who, how]) => {
        const { name, email } = people[who]!;
        const [first, last] = name.split(' ');
        const forms = [
          name,
          `${last}, ${first}`,
          `${name} <${email}>`,
          email,
          `Dr ${name} (Bergen)`,
          `${last} ${first}`,
          name.toUpperCase(),
        ];
        return [who + 1, forms[how]!] as const;
      });
    fc.assert(
      fc.property(fc.array(written, { minLength: 1, maxLength: 12 }), (list) => {
        const text = list.map(([, one]) => one).join('\n');
        const ids = [...reader.read(text)].map((one) =>
          one.is === 'meant' ? one.meant.id : one.text,
        );
        expect(ids).toEqual([...new Set(list.map(([id]) => id))]);
      }),
    );
  });

  it('takes what is made to be slow, and says of what is too long that it is', () => {
    for (const text of LISTS) expect([...reader.read(text)].length).toBeLessThanOrEqual(501);
    expect(isTooLong(Array.from({ length: 500 }, (_, k) => `Somebody ${k}`).join('\n'))).toBe(
      false,
    );
    expect(isTooLong(Array.from({ length: 501 }, (_, k) => `Somebody ${k}`).join('\n'))).toBe(true);
    expect(isTooLong('x'.repeat(200_000))).toBe(true);
  });

  it('takes any text without failing', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        for (const one of reader.read(text)) expect(one.text.length).toBeGreaterThan(0);
      }),
    );
  });
});
