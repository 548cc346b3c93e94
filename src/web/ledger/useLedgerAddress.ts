import { RESOURCE_KINDS, type ResourceKind } from '../../contract/resourceKind.ts';
import {
  LEDGER_COLUMNS,
  LEDGER_GROUPS,
  type LedgerAsked,
  type LedgerColumn,
  type LedgerExportAsked,
  type LedgerGroup,
  type LedgerState,
} from '../../contract/ledger.ts';

import { isDate } from '../../core/time/wall.ts';
import { useAddressQuery } from '../client/index.ts';

/** What of an address is a question to the ledger, and what is about how it stands here. */
const ASKED = [
  'whose',
  'when',
  'from',
  'to',
  'kind',
  'site',
  'place',
  'state',
  'q',
  'sort',
  'order',
  'group',
  'in',
];

const among = <Value extends string>(values: readonly Value[], given: string | null) =>
  values.find((one) => one === given) ?? null;

/**
 * What the ledger shows, as its address says it, so that a reload, Back and a shared link find it again.
 * Without an address it is mine to come.
 */
export function useLedgerAddress() {
  const [params, setParams] = useAddressQuery();
  const text = (name: string, most: number) => (params.get(name) ?? '').slice(0, most);
  const date = (name: string) => {
    const given = params.get(name) ?? '';
    return isDate(given) ? given : null;
  };
  const number = (name: string) => {
    const given = Number(params.get(name));
    return Number.isSafeInteger(given) && given > 0 ? given : null;
  };
  const change = (changes: Record<string, string | null>, replace = false) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes))
          if (value) after.set(name, value);
          else after.delete(name);
        return after;
      },
      { replace },
    );
  const group = among<LedgerGroup>(LEDGER_GROUPS, params.get('group'));
  const shown = {
    whose: among(['mine', 'all'] as const, params.get('whose')) ?? 'mine',
    when: params.has('whose') || params.has('when') ? params.get('when') : 'coming',
    from: date('from'),
    to: date('to'),
    kind: among<ResourceKind>(RESOURCE_KINDS, params.get('kind')),
    site: number('site'),
    place: number('place'),
    state: among<LedgerState>(['requested', 'held', 'in-use', 'released'], params.get('state')),
    q: text('q', 100),
    sort: among<LedgerColumn>(LEDGER_COLUMNS, params.get('sort')) ?? 'start',
    order: among(['up', 'down'] as const, params.get('order')) ?? 'up',
    group,
    in: group && params.has('in') ? text('in', 400) : null,
  };
  const asked = Object.entries(shown).filter(([, value]) => value !== null && value !== '');
  const query = new URLSearchParams(asked.map(([name, value]) => [name, String(value)]));
  return {
    ...shown,
    /** What the server is asked, without where reading goes on. */
    query: Object.fromEntries(asked) as LedgerAsked,
    /** The same without what is about groups, to be written out. */
    exported: withoutGroups(asked),
    /** What a saved view keeps: the address as it stands, and the same of any other. */
    view: viewOf(query),
    event: params.get('event'),
    occurrence: params.get('on'),
    change,
    /** Shows a saved view. */
    show: (view: string) => setParams(() => new URLSearchParams(view)),
    /** Sorts by a column; by the one it is sorted by, the other way round. */
    sortBy: (column: LedgerColumn) =>
      change({
        sort: column,
        order: shown.sort === column && shown.order === 'up' ? 'down' : 'up',
      }),
  };
}
export type LedgerAddress = ReturnType<typeof useLedgerAddress>;

const withoutGroups = (asked: readonly [string, unknown][]): LedgerExportAsked =>
  Object.fromEntries(asked.filter(([name]) => name !== 'group' && name !== 'in'));

/** An address of the ledger, written so that two that show the same are alike. */
export function viewOf(given: URLSearchParams | string): string {
  const query = new URLSearchParams(given);
  const usual: Record<string, string> = { sort: 'start', order: 'up', q: '' };
  return ASKED.filter((name) => name !== 'in')
    .flatMap((name) => {
      const value = query.get(name);
      return value === null || value === usual[name]
        ? []
        : [`${name}=${encodeURIComponent(value)}`];
    })
    .join('&');
}
