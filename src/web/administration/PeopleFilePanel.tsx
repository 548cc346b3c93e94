import { useMutation } from '@tanstack/react-query';
import { useId, useState } from 'react';
import type { PeopleImported } from '../../contract/administration.ts';
import { MOST_PEOPLE_CHANGED } from '../../contract/limits.ts';
import { counted } from '../../core/counted.ts';
import {
  matchHeadings,
  PEOPLE_FILE_COLUMNS,
  type PeopleFileColumn,
  type PeopleFileRow,
} from '../../core/people/peopleFile.ts';
import {
  callApi,
  Failure,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';

const MOST_BYTES = 1_000_000;
const MOST_NAMED = 12;

interface ReadFile {
  name: string;
  headings: string[];
  /** Cells by line, and on which line of the file each stands, from 1. */
  lines: { cells: string[]; line: number }[];
}

/** A file of people: what it would do, and then does. Nothing is done before that is said. */
export function PeopleFilePanel({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Panel open={open} onClose={onClose} title="People from a file">
      <FromFile onDone={onClose} />
    </Panel>
  );
}

function FromFile({ onDone }: { onDone: () => void }) {
  const id = useId();
  const [file, setFile] = useState<ReadFile | null>(null);
  const [columns, setColumns] = useState<(PeopleFileColumn | null)[]>([]);
  const [welcome, setWelcome] = useState(true);
  const [wrong, setWrong] = useState<string | null>(null);
  const changed = useChanged();
  const refresh = () => changed('directory', 'person');
  const rowsBy = (read: ReadFile, by: readonly (PeopleFileColumn | null)[]): PeopleFileRow[] =>
    read.lines.map(({ cells }) =>
      Object.fromEntries(
        by.flatMap((column, k) =>
          column === null ? [] : [[column, (cells[k] ?? '').slice(0, 500)]],
        ),
      ),
    );
  const look = useMutation({
    mutationFn: (rows: PeopleFileRow[]) =>
      callApi('POST /api/administration/import', { body: { rows, check: true } }),
  });
  const take = useMutation({
    mutationFn: (rows: PeopleFileRow[]) =>
      undoable(
        callApi('POST /api/administration/import', { body: { rows, check: false, welcome } }),
      ),
    onSuccess: ({ addedInAll, changedInAll, changes }) => {
      offerUndo(
        `${counted(addedInAll, 'person', 'people')} added, ${changedInAll} changed.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
      onDone();
    },
    onSettled: refresh,
  });
  const settle = (read: ReadFile, by: (PeopleFileColumn | null)[]) => {
    setColumns(by);
    look.reset();
    if (by.includes('address')) look.mutate(rowsBy(read, by));
  };
  const choose = async (chosen: File | undefined) => {
    setFile(null);
    setWrong(null);
    look.reset();
    take.reset();
    if (!chosen) return;
    const read = await readLines(chosen);
    if (typeof read === 'string') {
      setWrong(read);
      return;
    }
    setFile(read);
    settle(read, matchHeadings(read.headings));
  };
  const found = look.data;
  const count = found ? found.addedInAll + found.changedInAll : 0;
  return (
    <div className="grid gap-3">
      <p className="text-ink-2">
        A table with commas, its first row naming the columns. Whoever is here by their address is
        changed in what it says; others are added. Nobody leaves by being missing in it.
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
          className="cursor-pointer rounded-sm border border-edge bg-sheet px-3 py-1.5 font-semibold peer-focus-visible:outline-2 peer-focus-visible:outline-gentian hover:border-ink-2 max-sm:min-h-11"
        >
          Choose a file
        </label>
        {file && (
          <span className="text-ink-2">
            {file.name}, {counted(file.lines.length, 'line')}
          </span>
        )}
      </p>
      {wrong && (
        <p role="alert" className="font-semibold text-alpenglow">
          {wrong}
        </p>
      )}
      {file && (
        <section aria-label="What the columns say" className="grid gap-1">
          {file.headings.map((heading, k) => (
            <div key={`${heading} ${k}`} className="flex items-center justify-between gap-2">
              <span className="min-w-0 truncate">“{heading || 'without a name'}” is</span>
              <Select<PeopleFileColumn | null>
                look="word"
                question={`What “${heading}” says`}
                value={columns[k] ?? null}
                options={[
                  ...PEOPLE_FILE_COLUMNS.map((value) => ({
                    value: value as PeopleFileColumn | null,
                    words: `the ${value}`,
                  })),
                  { value: null, words: 'left out' },
                ]}
                onChange={(column) =>
                  settle(
                    file,
                    columns.map((one, at) => (at === k ? column : one === column ? null : one)),
                  )
                }
              />
            </div>
          ))}
          {!columns.includes('address') && (
            <p role="alert" className="font-semibold text-alpenglow">
              Say which column is the address: people are known by it.
            </p>
          )}
        </section>
      )}
      {look.isPending && (
        <p role="status">Looking at {counted(file?.lines.length ?? 0, 'line')} …</p>
      )}
      {look.isError && <Failure error={look.error} />}
      {found && file && <Found found={found} file={file} />}
      {take.isError && <Failure error={take.error} />}
      {found && (
        <div className="sticky bottom-0 grid gap-2 border-t border-edge bg-paper py-3">
          {found.addedInAll > 0 && (
            <Tick
              label="Write those who are new a letter of welcome"
              on={welcome}
              onChange={setWelcome}
            />
          )}
          <Button
            look="act"
            disabled={count === 0 || take.isPending}
            onClick={() => file && take.mutate(rowsBy(file, columns))}
          >
            {take.isPending
              ? `Doing it for ${counted(count, 'person', 'people')} …`
              : count === 0
                ? 'Nothing is new in it'
                : `Do it for ${counted(count, 'person', 'people')}`}
          </Button>
          <p className="text-xs text-ink-2">It can be taken back for 30 days.</p>
        </div>
      )}
    </div>
  );
}

const FIELD_WORDS: Record<string, string> = {
  name: 'name',
  jobTitle: 'work',
  siteId: 'site',
  zone: 'zone',
  role: 'role',
  teams: 'teams',
};

function Found({ found, file }: { found: PeopleImported; file: ReadFile }) {
  const { added, addedInAll, changed, changedInAll, fields, same, problems } = found;
  const byField = Object.entries(fields)
    .map(([path, number]) => `${FIELD_WORDS[path] ?? path} ${number}`)
    .join(', ');
  const wrongRows = [...new Set(problems.map((one) => one.row))];
  return (
    <div className="grid gap-3">
      <p role="status">
        <b>Nothing is done yet.</b> {counted(same, 'line')} {same === 1 ? 'says' : 'say'} nothing
        new.
      </p>
      {addedInAll > 0 && (
        <details open={addedInAll <= MOST_NAMED}>
          <summary className="cursor-pointer text-[15px] font-semibold">{addedInAll} new</summary>
          <ul>
            {added.slice(0, MOST_NAMED).map((one) => (
              <li key={one.email} className="flex justify-between gap-3 py-0.5">
                <b>{one.name}</b>
                <span className="truncate text-ink-2">{one.site ?? one.email}</span>
              </li>
            ))}
          </ul>
          {addedInAll > MOST_NAMED && <p className="text-ink-2">{addedInAll - MOST_NAMED} more</p>}
        </details>
      )}
      {changedInAll > 0 && (
        <details open>
          <summary className="cursor-pointer text-[15px] font-semibold">
            {changedInAll} changed <span className="text-xs font-normal text-ink-2">{byField}</span>
          </summary>
          <ul>
            {changed.slice(0, MOST_NAMED).map((one) => (
              <li
                key={one.id}
                className="grid grid-cols-[minmax(0,8rem)_minmax(0,1fr)] gap-2 py-0.5"
              >
                <b>{one.name}</b>
                <span>{one.what.join('; ')}</span>
              </li>
            ))}
          </ul>
          {changedInAll > MOST_NAMED && (
            <p className="text-ink-2">{changedInAll - MOST_NAMED} more</p>
          )}
        </details>
      )}
      {wrongRows.length > 0 && (
        <div className="rounded-sm bg-glow-wash px-3 py-2">
          <p className="flex flex-wrap items-baseline justify-between gap-2">
            <b className="text-alpenglow">{counted(wrongRows.length, 'line')} cannot be read</b>
            <span className="text-xs text-ink-2">left out unless mended</span>
          </p>
          <ul>
            {problems.slice(0, MOST_NAMED).map((one) => (
              <li key={`${one.row} ${one.field}`}>
                Line {file.lines[one.row - 1]?.line}, {one.field}: {one.message}
                {one.mend && (
                  <>
                    ; <b>{one.mend}?</b>
                  </>
                )}
              </li>
            ))}
          </ul>
          {problems.length > MOST_NAMED && <p>and {problems.length - MOST_NAMED} more</p>}
          <Button className="mt-2" onClick={() => void saveUnread(file, problems)}>
            These lines as a file, to be mended
          </Button>
        </div>
      )}
    </div>
  );
}

/** Writes out the lines that cannot be read, each with why, as a file of the same columns. */
async function saveUnread(file: ReadFile, problems: PeopleImported['problems']): Promise<void> {
  const { default: papa } = await import('papaparse');
  const rows = [...new Set(problems.map((one) => one.row))];
  const text = papa.unparse(
    [
      [...file.headings, 'what is wrong'],
      ...rows.map((row) => [
        ...(file.lines[row - 1]?.cells ?? []),
        problems
          .filter((one) => one.row === row)
          .map((one) => `${one.field} ${one.message}`)
          .join('; '),
      ]),
    ],
    { escapeFormulae: true },
  );
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'text/csv' }));
  link.download = `mend-${file.name}`;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** The lines of a file, or what is wrong with it in a sentence. */
async function readLines(file: File): Promise<ReadFile | string> {
  if (file.size > MOST_BYTES) return 'The file may be at most 1 MB.';
  const { default: papa } = await import('papaparse');
  const { data } = papa.parse<string[]>(await file.text());
  const isBlank = (cells: readonly string[]) => cells.every((cell) => cell.trim() === '');
  const first = data.findIndex((cells) => !isBlank(cells));
  if (first < 0) return 'There is nothing in it.';
  const lines = data.flatMap((cells, k) =>
    k <= first || isBlank(cells) ? [] : [{ cells, line: k + 1 }],
  );
  if (lines.length === 0) return 'There is no line below its first.';
  if (lines.length > MOST_PEOPLE_CHANGED)
    return `It may have at most ${MOST_PEOPLE_CHANGED} lines.`;
  return { name: file.name, headings: data[first]!.map((heading) => heading.trim()), lines };
}
