import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { LONGEST_PASTED, MOST_PASTED, nameOfAddress, readPasted } from './pastedPeople.ts';

const HARBOUR = `Workshop and yard:
Kofi Mensah <kofi@harbour.example>; lena@harbour.example
Ana Ribeiro <ana@harbour.example>
cal.reid@harbour.example
"Duthie, Isobel" isobel@harbour.example
Farah Aziz farah@harbour.example
Greig Mutch, greig@harbour.example
3. Hanne Lund (hanne@harbour.example)
jon.petrie@harbour,example
marek@harbour.example;
Nora Flett<nora@harbour.example>
Oluwaseun Ade: seun@harbour.example
Rhona Tait / rhona@harbour.example
Yuki Tanaka (Osaka) yuki@tanaka.example`;

describe('pasted people', () => {
  it('are read from whatever their addresses stand in', () => {
    const { people, doubts, nobody, lines } = readPasted(HARBOUR);
    expect(people.map((one) => [one.line, one.name, one.email, one.isNameGuessed])).toEqual([
      [2, 'Kofi Mensah', 'kofi@harbour.example', false],
      [2, 'Lena', 'lena@harbour.example', true],
      [3, 'Ana Ribeiro', 'ana@harbour.example', false],
      [4, 'Cal Reid', 'cal.reid@harbour.example', true],
      [5, 'Isobel Duthie', 'isobel@harbour.example', false],
      [6, 'Farah Aziz', 'farah@harbour.example', false],
      [7, 'Greig Mutch', 'greig@harbour.example', false],
      [8, 'Hanne Lund', 'hanne@harbour.example', false],
      [10, 'Marek', 'marek@harbour.example', true],
      [11, 'Nora Flett', 'nora@harbour.example', false],
      [12, 'Oluwaseun Ade', 'seun@harbour.example', false],
      [13, 'Rhona Tait', 'rhona@harbour.example', false],
      [14, 'Yuki Tanaka', 'yuki@tanaka.example', false],
    ]);
    expect(people.at(-1)!.remark).toBe('Osaka');
    expect(doubts).toEqual([
      {
        line: 9,
        text: 'jon.petrie@harbour,example',
        from: 0,
        to: 26,
        why: 'A comma stands in the address:',
        mend: {
          name: 'Jon Petrie',
          isNameGuessed: true,
          email: 'jon.petrie@harbour.example',
          remark: null,
        },
      },
    ]);
    expect([nobody, lines]).toEqual([[1], 14]);
  });

  const one = (line: string) =>
    readPasted(line).people.map(({ name, email }) => `${name} <${email}>`);
  it.each([
    ['a@x.example,b@y.example', ['A <a@x.example>', 'B <b@y.example>']],
    ['a@x.example, b@y.example', ['A <a@x.example>', 'B <b@y.example>']],
    [
      'To: Ana Ribeiro <ana@x.example>, "Reid, Cal" <cal@x.example>',
      ['Ana Ribeiro <ana@x.example>', 'Cal Reid <cal@x.example>'],
    ],
    ['Ana\tRibeiro\tana@x.example\tBoatbuilder', ['Ana Ribeiro <ana@x.example>']],
    ['ana@x.example (Ana Ribeiro)', ['Ana Ribeiro <ana@x.example>']],
    ['<ana@x.example> Ana Ribeiro', ['Ana Ribeiro <ana@x.example>']],
    ['* Dr. Ana Ribeiro – mailto:ana@x.example', ['Ana Ribeiro <ana@x.example>']],
    ['Ana Ribeiro: ana@x.example.', ['Ana Ribeiro <ana@x.example>']],
    ["Niamh O'Neill niamh@x.example", ["Niamh O'Neill <niamh@x.example>"]],
    ['Ana Ribeiro,ana@x.example,Boatbuilder,Slip House', ['Ana Ribeiro <ana@x.example>']],
    ['Åse Sørensen <åse@bø.example>', ['Åse Sørensen <åse@bø.example>']],
    ['nothing here', []],
  ])('%s', (line, people) => {
    expect(one(line)).toEqual(people);
  });

  it.each([
    ['jon@harbour', 'The address has no ending such as .example.', null],
    ['Jon Petrie jon@ harbour.example', 'A gap stands in the address:', 'jon@harbour.example'],
    [
      'Jon jon(at)harbour.example',
      'The address is written without its at sign:',
      'jon@harbour.example',
    ],
    ['jon@harbour..example', 'Two dots stand in the address:', 'jon@harbour.example'],
    ['@harbour.example', 'This is no mail address.', null],
  ])('is in doubt: %s', (line, why, email) => {
    const { people, doubts } = readPasted(line);
    expect(people).toEqual([]);
    expect(doubts).toMatchObject([{ line: 1, why, mend: email === null ? null : { email } }]);
    expect(line.slice(doubts[0]!.from, doubts[0]!.to)).toBe(doubts[0]!.text);
  });

  it('reads an address once, however it is spelt', () => {
    const { people, doubts } = readPasted('Ana <ana@x.example>\nANA@x.example');
    expect(people).toHaveLength(1);
    expect(doubts).toMatchObject([{ line: 2, why: 'The address stands in line 1 already.' }]);
  });

  it('finds every plain address in a heap of anything, and fails at none', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.string({ unit: 'grapheme', maxLength: 12 }), fc.nat(900)), {
          maxLength: 40,
        }),
        (parts) => {
          const wanted = new Set<string>();
          const text = parts
            .map(([noise, n]) => {
              wanted.add(`p${n}@x.example`);
              return `${noise.replaceAll('@', '')} p${n}@x.example`;
            })
            .join('\n');
          const { people } = readPasted(text);
          expect(new Set(people.map(({ email }) => email))).toEqual(wanted);
          for (const person of people) expect(person.name).not.toBe('');
        },
      ),
    );
  });

  it('is bound: no more people than are taken, no more text than is read', () => {
    const many = Array.from({ length: MOST_PASTED + 5 }, (_, k) => `p${k}@x.example`).join('\n');
    const { people, doubts } = readPasted(many);
    expect([people.length, doubts.length]).toEqual([MOST_PASTED, 5]);
    const [heap, brackets] = ['@'.repeat(2 * LONGEST_PASTED), '(['.repeat(LONGEST_PASTED)];
    expect(readPasted(heap).people).toEqual([]);
    expect(readPasted(brackets).people).toEqual([]);
  });

  it.each([
    ['cal.reid@x.example', 'Cal Reid'],
    ['anne-marie_lund2@x.example', 'Anne Marie Lund'],
    ['lena+work@x.example', 'Lena'],
    ['42@x.example', '42'],
  ])('a name is made from %s', (email, name) => {
    expect(nameOfAddress(email)).toBe(name);
  });
});
