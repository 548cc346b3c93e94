import { useEffect, useRef, useState } from 'react';
import type { PeopleRead, SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { addressKey } from '../../core/mailAddress.ts';
import { zoneCity } from '../../core/time/format.ts';
import { errorText } from '../client/index.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { usePhone } from '../design/usePhone.ts';
import { useRead } from './useAdministration.ts';

export type Understood = PeopleRead['people'][number];
/** What somebody changed of what was understood, by the address it is of. */
type Changes = Record<string, Partial<Pick<Understood, 'name' | 'siteId' | 'zone'>>>;
type Doubt = PeopleRead['doubts'][number];

const LINE_PX = 24;

/** People as they are pasted, what is understood of them beside it, and what is doubtful below. */
export function PastedPeople({
  text,
  onText,
  sites,
  changes,
  onChanges,
  onPeople,
  onLooked,
  isNarrow = false,
}: {
  text: string;
  onText: (text: string) => void;
  sites: readonly SiteDetail[];
  changes: Changes;
  onChanges: (changes: Changes) => void;
  /** Who would be added by now; none while it is read. */
  onPeople: (people: Understood[]) => void;
  /** Whom somebody looks at. */
  onLooked?: (person: Understood) => void;
  /** Whether there is no room for both beside each other. */
  isNarrow?: boolean;
}) {
  const { read, isBehind, isError, error, refetch, isFetching } = useRead(text, sites[0]?.id);
  const [line, setLine] = useState<number | null>(null);
  const people = (read?.people ?? []).map((one) => ({ ...one, ...changes[addressKey(one.email)] }));
  const fresh = people.filter(({ here }) => here === null || here === 'left');
  const addable = people.filter(({ here }) => here === null);
  const settled = isBehind ? '' : JSON.stringify(addable);
  const give = useRef(onPeople);
  give.current = onPeople;
  useEffect(() => give.current(settled ? (JSON.parse(settled) as Understood[]) : []), [settled]);
  const doubts = (read?.doubts ?? []).filter(() => !isBehind);
  const change = (email: string, part: Changes[string]) =>
    onChanges({ ...changes, [addressKey(email)]: { ...changes[addressKey(email)], ...part } });
  const replace = (doubt: Doubt, by: string) => {
    const lines = text.split(/\r\n|\n|\r/);
    const whole = lines[doubt.line - 1] ?? '';
    lines[doubt.line - 1] = `${whole.slice(0, doubt.from)}${by}${whole.slice(doubt.to)}`;
    onText(lines.join('\n'));
  };
  return (
    <div className="grid gap-4">
      <div
        className={`grid gap-4 ${isNarrow ? '' : 'lg:grid-cols-[minmax(0,17rem)_minmax(0,1fr)]'}`}
      >
        <div className="min-w-0">
          <div className="mb-1 flex items-baseline justify-between">
            <label htmlFor="pasted" className="font-semibold">
              What you pasted
            </label>
            <span className="text-xs text-ink-2">
              {text.trim() ? counted(text.split('\n').length, 'line') : ''}
            </span>
          </div>
          <Numbered
            isNarrow={isNarrow}
            text={text}
            onText={onText}
            doubtful={new Set(doubts.map((one) => one.line))}
            line={line}
            onLine={setLine}
          />
        </div>
        <section aria-label="What was understood" className="min-w-0">
          <div className="mb-1 flex items-baseline justify-between gap-3">
            <h3 className="font-text text-[13.5px] font-semibold">What was understood</h3>
            <span role="status" className="text-xs text-ink-2">
              {isBehind || isFetching ? (
                'reading…'
              ) : read ? (
                <>
                  <b className="text-ink">{counted(fresh.length, 'person', 'people')}</b>
                  {fresh.length === people.length
                    ? ', all new'
                    : `, ${people.length - fresh.length} here already`}
                </>
              ) : (
                ''
              )}
            </span>
          </div>
          {isError && (
            <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2">
              {errorText(error)}{' '}
              <Button look="quiet" onClick={() => void refetch()}>
                Read again
              </Button>
            </p>
          )}
          {people.length > 0 ? (
            <div
              className="max-h-[420px] overflow-auto border-y border-edge"
              tabIndex={0}
              role="region"
              aria-label="People understood"
            >
              <table className="w-full border-collapse text-[13px]">
                <thead className="sticky top-0 bg-paper text-left text-xs">
                  <tr>
                    {['Name', 'Address', 'Site', 'Zone'].map((column) => (
                      <th key={column} scope="col" className="px-1 py-1.5 font-semibold">
                        {column}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {people.map((one) => (
                    <PersonLine
                      key={addressKey(one.email)}
                      person={one}
                      sites={sites}
                      isChanged={changes[addressKey(one.email)] !== undefined}
                      isMeant={one.line === line}
                      onMeant={() => {
                        setLine(one.line);
                        onLooked?.(one);
                      }}
                      onChange={(part) => change(one.email, part)}
                    />
                  ))}
                </tbody>
              </table>
            </div>
          ) : (
            <p className="border-y border-edge py-3 text-ink-2">
              {text.trim()
                ? 'Nobody is named yet.'
                : 'Each address becomes a line here, with the name, the site and the zone of whoever has it.'}
            </p>
          )}
          {(people.some((one) => one.isNameGuessed) || (read?.nobody.length ?? 0) > 0) && (
            <p className="mt-1.5 text-xs text-ink-2">
              Names that are dotted are guessed; press one to change it.{' '}
              {nobodyWords(read?.nobody ?? [])}
            </p>
          )}
        </section>
      </div>
      {doubts.slice(0, MOST_DOUBTS).map((doubt) => (
        <div
          key={`${doubt.line}-${doubt.from}`}
          role="group"
          aria-label={`Line ${doubt.line} is doubtful`}
          className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-sm border border-dashed border-alpenglow px-3 py-1.5"
        >
          <p className="min-w-0 flex-1 basis-60">
            <b className="text-alpenglow">Line {doubt.line} is doubtful.</b> {doubt.why}{' '}
            {doubt.mend && <b>{doubt.mend.email}?</b>}
          </p>
          {doubt.mend && <Button onClick={() => replace(doubt, doubt.mend!.email)}>Take it</Button>}
          <Button look="quiet" onClick={() => replace(doubt, '')}>
            Leave out
          </Button>
        </div>
      ))}
      {doubts.length > MOST_DOUBTS && (
        <p className="text-ink-2">{doubts.length - MOST_DOUBTS} more lines are doubtful.</p>
      )}
    </div>
  );
}
/** Doubtful lines that are named at once; the next come as these are settled. */
const MOST_DOUBTS = 5;

const nobodyWords = (lines: readonly number[]): string =>
  lines.length === 0
    ? ''
    : lines.length <= 3
      ? `${lines.length === 1 ? 'Line' : 'Lines'} ${lines.join(', ')} ${lines.length === 1 ? 'names' : 'name'} nobody.`
      : `${lines.length} lines name nobody.`;

/** A text with its lines numbered; those in doubt stand out, and the one that is meant. */
function Numbered({
  isNarrow,
  text,
  onText,
  doubtful,
  line,
  onLine,
}: {
  isNarrow: boolean;
  text: string;
  onText: (text: string) => void;
  doubtful: ReadonlySet<number>;
  line: number | null;
  onLine: (line: number | null) => void;
}) {
  const isPhone = usePhone();
  const [top, setTop] = useState(0);
  const first = Math.max(0, Math.floor(top / LINE_PX) - 1);
  const count = text.split('\n').length;
  const shown = Array.from({ length: Math.min(22, count - first) }, (_, k) => first + k + 1);
  return (
    <div className="relative overflow-hidden rounded-sm border border-ink-2 bg-sheet focus-within:outline-2 focus-within:outline-gentian">
      <div aria-hidden="true" className="pointer-events-none absolute inset-0 font-mono text-xs">
        {shown.map((number) => (
          <div
            key={number}
            className={`absolute right-0 left-0 ${doubtful.has(number) ? 'bg-glow-wash' : number === line ? 'bg-gentian-wash' : ''}`}
            style={{
              top: (number - 1) * LINE_PX + 8 - top,
              height: LINE_PX,
              lineHeight: `${LINE_PX}px`,
            }}
          >
            <span className="inline-block w-8 pr-1 text-right text-ink-2">{number}</span>
          </div>
        ))}
      </div>
      <textarea
        id="pasted"
        wrap="off"
        spellCheck={false}
        rows={isNarrow || isPhone ? 6 : 16}
        value={text}
        maxLength={200_000}
        placeholder={'Kofi Mensah <kofi@harbour.example>\nana@harbour.example'}
        onChange={(event) => onText(event.target.value)}
        onScroll={(event) => setTop(event.currentTarget.scrollTop)}
        onSelect={(event) => {
          const { selectionStart, value } = event.currentTarget;
          onLine(value.slice(0, selectionStart).split('\n').length);
        }}
        className="relative block w-full resize-y bg-transparent py-2 pr-2 font-mono text-xs outline-none max-sm:text-base"
        style={{ lineHeight: `${LINE_PX}px`, paddingLeft: 40 }}
      />
    </div>
  );
}

const HERE: Record<NonNullable<Understood['here']>, string> = {
  present: 'is here already',
  left: 'left; let them in again under Have left',
  elsewhere: 'is of a partner',
};

/** Somebody who was understood; what is guessed can be changed where it stands. */
function PersonLine({
  person,
  sites,
  isChanged,
  isMeant,
  onMeant,
  onChange,
}: {
  person: Understood;
  sites: readonly SiteDetail[];
  isChanged: boolean;
  isMeant: boolean;
  onMeant: () => void;
  onChange: (part: Changes[string]) => void;
}) {
  const [isOpen, setIsOpen] = useState(false);
  const { name, email, here, isNameGuessed, isPlaceGuessed } = person;
  const site = sites.find(({ id }) => id === person.siteId);
  const guessed = 'font-semibold text-gentian underline decoration-dotted underline-offset-2';
  return (
    <tr
      className={`border-t border-edge ${isMeant ? 'bg-gentian-wash' : ''} ${here ? 'text-ink-2' : ''}`}
      onMouseEnter={onMeant}
      onFocus={onMeant}
    >
      <td className="px-1 py-1">
        {isOpen ? (
          <TextInput
            autoFocus
            aria-label={`Name of ${email}`}
            className="w-full min-w-32 !py-0.5"
            maxLength={120}
            defaultValue={name}
            onBlur={(event) => {
              setIsOpen(false);
              const said = event.target.value.trim();
              if (said && said !== name) onChange({ name: said });
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
              if (event.key === 'Escape') {
                event.stopPropagation();
                setIsOpen(false);
              }
            }}
          />
        ) : (
          <button
            type="button"
            aria-label={`${name}, change the name`}
            className={`reach text-left ${isNameGuessed && !isChanged ? guessed : 'font-semibold'}`}
            onClick={() => setIsOpen(true)}
          >
            {name}
          </button>
        )}
      </td>
      <td className="px-1 py-1 text-xs [overflow-wrap:anywhere] text-ink-2">{email}</td>
      {here ? (
        <td colSpan={2} className="px-1 py-1">
          {HERE[here]}
        </td>
      ) : (
        <>
          <td className="px-1 py-1">
            <Select
              look="word"
              question={`Site of ${name}`}
              value={person.siteId}
              options={[
                ...sites.map(({ id, name: words }) => ({ value: id as number | null, words })),
                { value: null, words: 'none' },
              ]}
              onChange={(siteId) =>
                onChange({
                  siteId,
                  zone: sites.find(({ id }) => id === siteId)?.zone ?? person.zone,
                })
              }
            />
          </td>
          <td className={`px-1 py-1 ${isPlaceGuessed && !isChanged ? guessed : ''}`}>
            {site?.zone === person.zone ? site.city : zoneCity(person.zone)}
          </td>
        </>
      )}
    </tr>
  );
}

export type { Changes as PastedChanges };
