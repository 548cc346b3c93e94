import { DATE_FIELD_NAMES, fieldOf } from '../../core/meetings/fields.ts';
import { occurrenceOf, type Meeting } from '../../core/meetings/meeting.ts';
import { peopleChange } from '../../core/meetings/people.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import { same } from '../../core/same.ts';

/** What is different about a meeting, for the words of a letter. */
export interface Differences {
  /** When it was before; null where it stays. Epoch milliseconds. */
  was: Interval | null;
  /** What is said of each field that is another, a sentence each. */
  fields: string[];
  rule: boolean;
  /** Names of who came and who left. */
  added: string[];
  removed: string[];
  /** Whether which places it has changed. */
  resources: boolean;
}

/** @param at the one occurrence that is meant; null for all of it */
export function differences(before: Meeting, after: Meeting, at: WallTime | null): Differences {
  const [old, now] = [occurrenceOf(before, at), occurrenceOf(after, at)];
  const { added, removed } = peopleChange(before, after);
  const names = (people: Meeting['participants']) => people.map((one) => one.name);
  return {
    was: old.start === now.start && old.end === now.end ? null : { start: old.start, end: old.end },
    fields: DATE_FIELD_NAMES.flatMap((name) => {
      const told = fieldOf(name).told as ((was: unknown, now: unknown) => string) | undefined;
      return told && old[name] !== now[name] ? [told(old[name], now[name])] : [];
    }),
    rule: before.rule !== after.rule,
    added: names(added),
    removed: names(removed),
    resources: !same([...old.resources].sort(), [...now.resources].sort()),
  };
}
