import { useId, useState } from 'react';
import { MOST_ROWS, type ImportResponse } from '../../contract/catalogue.ts';
import { counted } from '../../core/counted.ts';
import { Failure } from '../app/index.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { useImport } from './useCatalogue.ts';

const MOST_BYTES = 1_000_000;
const MOST_PROBLEMS = 20;
const COLUMNS =
  'name, kind, site, floor, seats, units, features, description, minutes before, minutes after';

type Row = Record<string, string>;

/** Reads a file of places, says what it would do, and then does it. */
export function PlacesFile({ onDone }: { onDone: () => void }) {
  const id = useId();
  const [rows, setRows] = useState<Row[]>([]);
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const look = useImport();
  const take = useImport();
  const choose = async (file: File | undefined) => {
    look.reset();
    take.reset();
    setRows([]);
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
    setRows(read);
    look.mutate({ rows: read, check: true });
  };
  const found = look.data;
  const count = (found?.added ?? 0) + (found?.changed ?? 0);
  return (
    <div className="grid gap-3">
      <p>
        A table with commas, its first row naming the columns: {COLUMNS}. Features stand with a
        semicolon between them. A place that is there by its site and name is changed, others are
        added.
      </p>
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
      </p>
      {wrong && (
        <p role="alert" className="font-semibold text-alpenglow">
          {wrong}
        </p>
      )}
      {look.isPending && <p role="status">Looking at {counted(rows.length, 'row')} …</p>}
      {look.isError && <Failure error={look.error} />}
      {found && <Found found={found} />}
      {take.isError && <Failure error={take.error} />}
      {found && found.problems.length === 0 && (
        <p>
          <Button
            look="act"
            disabled={count === 0 || take.isPending}
            onClick={() =>
              take.mutate(
                { rows, check: false },
                {
                  onSuccess: ({ added, changed }) => {
                    tellUser(`${counted(added, 'place')} added, ${changed} changed.`);
                    onDone();
                  },
                },
              )
            }
          >
            {count === 0 ? 'Nothing is new in it' : `Take ${counted(count, 'place')} from it`}
          </Button>
        </p>
      )}
    </div>
  );
}

function Found({ found: { added, changed, same, problems } }: { found: ImportResponse }) {
  if (problems.length === 0) {
    return (
      <p role="status">
        {added} to be added, {changed} to be changed, {same} as they are.
      </p>
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
            Row {one.row}, {one.field} {one.message}
          </li>
        ))}
      </ul>
      {problems.length > MOST_PROBLEMS && <p>and {problems.length - MOST_PROBLEMS} more</p>}
    </div>
  );
}

/** The rows of a file by the names of its columns, or what is wrong with it in a sentence. */
async function readRows(file: File): Promise<Row[] | string> {
  const { default: papa } = await import('papaparse');
  const { data, errors } = papa.parse<Row>(await file.text(), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  const broken = errors.find((one) => one.type !== 'Delimiter');
  if (broken)
    return `Row ${(broken.row ?? 0) + 1} cannot be read: it has more or fewer cells than there are columns.`;
  if (data.length === 0) return 'There is no row in it.';
  return data.length > MOST_ROWS ? `It may have at most ${MOST_ROWS} rows.` : data;
}
