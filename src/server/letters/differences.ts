import { occurrenceOf, type Meeting } from '../../core/meetings/meeting.ts';
import { peopleChange } from '../../core/meetings/people.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import { same } from '../../core/same.ts';

/** What is different about a meeting, for the words of a letter. */
export interface Differences {
  /** When it was before; null where it stays. Epoch milliseconds. */
  was: Interval | null;
  title: string | null;
  place: string | null;
  rule: boolean;
  /** Names of who came and who left. */
  added: string[];
  removed: string[];
  /** Whether which places it has changed. */
  resources: boolean;
  description: boolean;
}

/** @param at the one occurrence that is meant; null for all of it */
export function differences(before: Meeting, after: Meeting, at: WallTime | null): Differences {
  const [old, now] = [occurrenceOf(before, at), occurrenceOf(after, at)];
  const { added, removed } = peopleChange(before, after);
  const names = (people: Meeting['participants']) => people.map((one) => one.name);
  return {
    was: old.start === now.start && old.end === now.end ? null : { start: old.start, end: old.end },
    title: old.title === now.title ? null : old.title,
    place: old.place === now.place ? null : old.place,
    rule: before.rule !== after.rule,
    added: names(added),
    removed: names(removed),
    resources: !same([...old.resources].sort(), [...now.resources].sort()),
    description: old.description !== now.description,
  };
}
