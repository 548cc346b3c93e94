import { RESOURCE_KINDS } from '../../contract/resourceKind.ts';
import { Fragment, useId, useState } from 'react';
import { type ImportResponse } from '../../contract/catalogue.ts';
import { MOST_ROWS_OF_PLACES } from '../../contract/limits.ts';

import { counted } from '../../core/counted.ts';
import { formatSpan } from '../../core/time/format.ts';
import { errorText, Failure, takeFile, useMe } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { Button } from '../design/controls.tsx';
import { useImport } from './useCatalogue.ts';

const MOST_BYTES = 1_000_000;
const MOST_PROBLEMS = 20;
/** The columns that a file may have, with what stands in them. */
const COLUMNS: [column: string, cell: string][] = [
  ['name', 'Gannet'],
  ['kind', RESOURCE_KINDS.join(', ')],
  ['site', 'the name of a site'],
  ['floor', '2'],
  ['seats', '12'],
  ['units', '1'],
  ['features', 'screen; video'],
  ['description', 'By the lift'],
  ['minutes before', '15'],
  ['minutes after', '15'],
  ['open', 'Mon–Fri 08:00–18:00; Sat 9–12'],
  ['shortest minutes', '30'],
  ['longest minutes', '240'],
  ['step minutes', '15'],
  ['notice minutes', '60'],
  ['days ahead', '90'],
  ['teams', 'names of teams; with semicolons'],
  ['minutes a week', '600'],
  ['approval', 'yes, no'],
  ['grace minutes', '10'],
  ['price an hour', '600 NOK'],
  ['whose', 'an address, or none'],
  ['retired', 'yes, no'],
];

type Row = Record<string, string>;

/** Reads a file of places, says what it would do, and then does it. */
export function PlacesFile({ onDone }: { onDone: () => void }) {
  const id = useId();
  const [{ rows, lines }, setRead] = useState<ReadFile>({ rows: [], lines: [] });
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const look = useImport();
  const take = useImport();
  const choose = async (file: File | undefined) => {
    look.reset();
    take.reset();
    setRead({ rows: [], lines: [] });
    setWrong(null);
    setName(file?.name ?? '');
    if (!file) return;
    if (file.size > MOST_BYTES) {
      setWrong('The file may be at most 1 MB.');
      return;
    }
    const read = await readRows(file);
    if (typeof read === 'string') {
      setWrong(read);
      return;
    }
    setRead(read);
    look.mutate({ rows: read.rows, check: true });
  };
  const found = look.data;
  const count = found ? found.added + found.changed + found.returned + found.retired : 0;
  return (
    <div className="grid gap-3">
      <p>
        A table with commas, its first row naming the columns. A place that is there by its site and
        name is changed, others are added. What a cell leaves empty stays as it is; “none” lifts a
        rule.
      </p>
      <details>
        <summary className="cursor-pointer font-semibold text-gentian">
          The columns, of which name and site are needed
        </summary>
        <dl className="mt-2 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-0.5 text-[13px]">
          {COLUMNS.map(([column, cell]) => (
            <Fragment key={column}>
              <dt className="font-semibold">{column}</dt>
              <dd className="text-ink-2">{cell}</dd>
            </Fragment>
          ))}
        </dl>
      </details>
      <p className="flex flex-wrap items-center gap-3">
        <input
          id={id}
          type="file"
          accept=".csv,text/csv"
          className="peer sr-only"
          onChange={(event) => void choose(event.target.files?.[0])}
        />
        <label
          htmlFor={id}
          className="cursor-pointer rounded-sm border border-edge bg-sheet px-3 py-1.5 font-semibold peer-focus-visible:outline-2 peer-focus-visible:outline-gentian hover:border-ink-2"
        >
          Choose a file
        </label>
        <span className="text-ink-2">{name}</span>
        <Button
          onClick={() =>
            void takeFile('GET /api/catalogue/places.csv').catch((error: unknown) =>
              tellUser(errorText(error)),
            )
          }
        >
          All there are, as a file
        </Button>
      </p>
      {wrong && (
        <p role="alert" className="font-semibold text-alpenglow">
          {wrong}
        </p>
      )}
      {look.isPending && <p role="status">Looking at {counted(rows.length, 'row')} …</p>}
      {look.isError && <Failure error={look.error} />}
      {found && <Found found={found} lines={lines} />}
      {take.isError && <Failure error={take.error} />}
      {found && found.problems.length === 0 && (
        <p>
          <Button
            look="act"
            disabled={count === 0 || take.isPending}
            onClick={() => take.mutate({ rows, check: false }, { onSuccess: onDone })}
          >
            {count === 0 ? 'Nothing is new in it' : `Take ${counted(count, 'place')} from it`}
          </Button>
        </p>
      )}
    </div>
  );
}

function Found({ found, lines }: { found: ImportResponse; lines: readonly number[] }) {
  const { added, changed, returned, retired, same, problems, against } = found;
  if (problems.length === 0) {
    return (
      <>
        <p role="status">
          {added} to be added, {changed} to be changed,{' '}
          {returned > 0 && `${returned} to be brought back, `}
          {retired > 0 && `${retired} to be retired, `}
          {same} as they are.
        </p>
        {against.length > 0 && <Against against={against} />}
      </>
    );
  }
  return (
    <div role="alert" className="rounded-sm bg-glow-wash px-3 py-2">
      <p className="font-semibold">
        {counted(problems.length, 'thing')} {problems.length === 1 ? 'is' : 'are'} wrong. Nothing is
        taken until the file is right.
      </p>
      <ul>
        {problems.slice(0, MOST_PROBLEMS).map((one) => (
          <li key={`${one.row} ${one.field}`}>
            {one.row === 0 ? 'The heading' : `Line ${lines[one.row - 1] ?? one.row + 1}`},{' '}
            {one.field}: {one.message}
          </li>
        ))}
      </ul>
      {problems.length > MOST_PROBLEMS && <p>and {problems.length - MOST_PROBLEMS} more</p>}
    </div>
  );
}

/** Bookings that would not be made so any more; they stay. */
function Against({ against }: { against: ImportResponse['against'] }) {
  const me = useMe();
  return (
    <section aria-label="What stands against the new rules">
      <p className="font-semibold">
        Some bookings stand against the new rules. They stay as they are.
      </p>
      <ul className="mt-1 grid gap-2">
        {against.slice(0, MOST_PROBLEMS).map(({ name, site, total, first }) => (
          <li key={`${site} ${name}`}>
            <span className="font-semibold">
              {name}, {site}: {counted(total, 'booking')}
            </span>
            <span className="block text-ink-2">
              first {formatSpan(first, me.zone, me.clock)}, {first.holder}: it{' '}
              {first.broken.join(' and ')}
            </span>
          </li>
        ))}
      </ul>
      {against.length > MOST_PROBLEMS && <p>and {against.length - MOST_PROBLEMS} more places</p>}
    </section>
  );
}

/** A file's rows, and on which line of it each of them stands: from 1, the heading's. */
interface ReadFile {
  rows: Row[];
  lines: number[];
}

/** The rows of a file by the names of its columns, or what is wrong with it in a sentence. */
async function readRows(file: File): Promise<ReadFile | string> {
  const { default: papa } = await import('papaparse');
  const { data } = papa.parse<string[]>(await file.text());
  const isBlank = (cells: readonly string[]) => cells.every((cell) => cell.trim() === '');
  const first = data.findIndex((cells) => !isBlank(cells));
  if (first < 0) return 'There is nothing in it.';
  const columns = data[first]!.map((name) => name.trim().toLowerCase());
  const read: ReadFile = { rows: [], lines: [] };
  for (const [k, cells] of data.entries()) {
    if (k <= first || isBlank(cells)) continue;
    if (cells.length !== columns.length)
      return `Line ${k + 1} has ${counted(cells.length, 'cell')} where the heading has ${columns.length}.`;
    read.rows.push(Object.fromEntries(columns.map((column, at) => [column, cells[at]!])));
    read.lines.push(k + 1);
  }
  if (read.rows.length === 0) return 'There is no row in it.';
  return read.rows.length > MOST_ROWS_OF_PLACES
    ? `It may have at most ${MOST_ROWS_OF_PLACES} rows.`
    : read;
}
