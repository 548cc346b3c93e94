import { STATE_WORDS } from '../../core/booking/presence.ts';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
  type Row,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useMemo } from 'react';
import { LEDGER_COLUMNS, type LedgerColumn, type LedgerRow } from '../../contract/ledger.ts';
import { formatLength } from '../../core/time/format.ts';
import { useMe } from '../client/index.ts';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { usePhone } from '../design/usePhone.ts';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { TitleCell } from './TitleCell.tsx';
import type { LedgerAddress } from './useLedgerAddress.ts';
import { HEADINGS, whenWords } from './words.ts';

const column = createColumnHelper<LedgerRow>();

/** How much room each column has beside the others. */
const WIDTHS: Record<LedgerColumn, string> = {
  start: 'minmax(168px,1.3fr)',
  length: '76px',
  place: 'minmax(96px,1.1fr)',
  kind: '84px',
  site: 'minmax(104px,1fr)',
  floor: '52px',
  title: 'minmax(120px,2fr)',
  holder: 'minmax(104px,1.1fr)',
  state: '82px',
};

/** Bookings one by one: sorted by any column, chosen, opened. */
export function LedgerTable({
  address,
  rows,
  total,
  chosen,
  setChosen,
  more,
}: {
  address: LedgerAddress;
  rows: LedgerRow[];
  /** How many there are, as far as they are counted. */
  total: number;
  chosen: ReadonlyMap<string, LedgerRow>;
  setChosen: (rows: ReadonlyMap<string, LedgerRow>) => void;
  more: () => void;
}) {
  const me = useMe();
  const phone = usePhone();
  const columns = useMemo(
    () => [
      column.accessor('start', {
        cell: ({ row }) => (
          <span className="tabular-nums">{whenWords(row.original, me.zone, me.clock)}</span>
        ),
      }),
      column.accessor((row) => row.end - row.start, {
        id: 'length',
        cell: ({ getValue }) => <span className="tabular-nums">{formatLength(getValue())}</span>,
      }),
      column.accessor('place', {
        cell: (cell) => <b className="font-semibold">{cell.getValue()}</b>,
      }),
      column.accessor('kind', {}),
      column.accessor('site', {}),
      column.accessor('floor', {}),
      column.accessor('title', {
        cell: ({ row }) => <TitleCell row={row.original} />,
      }),
      column.accessor('holder', { cell: (cell) => cell.getValue() ?? '–' }),
      column.accessor((row) => row.state, {
        id: 'state',
        cell: (cell) => STATE_WORDS[cell.getValue()],
      }),
    ],
    [me.zone, me.clock],
  );
  const table = useReactTable({
    data: rows,
    columns,
    getCoreRowModel: getCoreRowModel(),
    getRowId: (row) => row.id,
    // The server sorts, filters, puts together and reads on.
    manualSorting: true,
    manualFiltering: true,
    manualGrouping: true,
    manualPagination: true,
    enableRowSelection: ({ original }) => original.canChange,
    state: {
      sorting: [{ id: address.sort, desc: address.order === 'down' }],
      rowSelection: Object.fromEntries([...chosen.keys()].map((id) => [id, true])),
      // What every row would say alike need not be said.
      columnVisibility: {
        kind: address.kind === null,
        site: address.site === null,
        holder: address.whose === 'all',
      },
    },
    onRowSelectionChange: (update) => {
      const before = Object.fromEntries([...chosen.keys()].map((id) => [id, true]));
      const after = typeof update === 'function' ? update(before) : update;
      const known = new Map([...chosen, ...rows.map((row) => [row.id, row] as const)]);
      setChosen(
        new Map(
          Object.keys(after).flatMap((id): [string, LedgerRow][] =>
            after[id] && known.has(id) ? [[id, known.get(id)!]] : [],
          ),
        ),
      );
    },
  });
  const shown = table.getVisibleLeafColumns().map((one) => one.id as LedgerColumn);
  const template = `28px ${shown.map((id) => WIDTHS[id]).join(' ')}`;
  const open = ({ eventId, occurrence }: LedgerRow) =>
    address.change({ event: eventId, on: occurrence });
  return (
    <div>
      {phone ? (
        <p className="border-b border-edge text-sm leading-11">
          Sorted by{' '}
          <Select<LedgerColumn>
            look="word"
            question="Sorted by"
            value={address.sort}
            onChange={(sort) => address.change({ sort, order: null })}
            options={LEDGER_COLUMNS.map((value) => ({
              value,
              words: HEADINGS[value].toLowerCase(),
            }))}
          />
        </p>
      ) : (
        <div
          role="group"
          aria-label="Columns"
          className="sticky top-0 z-10 grid items-center gap-x-3 border-b border-edge bg-paper py-0.5"
          style={{ gridTemplateColumns: template }}
        >
          <Tick
            label={<span className="sr-only">Choose all that are shown</span>}
            on={table.getIsAllRowsSelected()}
            onChange={(on) => table.toggleAllRowsSelected(on)}
          />
          {table.getVisibleLeafColumns().map(({ id }) => (
            <Heading key={id} column={id as LedgerColumn} address={address} />
          ))}
        </div>
      )}
      <VirtualRows
        label="Bookings"
        rows={table.getRowModel().rows}
        keyOf={(row) => row.id}
        total={Math.max(total, rows.length)}
        rowPx={[37, 68]}
        onNeedMore={more}
      >
        {(row) =>
          phone ? (
            <Card row={row} onOpen={() => open(row.original)} />
          ) : (
            <div
              className={`grid items-center gap-x-3 border-b border-edge/70 ${row.getIsSelected() ? 'bg-gentian-wash' : ''}`}
              style={{ gridTemplateColumns: template }}
            >
              <Chooser row={row} />
              {row.getVisibleCells().map((cell) => (
                <span
                  key={cell.id}
                  className="min-w-0 truncate py-1.5"
                  title={cell.column.id === 'title' ? (row.original.title ?? undefined) : undefined}
                >
                  {cell.column.id === 'start' && row.original.eventId ? (
                    <button
                      type="button"
                      className="reach max-w-full truncate text-left font-semibold text-gentian hover:underline"
                      onClick={() => open(row.original)}
                    >
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </button>
                  ) : (
                    flexRender(cell.column.columnDef.cell, cell.getContext())
                  )}
                </span>
              ))}
            </div>
          )
        }
      </VirtualRows>
    </div>
  );
}

function Heading({ column: id, address }: { column: LedgerColumn; address: LedgerAddress }) {
  const isSorted = address.sort === id;
  const Sign = address.order === 'up' ? ArrowUp : ArrowDown;
  return (
    <button
      type="button"
      aria-pressed={isSorted}
      aria-label={`${HEADINGS[id]}${isSorted ? `, sorted ${address.order === 'up' ? 'upwards' : 'downwards'}` : ', sort by it'}`}
      className={`reach flex items-center gap-1 text-left text-xs font-semibold hover:text-ink ${isSorted ? 'text-ink' : 'text-ink-2'}`}
      onClick={() => address.sortBy(id)}
    >
      {HEADINGS[id]}
      {isSorted && <Sign size={13} aria-hidden="true" />}
    </button>
  );
}

function Chooser({ row }: { row: Row<LedgerRow> }) {
  const { place, title } = row.original;
  if (!row.getCanSelect()) return <span />;
  return (
    <Tick
      label={<span className="sr-only">{`Choose ${place}, ${title ?? 'a booking'}`}</span>}
      on={row.getIsSelected()}
      onChange={(on) => row.toggleSelected(on)}
    />
  );
}

/** A booking on a phone: what, where and when in two lines. */
function Card({ row, onOpen }: { row: Row<LedgerRow>; onOpen: () => void }) {
  const me = useMe();
  const { place, site, title, holder, state, eventId } = row.original;
  return (
    <div className="flex items-center gap-3 border-b border-edge/70">
      <button
        type="button"
        disabled={eventId === null}
        className="min-w-0 flex-1 py-2 text-left"
        onClick={onOpen}
      >
        <span className="block truncate">
          <b className="font-semibold">{place}</b>
          {title && `, ${title}`}
        </span>
        <span className="block truncate text-sm text-ink-2 tabular-nums">
          {whenWords(row.original, me.zone, me.clock)}, {site}
          {holder && `, ${holder}`}
          {state === 'requested' && ', asked for'}
        </span>
      </button>
      <Chooser row={row} />
    </div>
  );
}
