import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Directory, Person } from '../../contract/people.ts';
import { formatTime } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { Failure, readApi, useMe, useNow } from '../app/index.ts';
import { TextInput } from '../design/controls.tsx';
import { Empty, Loading } from '../design/states.tsx';
import { planPath, required } from '../lineUp/index.ts';

/** Everyone by site, with their time now, and a way into Plan. */
export function PeopleView() {
  const [text, setText] = useState('');
  const query = useQuery({ queryKey: ['people'], queryFn: () => readApi<Directory>('/people') });
  const wanted = text.trim().toLowerCase();
  const people = (query.data?.people ?? []).filter((person) =>
    [person.name, person.jobTitle, person.site, ...person.teams].some((field) =>
      field?.toLowerCase().includes(wanted),
    ),
  );
  const sites = [...new Set(people.map((person) => person.site ?? person.organization))];
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <h1 className="text-[26px]">People</h1>
        <TextInput
          type="search"
          aria-label="Name, team, site or work"
          placeholder="Name, team, site or work"
          className="w-72 max-w-full"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      {query.isPending && <Loading what="people" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && !wanted && <Teams directory={query.data} />}
      {query.data && people.length === 0 && (
        <Empty title={`Nobody matches “${text}”`}>Try a part of a name, a team or a site.</Empty>
      )}
      {sites.map((site) => (
        <section key={site} className="mb-6">
          <h2 className="mb-1 text-[15px]">{site}</h2>
          <ul className="grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
            {people
              .filter((person) => (person.site ?? person.organization) === site)
              .map((person) => (
                <PersonRow key={person.id} person={person} />
              ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

function Teams({ directory }: { directory: Directory }) {
  return (
    <section className="mb-6" aria-label="Teams">
      <ul className="flex flex-wrap gap-2">
        {directory.teams.map((team) => (
          <li key={team.id}>
            <Link
              to={planPath({ lineUp: team.memberIds.map(required) })}
              className="inline-block rounded-full border border-edge bg-sheet px-3 py-1 hover:border-ink-2"
            >
              <b className="font-semibold">{team.name}</b> {team.memberIds.length} people, plan
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function PersonRow({ person }: { person: Person }) {
  const me = useMe();
  const now = useNow();
  const moment = { start: now, end: now + MINUTE };
  const working = workingIntervals(person.hours, zoneTable(person.zone, moment), moment).length > 0;
  return (
    <li className="flex items-baseline justify-between gap-3 border-t border-edge py-1.5">
      <span>
        <span className="font-semibold">{person.name}</span>
        <span className="block text-ink-2">{[person.jobTitle, ...person.teams].join(', ')}</span>
      </span>
      <span className="text-right">
        {formatTime(now, person.zone, me.clock)}
        <span className="block text-xs text-ink-2">{working ? 'working hours' : 'off work'}</span>
        {person.id !== me.id && (
          <Link
            to={planPath({ lineUp: [me.id, person.id].map(required) })}
            className="text-xs font-semibold text-gentian hover:underline"
            aria-label={`Plan with ${person.name}`}
          >
            plan
          </Link>
        )}
      </span>
    </li>
  );
}
