import {
  DATE_VALUES,
  dates,
  invited,
  isDraft,
  shifted,
  wallOf,
  without,
  type Answer,
  type Asks,
  type Sets,
  type Step,
  type Twin,
  instant,
} from './together.ts';

/* What each step sets of the twin; `moment` makes an answer that is asked for anew a value of its own. */

/** One date at another time: whoever is invited is asked about it anew, what they asked for is answered. */
export function movedSets(twin: Twin, k: number, wall: string, moment: number): Sets {
  const asked: Answer = { reply: 'needs-action', mark: moment };
  const asksOf = (who: string) => twin.values.get(`${who}.asks`) as Asks | null;
  return [
    [`${k}.wall`, wall],
    ...invited(twin).flatMap((who): Sets => [
      // Whoever asked for that very time comes.
      [`${who}.${k}`, asksOf(who)?.[k] === instant(wall) ? { ...asked, reply: 'accepted' } : asked],
      [`${who}.asks`, without(twin.values.get(`${who}.asks`) as Asks | null, k)],
    ]),
  ];
}

/**
 * What a step sets.
 * @param k the date it is about
 */
export function setsOf(twin: Twin, { kind, by, minutes }: Step, k: number, moment: number): Sets {
  const asked: Answer = { reply: 'needs-action', mark: moment };
  switch (kind) {
    case 'rename':
      return [['title', `Together, ${by}`]];
    case 'rename one':
      return [[`${k}.title`, `Alone, ${by}`]];
    case 'place':
      return [['place', `Boathouse of ${by}`]];
    case 'people': {
      const comes = twin.values.get('in.hal') !== true;
      return [
        ['in.hal', comes],
        ['hal', comes && !isDraft(twin) ? asked : null],
        ['hal.asks', null],
        ...dates.map((one): Sets[number] => [`hal.${one}`, null]),
      ];
    }
    case 'cancel one':
      return [[`${k}.gone`, moment]];
    case 'restore one':
      return [[`${k}.gone`, null]];
    case 'move one':
      return movedSets(twin, k, shifted(wallOf(twin, k), minutes), moment);
    default:
      return [
        ['shift', Number(twin.values.get('shift')) + minutes],
        // A changed rule goes back with everything that dates have of their own.
        ...DATE_VALUES.map((name): Sets[number] => [name, twin.values.get(name)]),
        ...invited(twin).flatMap((who): Sets => [
          [who, asked],
          [`${who}.asks`, null],
          ...dates.map((one): Sets[number] => [`${who}.${one}`, null]),
        ]),
      ];
  }
}
