import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import { STATE_WORDS } from '../../core/booking/presence.ts';
import { LEDGER_GROUPS, type LedgerGroup, type LedgerState } from '../../contract/ledger.ts';

import { addDays, dateAt } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { Select } from '../design/Select.tsx';
import { KIND_NAMES, Sentence, SiteWord } from '../places/index.ts';
import { DayField } from '../time/index.ts';
import type { LedgerAddress } from './useLedgerAddress.ts';
import { GROUP_WORDS } from './words.ts';

const WHEN = [
  { value: 'coming', words: 'from today on' },
  { value: 'past', words: 'before today' },
  { value: 'any', words: 'at any time' },
  { value: 'days', words: 'on the days' },
];

/** Which bookings are shown, as a sentence whose parts can be changed. */
export function LedgerSentence({
  address,
  sites,
}: {
  address: LedgerAddress;
  sites: readonly { id: number; name: string }[];
}) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const { change } = address;
  const between = address.from !== null || address.to !== null;
  const when = between ? 'days' : (address.when ?? 'any');
  const setWhen = (next: string) =>
    change({
      // What is not said means mine to come, and so whose they are is always said beside it.
      whose: address.whose,
      when: next === 'coming' || next === 'past' ? next : null,
      from: next === 'days' ? today : null,
      to: next === 'days' ? addDays(today, 6) : null,
      // What is over is looked at from its end.
      order: next === 'past' ? 'down' : null,
      in: null,
    });
  return (
    <Sentence>
      <Select
        look="word"
        question="Whose"
        value={address.whose}
        onChange={(whose) => change({ whose, when: address.when, in: null })}
        options={[
          { value: 'mine', words: 'My bookings' },
          { value: 'all', words: 'Everybody’s bookings' },
        ]}
      />{' '}
      of{' '}
      <Select<ResourceKind | null>
        look="word"
        question="Kind"
        value={address.kind}
        onChange={(kind) => change({ kind, in: null })}
        options={[
          { value: null, words: 'everything' },
          ...RESOURCE_KINDS.map((value) => ({ value, words: KIND_NAMES[value].toLowerCase() })),
        ]}
      />{' '}
      at{' '}
      <SiteWord
        value={address.site}
        sites={sites}
        onChange={(site) => change({ site: site === null ? null : String(site), in: null })}
      />
      , <Select look="word" question="When" value={when} onChange={setWhen} options={WHEN} />
      {between && (
        <span className="ml-1.5 inline-flex items-baseline gap-1.5 font-text text-sm">
          <DayField
            bare
            label="First day"
            className="w-44"
            value={address.from ?? ''}
            onChange={(from) =>
              change({ from, ...(address.to && address.to < from && { to: from }), in: null })
            }
          />
          to
          <DayField
            bare
            label="Last day"
            className="w-44"
            value={address.to ?? ''}
            onChange={(to) =>
              change({ to, ...(address.from && address.from > to && { from: to }), in: null })
            }
          />
        </span>
      )}
      ,{' '}
      <Select<LedgerState | null>
        look="word"
        question="State"
        value={address.state}
        onChange={(state) => change({ state, in: null })}
        options={[
          { value: null, words: 'whatever their state' },
          ...(Object.keys(STATE_WORDS) as LedgerState[]).map((value) => ({
            value,
            words: STATE_WORDS[value],
          })),
        ]}
      />
      ,{' '}
      <Select<LedgerGroup | null>
        look="word"
        question="Put together by"
        value={address.group}
        onChange={(group) => change({ group, in: null })}
        options={[
          { value: null, words: 'one by one' },
          ...LEDGER_GROUPS.map((value) => ({ value, words: `by ${GROUP_WORDS[value]}` })),
        ]}
      />
    </Sentence>
  );
}
