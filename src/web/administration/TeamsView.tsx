import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { TeamDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import {
  callApi,
  errorText,
  Failure,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
} from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Select } from '../design/Select.tsx';
import { Empty, Outline } from '../design/states.tsx';
import { AdminFrame } from './AdminFrame.tsx';
import { useSites, useStaff } from './useAdministration.ts';

/** Which teams there are, who leads them, and what they are parts of. */
export function TeamsView() {
  return (
    <AdminFrame>
      <Teams />
    </AdminFrame>
  );
}

function Teams() {
  const { data, isPending, isError, error, refetch } = useSites();
  const [openId, setOpenId] = useState<number | 'new' | null>(null);
  const teams = data?.teams ?? [];
  const opened = teams.find(({ id }) => id === openId) ?? null;
  const close = () => setOpenId(null);
  return (
    <div className="px-4 py-4 md:px-6">
      <div className="mb-3 flex items-center justify-between gap-3">
        <p className="text-ink-2">
          A team is invited as one, and may be let book a place. People are put into it here, or
          several at once under People.
        </p>
        <Button onClick={() => setOpenId('new')}>Add a team</Button>
      </div>
      {isPending && <Outline what="teams" rows={6} />}
      {isError && <Failure error={error} retry={() => void refetch()} />}
      {data && teams.length === 0 && (
        <Empty title="No team yet">Those who meet as one can be invited as one.</Empty>
      )}
      {teams.length > 0 && (
        <ul aria-label="Teams" className="border-t border-edge">
          {teams.map((team) => (
            <li
              key={team.id}
              className={`grid gap-x-4 border-b border-edge py-2 sm:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_minmax(0,1.2fr)] ${team.parent ? 'pl-6' : ''}`}
            >
              <button
                type="button"
                className="reach text-left font-semibold hover:underline"
                aria-haspopup="dialog"
                onClick={() => setOpenId(team.id)}
              >
                {team.name}
                {team.parent && <span className="sr-only">, a part of {team.parent.name}</span>}
              </button>
              <span className="text-ink-2">{counted(team.members, 'person', 'people')}</span>
              <span className="text-ink-2">
                {team.lead ? `led by ${team.lead.name}` : 'nobody leads it'}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Panel
        open={openId !== null && (openId === 'new' || opened !== null)}
        onClose={close}
        title={openId === 'new' ? 'A new team' : (opened?.name ?? 'Team')}
      >
        {openId === 'new' ? (
          <NewTeam teams={teams} onMade={setOpenId} />
        ) : (
          opened && (
            <Team
              key={`${opened.id} ${opened.version}`}
              team={opened}
              teams={teams}
              onGone={close}
            />
          )
        )}
      </Panel>
    </div>
  );
}

/** Does something to a team; it is taken back by undo. */
function useAct() {
  const changed = useChanged();
  const refresh = () => changed('directory', 'person');
  return useMutation({
    mutationFn: async ({
      work,
    }: {
      words: string;
      work: () => Promise<{ change: number | null }>;
      then?: () => void;
    }) => undoable(work()),
    onSuccess: ({ change }, { words, then }) => {
      if (change !== null)
        offerUndo(words, () => takeChangesBack([change]).then(refresh), [change]);
      then?.();
    },
    onSettled: refresh,
  });
}

const partOptions = (teams: readonly TeamDetail[], own: number | null) => [
  { value: null as number | null, words: 'none' },
  ...teams
    .filter(({ id, parent }) => parent === null && id !== own)
    .map(({ id, name }) => ({ value: id as number | null, words: name })),
];

function NewTeam({
  teams,
  onMade,
}: {
  teams: readonly TeamDetail[];
  onMade: (id: number) => void;
}) {
  const [name, setName] = useState('');
  const [parentId, setParentId] = useState<number | null>(null);
  const act = useAct();
  return (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({
          words: `${name.trim()} is there.`,
          work: async () => {
            const made = await callApi('POST /api/administration/teams', {
              body: { name, parentId },
            });
            onMade(made.id);
            return made;
          },
        });
      }}
    >
      <Field label="What it is called">
        <TextInput
          autoFocus
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <Field label="A part of">
        <Select value={parentId} options={partOptions(teams, null)} onChange={setParentId} />
      </Field>
      <Refused error={act.error} />
      <Button look="act" type="submit" disabled={act.isPending || name.trim() === ''}>
        Add it
      </Button>
    </form>
  );
}

const Refused = ({ error }: { error: unknown }) =>
  error ? (
    <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
      {errorText(error)}
    </p>
  ) : null;

function Team({
  team,
  teams,
  onGone,
}: {
  team: TeamDetail;
  teams: readonly TeamDetail[];
  onGone: () => void;
}) {
  const { id, version } = team;
  const [name, setName] = useState(team.name);
  const [text, setText] = useState('');
  const members = useStaff({ team: id, limit: 200 });
  const others = useStaff({ q: text.trim(), limit: 12 });
  const act = useAct();
  const change = (words: string, values: object) =>
    act.mutate({
      words,
      work: () =>
        callApi('PATCH /api/administration/teams/:id', {
          params: { id },
          body: { version, ...values },
        }),
    });
  const hasParts = teams.some(({ parent }) => parent?.id === id);
  const inIt = new Set(members.rows.map((one) => one.id));
  const found = text.trim() ? others.rows.filter((one) => !inIt.has(one.id)) : [];
  return (
    <div className="grid gap-4">
      <form
        noValidate
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          change(`It is called ${name.trim()}.`, { name });
        }}
      >
        <Field label="Name" className="flex-1">
          <TextInput
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Button type="submit" disabled={act.isPending || !name.trim() || name.trim() === team.name}>
          Keep
        </Button>
      </form>
      <Field
        label="A part of"
        hint={hasParts ? 'Other teams are parts of it, so that it is a part of none.' : undefined}
      >
        <Select
          value={team.parent?.id ?? null}
          disabled={hasParts}
          options={partOptions(teams, id)}
          onChange={(parentId) => change(`${team.name} is changed.`, { parentId })}
        />
      </Field>
      <Field label="Led by">
        <Select<number | null>
          value={team.lead?.id ?? null}
          options={[
            { value: null, words: 'nobody' },
            ...members.rows.map((one) => ({ value: one.id as number | null, words: one.name })),
          ]}
          onChange={(leadId) => change(`${team.name} is changed.`, { leadId })}
        />
      </Field>
      <section aria-labelledby="in-it">
        <h3 id="in-it" className="mb-1 font-text text-[13.5px] font-semibold">
          In it
        </h3>
        <TextInput
          type="search"
          aria-label="Put somebody in"
          placeholder="Put somebody in: name or address"
          maxLength={100}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {text.trim() !== '' && (
          <ul aria-label="Who could be put in" className="mt-1">
            {found.map((one) => (
              <li key={one.id}>
                <Button
                  look="quiet"
                  className="w-full text-left"
                  onClick={() => {
                    setText('');
                    change(`${one.name} is in ${team.name}.`, { into: [one.id] });
                  }}
                >
                  {one.name} <span className="font-normal text-ink-2">{one.email}</span>
                </Button>
              </li>
            ))}
            {found.length === 0 && !others.query.isFetching && (
              <li className="px-2.5 py-1 text-ink-2">Nobody else matches.</li>
            )}
          </ul>
        )}
        <ul aria-label="People of the team" className="mt-2 border-t border-edge">
          {members.rows.map((one) => (
            <li
              key={one.id}
              className="flex items-center justify-between gap-2 border-b border-edge py-0.5"
            >
              <span>{one.name}</span>
              <Button
                look="quiet"
                aria-label={`Take ${one.name} out`}
                onClick={() => change(`${one.name} is out of ${team.name}.`, { outOf: [one.id] })}
              >
                Take out
              </Button>
            </li>
          ))}
          {members.first?.total === 0 && <li className="py-2 text-ink-2">Nobody yet.</li>}
        </ul>
      </section>
      <Refused error={act.error} />
      <Button
        look="danger"
        className="justify-self-start"
        disabled={act.isPending || hasParts}
        onClick={() =>
          act.mutate({
            words: `${team.name} is removed; its people stay.`,
            work: () =>
              callApi('POST /api/administration/teams/:id/remove', {
                params: { id },
                body: { version },
              }),
            then: onGone,
          })
        }
      >
        Remove the team
      </Button>
    </div>
  );
}
