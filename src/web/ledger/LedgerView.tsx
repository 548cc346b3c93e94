import { useEffect, useState } from 'react';
import type { LedgerRow } from '../../contract/ledger.ts';
import { addDays, dateAt } from '../../core/time/wall.ts';
import {
  addressOf,
  ApiProblem,
  errorText,
  Failure,
  takeFile,
  useMe,
  useNow,
} from '../client/index.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Empty, Outline } from '../design/states.tsx';
import { usePhone } from '../design/usePhone.ts';
import { EventPanel } from '../events/index.ts';
import { PlacesWays } from '../places/index.ts';
import { useNavigate } from 'react-router';
import { ChangeBar } from './ChangeBar.tsx';
import { ChangedTogether } from './ChangedTogether.tsx';
import { LedgerGroups } from './LedgerGroups.tsx';
import { LedgerSentence } from './LedgerSentence.tsx';
import { LedgerTable } from './LedgerTable.tsx';
import { SavedViews } from './SavedViews.tsx';
import { useLedger } from './useLedger.ts';
import { useLedgerAddress, type LedgerAddress } from './useLedgerAddress.ts';
import { groupWords, totalWords } from './words.ts';

/** Who has what, when: all bookings as a table, mine first. */
export function LedgerView() {
  const address = useLedgerAddress();
  const navigate = useNavigate();
  const { pages, first, rows, more } = useLedger(address.query);
  // On a phone what narrows it is out of the way until somebody wants it.
  const phone = usePhone();
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlyMap<string, LedgerRow>>(new Map());
  // What is chosen is of what is asked for.
  useEffect(() => setChosen(new Map()), [address.view]);
  const isGroups = address.group !== null && address.in === null;
  return (
    <main className="mx-auto w-full max-w-[1400px] px-4 py-5 max-sm:py-2 md:px-6">
      <div className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1 max-sm:mb-1 max-sm:gap-x-3">
        <h1 className="mr-auto max-sm:w-full text-[26px] max-sm:text-[20px]">
          Ledger{' '}
          <span role="status" className="text-base font-normal text-ink-2">
            {first && totalWords(first.total, first.isMore)}
          </span>
        </h1>
        <PlacesWays at="ledger" />
      </div>
      <SavedViews address={address}>
        {phone && (
          <Button
            look="quiet"
            className="shrink-0"
            aria-expanded={isOpen}
            onClick={() => setOpen(!isOpen)}
          >
            {isOpen ? 'That is all' : 'Narrow it …'}
          </Button>
        )}
      </SavedViews>
      <div
        className={`mt-1.5 mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 ${phone && !isOpen ? 'hidden' : ''}`}
      >
        <LedgerSentence address={address} sites={first?.sites ?? []} />
        <span className="ml-auto flex flex-wrap items-center gap-x-3">
          <Sought address={address} />
          <ChangedTogether />
          <Written address={address} isEmpty={first?.total === 0 || pages.isError} />
        </span>
      </div>
      {address.group !== null && address.in !== null && (
        <p className="mb-1">
          <Button look="quiet" onClick={() => address.change({ in: null })}>
            All groups
          </Button>{' '}
          <b className="font-semibold">{groupTitle(address, rows)}</b>
        </p>
      )}
      {pages.isPending && <Outline what="bookings" rows={10} />}
      {pages.isError &&
        (isTooMany(pages.error) ? (
          <TooMany address={address} words={pages.error.message} />
        ) : (
          <Failure error={pages.error} retry={() => void pages.refetch()} />
        ))}
      {first && !pages.isError && first.total === 0 && <Nothing address={address} />}
      {first && isGroups && first.groups.length > 0 && (
        <LedgerGroups address={address} group={address.group!} groups={first.groups} />
      )}
      {first && !isGroups && rows.length > 0 && (
        <LedgerTable
          address={address}
          rows={rows}
          total={first.total}
          chosen={chosen}
          setChosen={setChosen}
          more={more}
        />
      )}
      {chosen.size > 0 && (
        <ChangeBar chosen={[...chosen.values()]} onDone={() => setChosen(new Map())} />
      )}
      {address.event && (
        <EventPanel
          eventId={address.event}
          occurrence={address.occurrence}
          onClose={() => address.change({ event: null, on: null })}
          onCopy={(copyOf) => void navigate('/events/new', { state: { draft: copyOf } })}
        />
      )}
    </main>
  );
}

/** What a group is called whose rows are shown. */
function groupTitle(address: LedgerAddress, rows: readonly LedgerRow[]): string {
  const [row] = rows;
  const key = address.in!;
  const labels: Partial<Record<string, string | null>> = {
    place: row?.place,
    site: row?.site,
    floor: row && [row.site, row.floor && `floor ${row.floor}`].filter(Boolean).join(', '),
    title: key === '-' ? null : row?.title,
    holder: key === '-' ? null : row?.holder,
  };
  const group = address.group!;
  const label = group in labels ? labels[group] : key;
  return label === undefined ? '' : groupWords(group, key, label);
}

/** Finds bookings by a word of the place, what they are for or who has them. */
function Sought({ address }: { address: LedgerAddress }) {
  const [text, setText] = useState(address.q);
  const [sent, setSent] = useState(address.q);
  // What came by Back or a link was not typed here.
  useEffect(() => {
    if (address.q !== sent) {
      setText(address.q);
      setSent(address.q);
    }
  }, [address.q, sent]);
  return (
    <TextInput
      type="search"
      aria-label="Place, what for or by whom"
      placeholder="Place, what for or by whom"
      className="w-56 max-sm:w-full"
      maxLength={100}
      value={text}
      onChange={({ target: { value } }) => {
        setText(value);
        setSent(value.trim());
        address.change({ q: value.trim(), in: null }, true);
      }}
    />
  );
}

/** The same bookings for other programs. */
function Written({ address, isEmpty }: { address: LedgerAddress; isEmpty: boolean }) {
  if (isEmpty) return null;
  const files = [
    ['As CSV', 'csv'],
    ['As iCalendar', 'ics'],
  ] as const;
  return (
    <span className="flex gap-3">
      {files.map(([words, type]) => {
        const route = `GET /api/ledger/bookings.${type}` as const;
        const given = { query: address.exported };
        return (
          <a
            key={type}
            className="reach font-semibold text-gentian hover:underline max-sm:leading-11"
            href={`/api${addressOf(route, given)}`}
            download
            onClick={(event) => {
              event.preventDefault();
              takeFile(route, given).catch((error: unknown) => tellUser(errorText(error)));
            }}
          >
            {words}
          </a>
        );
      })}
    </span>
  );
}

const isTooMany = (error: Error): boolean =>
  error instanceof ApiProblem && error.body.code === 'too-many-bookings';

/** That words are not looked for among so many, and days that are few enough. */
function TooMany({ address, words }: { address: LedgerAddress; words: string }) {
  const me = useMe();
  const today = dateAt(useNow(), me.zone);
  const show = (from: string, to: string) =>
    address.change({ whose: address.whose, when: null, from, to, in: null });
  return (
    <Empty title="Too many to be read one by one">
      <p className="mb-2">{words}</p>
      <Button look="quiet" onClick={() => show(today, addDays(today, 27))}>
        The next four weeks
      </Button>
      <Button look="quiet" onClick={() => show(addDays(today, -28), addDays(today, -1))}>
        The last four weeks
      </Button>
    </Empty>
  );
}

function Nothing({ address }: { address: LedgerAddress }) {
  const narrow = address.kind || address.site || address.state || address.q || address.from;
  return (
    <Empty title={narrow ? 'No booking matches all of this' : 'Nothing is booked here'}>
      {narrow ? (
        <Button
          look="quiet"
          onClick={() =>
            address.change({ kind: null, site: null, state: null, q: null, from: null, to: null })
          }
        >
          Show {address.whose === 'mine' ? 'all of mine' : 'everybody’s'}
        </Button>
      ) : (
        <>
          Rooms, labs, desks and equipment you book stand here, each with what can be done with it.{' '}
          <a className="font-semibold text-gentian hover:underline" href="/places/board">
            Book one on the board
          </a>
          .
        </>
      )}
    </Empty>
  );
}
