import { describe, expect, it } from 'vitest';
import { mentionsIn, partsOf, typingAt } from './mentions.ts';

const people = ['Tomas Okafor', 'Tomas Okafor-Lind', 'Mei Tanaka', 'Jonas Vågen'].map(
  (name, k) => ({ id: k + 1, name }),
);
const names = people.map((one) => one.name);

describe('an @ and a name', () => {
  it('speak to whose whole name it is', () => {
    expect(mentionsIn('@Mei Tanaka, who has the keys?', people).map((one) => one.id)).toEqual([3]);
    expect(mentionsIn('Mei Tanaka and @Mei', people)).toEqual([]);
  });

  it('stand apart in the text, the longer name first', () => {
    expect(partsOf('Ask @Tomas Okafor-Lind, not @Tomas Okafor', names)).toEqual([
      { text: 'Ask ', isMention: false },
      { text: '@Tomas Okafor-Lind', isMention: true },
      { text: ', not ', isMention: false },
      { text: '@Tomas Okafor', isMention: true },
    ]);
    expect(partsOf('a@b.example', names)).toEqual([{ text: 'a@b.example', isMention: false }]);
  });

  it.each([
    ['Hello @to', 9, ['Tomas Okafor', 'Tomas Okafor-Lind']],
    ['@vå', 3, ['Jonas Vågen']],
    ['@Mei Tanaka ', 12, null],
    ['mail a@mei', 10, null],
    ['@nobody', 7, null],
    ['@', 1, names],
    ['@mei and more', 4, ['Mei Tanaka']],
  ])('%j with the caret at %i offers %j', (words, caret, offered) => {
    expect(typingAt(words, caret, people)?.offered.map((one) => one.name) ?? null).toEqual(offered);
  });
});
