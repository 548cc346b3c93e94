import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { weekOf } from '../time/workingHours.ts';
import { readOpen } from './openText.ts';
import { openWords } from './ruleWords.ts';

describe('opening hours as text', () => {
  it('are days with their hours, in several ways of writing', () => {
    const weekdays = weekOf({ start: 480, end: 1080 });
    expect(readOpen('Mon–Fri 08:00–18:00')).toEqual(weekdays);
    expect(readOpen(' monday - friday  8-18 ')).toEqual(weekdays);
    expect(readOpen('Mon-Thu 8.00-18.00; Fri 08:00–18:00')).toEqual(weekdays);
    expect(readOpen('Sat 9–12 and 13–17:30')!.at(5)).toEqual([
      { start: 540, end: 720 },
      { start: 780, end: 1050 },
    ]);
    expect(readOpen('Fri 22–2')!.at(4)).toEqual([{ start: 1320, end: 1560 }]);
    expect(readOpen('Mon–Sun all day')).toEqual(
      weekOf({ start: 0, end: 1440 }, [1, 2, 3, 4, 5, 6, 7]),
    );
    expect(readOpen('never')).toEqual(weekOf({ start: 0, end: 0 }, []));
  });

  it('are none where anything of it cannot be read', () => {
    for (const wrong of [
      '',
      'Mon',
      '8–18',
      'Mon–Fri',
      'Fri–Mon 8–18',
      'Mon 25–26',
      'Mon 8:75–9',
      'Mon 24–8',
      'Mon 8–12–18',
      'Mon 8–18, Mon 9–12',
      'Someday 8–18',
    ])
      expect([wrong, readOpen(wrong)]).toEqual([wrong, null]);
  });

  it('are read as they are written', () => {
    const quarter = fc.integer({ min: 0, max: 95 }).map((one) => one * 15);
    const shift = fc
      .tuple(quarter, fc.integer({ min: 1, max: 95 }))
      .map(([start, quarters]) => ({ start, end: start + quarters * 15 }));
    const day = fc.oneof(
      fc.constant([]),
      shift.map((one) => [one]),
      fc.constant([{ start: 0, end: 1440 }]),
      fc.constant([
        { start: 480, end: 720 },
        { start: 780, end: 1440 },
      ]),
    );
    fc.assert(
      fc.property(fc.array(day, { minLength: 7, maxLength: 7 }), (open) => {
        expect(readOpen(openWords(open, '24'))).toEqual(open);
      }),
    );
  });
});
