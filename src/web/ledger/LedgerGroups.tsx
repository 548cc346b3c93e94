import type { LedgerGroup, LedgerGroupRow } from '../../contract/ledger.ts';
import { counted } from '../../core/counted.ts';
import type { LedgerAddress } from './useLedgerAddress.ts';
import { groupWords, hoursWords } from './words.ts';

/** Bookings put together: how many and how long, the largest first; each opens into its rows. */
export function LedgerGroups({
  address,
  group,
  groups,
}: {
  address: LedgerAddress;
  group: LedgerGroup;
  groups: readonly LedgerGroupRow[];
}) {
  const most = Math.max(1, ...groups.map((one) => one.bookings));
  return (
    <ul aria-label="Groups" className="border-t border-edge">
      {groups.map(({ key, label, bookings, minutes }) => (
        <li key={key} className="border-b border-edge/70">
          <button
            type="button"
            className="grid w-full grid-cols-[minmax(120px,1fr)_minmax(0,2fr)_auto] items-center gap-x-4 py-1.5 text-left hover:bg-gentian-wash max-sm:min-h-11 max-sm:grid-cols-[1fr_auto]"
            onClick={() => address.change({ in: key })}
          >
            <span className="truncate font-semibold text-gentian">
              {groupWords(group, key, label)}
            </span>
            <span aria-hidden="true" className="max-sm:hidden">
              <span
                className="rock block h-3.5 rounded-xs"
                style={{ width: `${(100 * bookings) / most}%` }}
              />
            </span>
            <span className="min-w-40 text-right tabular-nums">
              {counted(bookings, 'booking')}, {hoursWords(minutes)}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
