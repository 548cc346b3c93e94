import type { MeetingChange } from '../../core/meetings/decision.ts';
import type { Fact } from '../../core/facts.ts';
import type { Meeting } from '../../core/meetings/meeting.ts';
import type { Actor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import type { HeldResources } from '../reservations/index.ts';

/** What was committed, for those who tell of it. */
export interface Happened<Of extends Fact = Fact> {
  facts: readonly Of[];
  /** The meetings as they are now, by id; those that are gone as they last were. */
  meetings: ReadonlyMap<string, Meeting>;
  /** The resources they want. */
  resources: HeldResources;
  /** Meetings that are no more. */
  gone: ReadonlySet<string>;
  changes: readonly MeetingChange[];
}

/** One who tells of what happened, in the transaction in which it happened. */
export interface FactConsumer<Of extends Fact = Fact> {
  name: string;
  /** The kinds of facts that it reads; it is given no others. */
  kinds: readonly Of['kind'][];
  /** Begins to read what it will need, while others need not wait yet. */
  foresee?(
    tx: Transaction,
    decided: Pick<Happened<Of>, 'facts' | 'changes'>,
    platform: Platform,
  ): void;
  take(
    tx: Transaction,
    platform: Platform,
    actor: Actor,
    happened: Happened<Of>,
  ): Promise<void> | void;
}

/** The consumers that read some of these facts, each with its own. */
function readBy(
  { consumers }: Platform,
  facts: readonly Fact[],
): { consumer: FactConsumer; own: Fact[] }[] {
  return consumers
    .map((consumer) => ({
      consumer,
      own: facts.filter(({ kind }) => consumer.kinds.includes(kind)),
    }))
    .filter(({ own }) => own.length > 0);
}

/** Lets those who will tell of what is decided begin to read what they need. */
export function foresee(
  tx: Transaction,
  platform: Platform,
  { facts, changes }: Pick<Happened, 'facts' | 'changes'>,
): void {
  for (const { consumer, own } of readBy(platform, facts))
    consumer.foresee?.(tx, { facts: own, changes }, platform);
}

/** Hands what happened to all who tell of it, in the order in which they are registered. */
export async function publish(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  happened: Happened,
): Promise<void> {
  for (const { consumer, own } of readBy(platform, happened.facts))
    await consumer.take(tx, platform, actor, { ...happened, facts: own });
}
