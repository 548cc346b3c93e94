import { useDeferredValue, useState } from 'react';
import type { PeopleColumn, Role, StaffMember, Standing } from '../../contract/administration.ts';
import { formatDay, formatOffset, zoneCity } from '../../core/time/format.ts';
import { listNames } from '../../core/planner/words.ts';
import { addDays, dateAt } from '../../core/time/wall.ts';
import { errorText, Failure, takeFile, useAddressQuery, useMe, useNow } from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { Button, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { Tick } from '../design/ticks.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { AddPeoplePanel } from './AddPeoplePanel.tsx';
import { PeopleFilePanel } from './PeopleFilePanel.tsx';
import { wordsOf } from './ReachFields.tsx';
import { ManyBar } from './ManyBar.tsx';
import { StaffPanel } from './StaffPanel.tsx';
import { useSites, useStaff } from './useAdministration.ts';

const STANDINGS: [Standing, string][] = [
  ['present', 'Present'],
  ['waiting', 'Never signed in'],
  ['left', 'Have left'],
];
const COLUMNS: [PeopleColumn | null, string][] = [
  ['name', 'Name'],
  ['email', 'Address'],
  [null, 'Teams'],
  ['site', 'Site'],
  ['zone', 'Zone'],
  ['role', 'Role'],
  ['seen', 'Last seen'],
];
const GRID =
  'grid grid-cols-[1.75rem_minmax(0,1fr)] items-center gap-x-3 lg:grid-cols-[1.75rem_minmax(0,1.3fr)_minmax(0,1.7fr)_minmax(0,1.1fr)_minmax(0,1.1fr)_minmax(0,0.9fr)_minmax(0,0.95fr)_minmax(0,0.9fr)]';

/** Who is here, and what may they do? */
export function AdministrationView() {
  return (
    <AdminFrame>
      <People />
    </AdminFrame>
  );
}

function People() {
  const [params, setParams] = useAddressQuery();
  const [text, setText] = useState(params.get('q') ?? '');
  const q = useDeferredValue(text.trim());
  const standing = (params.get('standing') ?? 'present') as Standing;
  const site = Number(params.get('site')) || undefined;
  const role = (params.get('role') ?? undefined) as Role | undefined;
  const sort = (params.get('sort') ?? 'name') as PeopleColumn;
  const order = params.get('order') === 'down' ? 'down' : 'up';
  const { query, first, rows, more } = useStaff({
    ...{ q, standing, sort, order },
    ...(site && { site }),
    ...(role && { role }),
  });
  const sites = useSites();
  const [chosen, setChosen] = useState<ReadonlyMap<number, StaffMember>>(new Map());
  const [panel, setPanel] = useState<'add' | 'file' | null>(null);
  const openId = Number(params.get('open')) || null;
  const opened = rows.find((one) => one.id === openId);
  const put = (given: Record<string, string | null>) =>
    setParams((before) => {
      const after = new URLSearchParams(before);
      for (const [name, value] of Object.entries(given))
        if (value === null) after.delete(name);
        else after.set(name, value);
      return after;
    });
  const toggle = (person: StaffMember) => {
    const after = new Map(chosen);
    if (!after.delete(person.id)) after.set(person.id, person);
    setChosen(after);
  };
  // As they are by now: whoever is changed meanwhile is not changed as they were.
  const present = [...chosen.keys()].flatMap((id) => rows.find((one) => one.id === id) ?? []);
  return (
    <div className="px-4 py-3 md:px-6">
      <div className="mb-2 flex flex-wrap gap-2" role="group" aria-label="Which people">
        {STANDINGS.map(([value, words]) => (
          <button
            key={value}
            type="button"
            aria-pressed={standing === value}
            className={`rounded-full border px-3.5 py-1 max-sm:min-h-11 ${standing === value ? 'border-ink bg-ink text-paper' : 'border-edge bg-sheet hover:border-ink-2'}`}
            onClick={() => {
              setChosen(new Map());
              put({ standing: value === 'present' ? null : value, open: null });
            }}
          >
            {words}
            {first?.counts && `, ${first.counts[value] ?? 0}`}
          </button>
        ))}
      </div>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
        <p className="font-head text-[17px]">
          <Select
            look="word"
            question="Role"
            value={role ?? null}
            options={[{ value: null, words: 'Everybody' }, ...ROLES]}
            onChange={(value) => put({ role: value })}
          />{' '}
          at{' '}
          <Select
            look="word"
            question="Site"
            value={site ?? null}
            options={[
              { value: null, words: 'every site' },
              ...(sites.data?.sites ?? []).map(({ id, name: words }) => ({
                value: id as number | null,
                words,
              })),
            ]}
            onChange={(value) => put({ site: value === null ? null : String(value) })}
          />
        </p>
        <div className="flex flex-wrap items-center gap-2">
          <TextInput
            type="search"
            aria-label="Name, address, work or team"
            placeholder="Name, address, work or team"
            className="w-60"
            maxLength={100}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button onClick={() => setPanel('add')}>Add people</Button>
          <Button onClick={() => setPanel('file')}>From a file</Button>
          <Button
            look="quiet"
            onClick={() =>
              void takeFile('GET /api/administration/people.csv').catch((error: unknown) =>
                tellUser(errorText(error)),
              )
            }
          >
            As CSV
          </Button>
        </div>
      </div>
      {present.length > 0 && sites.data && (
        <ManyBar
          people={present}
          sites={sites.data.sites}
          teams={sites.data.teams}
          onDone={() => setChosen(new Map())}
        />
      )}
      {query.isPending && <Outline what="people" rows={10} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {first?.total === 0 && (
        <Empty title={q ? `Nobody matches “${q}”` : 'Nobody stands here'}>
          {standing === 'left'
            ? 'Whose access ended is found here, and let in again.'
            : standing === 'waiting'
              ? 'Everybody who was invited has come.'
              : 'Add people by their addresses, as you have them.'}
        </Empty>
      )}
      {first && first.total > 0 && (
        <>
          <div
            className={`${GRID} border-b border-ink-2 py-1.5 text-xs font-semibold max-lg:hidden`}
          >
            <Box
              label="All that are listed"
              on={present.length === rows.length}
              onChange={(on) =>
                setChosen(on ? new Map(rows.map((one) => [one.id, one])) : new Map())
              }
            />
            {COLUMNS.map(([column, words]) =>
              column === null ? (
                <span key={words}>{words}</span>
              ) : (
                <button
                  key={words}
                  type="button"
                  className="reach text-left font-semibold hover:underline"
                  onClick={() =>
                    put({
                      sort: column === 'name' ? null : column,
                      order: sort === column && order === 'up' ? 'down' : null,
                    })
                  }
                >
                  {words}
                  {sort === column && (
                    <span aria-hidden="true">{order === 'up' ? ' ↑' : ' ↓'}</span>
                  )}
                  {sort === column && (
                    <span className="sr-only">
                      , sorted {order === 'up' ? 'upwards' : 'downwards'}
                    </span>
                  )}
                </button>
              ),
            )}
          </div>
          <VirtualRows
            label="People"
            rows={rows}
            keyOf={(one) => one.id}
            total={first.total}
            rowPx={[34, 68]}
            onNeedMore={more}
          >
            {(person) => (
              <PersonRow
                person={person}
                isOn={chosen.has(person.id)}
                isOpen={person.id === openId}
                onToggle={() => toggle(person)}
                onOpen={() => put({ open: String(person.id) })}
              />
            )}
          </VirtualRows>
        </>
      )}
      {opened && sites.data && (
        <StaffPanel
          key={opened.id}
          person={opened}
          sites={sites.data.sites}
          teams={sites.data.teams}
          onClose={() => put({ open: null })}
        />
      )}
      <AddPeoplePanel
        open={panel === 'add'}
        sites={sites.data?.sites ?? []}
        onClose={() => setPanel(null)}
      />
      <PeopleFilePanel open={panel === 'file'} onClose={() => setPanel(null)} />
    </div>
  );
}

const ROLES: { value: Role | null; words: string }[] = [
  { value: 'staff', words: 'Staff' },
  { value: 'steward', words: 'Stewards' },
  { value: 'administrator', words: 'Administrators' },
];

/** What somebody may, shortly: `steward of 3`, `staff, coordinates 1`. */
const roleInWords = ({ role, reach, coordinates }: StaffMember): string =>
  [
    role === 'steward' && reach.length === 1
      ? `steward of ${wordsOf(reach[0]!)}`
      : role === 'steward' && reach.length > 1
        ? `steward of ${reach.length} things`
        : role,
    coordinates.length > 0 &&
      `coordinates ${listNames(
        coordinates.map(({ name }) => name),
        2,
      )}`,
  ]
    .filter(Boolean)
    .join(', ');

/** A box to choose somebody; its label is only said. */
const Box = ({
  label,
  ...rest
}: {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}) => <Tick label={<span className="sr-only">{label}</span>} {...rest} />;

function PersonRow({
  person,
  isOn,
  isOpen,
  onToggle,
  onOpen,
}: {
  person: StaffMember;
  isOn: boolean;
  isOpen: boolean;
  onToggle: () => void;
  onOpen: () => void;
}) {
  const me = useMe();
  const now = useNow();
  const { name, email, teams, site, zone, seenAt, letter } = person;
  const teamWords = teams.map((team) => team.name).join(', ');
  const seen =
    seenAt !== null
      ? dayWords(seenAt, now, me.zone)
      : letter === 'failed'
        ? 'letter came back'
        : letter === 'waiting'
          ? 'letter waits'
          : letter === 'sent'
            ? 'letter sent'
            : 'never';
  return (
    <div
      className={`${GRID} min-h-[34px] border-b border-edge py-1 ${isOpen ? 'bg-gentian-wash' : ''}`}
    >
      <Box label={`Choose ${name}`} on={isOn} onChange={onToggle} />
      <span className="min-w-0 truncate">
        <button
          type="button"
          className="reach font-semibold hover:underline"
          aria-haspopup="dialog"
          onClick={onOpen}
        >
          {name}
        </button>
      </span>
      <span className="min-w-0 truncate text-ink-2 max-lg:col-start-2" title={email}>
        {email}
      </span>
      <span className="min-w-0 truncate max-lg:hidden" title={teamWords}>
        {teamWords}
      </span>
      <span className="min-w-0 truncate max-lg:hidden">{site?.name ?? 'none'}</span>
      <span className="min-w-0 truncate max-lg:hidden">
        {me.zoneNames[zone] ?? zoneCity(zone)} {formatOffset(now, zone).replace('UTC', '')}
      </span>
      <span className="truncate max-lg:hidden" title={roleInWords(person)}>
        {roleInWords(person)}
      </span>
      <span
        className={`min-w-0 truncate max-lg:col-start-2 ${letter === 'failed' && seenAt === null ? 'font-semibold text-alpenglow' : 'text-ink-2'}`}
      >
        {seen}
      </span>
    </div>
  );
}

/** A day that is past, as near as it is: today, yesterday, or its date. */
function dayWords(instant: number, now: number, zone: string): string {
  const [day, today] = [dateAt(instant, zone), dateAt(now, zone)];
  if (day === today) return 'today';
  return day === addDays(today, -1) ? 'yesterday' : formatDay(instant, zone);
}
