import { useState } from 'react';
import type { Role, SiteDetail, StaffMember } from '../../contract/administration.ts';
import { same } from '../../core/same.ts';
import { formatNear } from '../../core/time/format.ts';
import { ApiProblem, callApi, errorText, useMe, useNow } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Panel } from '../design/Panel.tsx';
import { Select } from '../design/Select.tsx';
import { SureDialog } from '../design/SureDialog.tsx';
import { AnyOf } from '../design/Toggles.tsx';
import { ZoneField } from '../time/index.ts';
import { Leaving } from './Leaving.tsx';
import { chargesOf, ReachFields } from './ReachFields.tsx';
import { useChangePeople, useForget, useStanding, useWelcomeAgain } from './useAdministration.ts';

const ROLES: { value: Role; words: string }[] = [
  { value: 'staff', words: 'staff' },
  { value: 'steward', words: 'steward: looks after places' },
  { value: 'administrator', words: 'administrator: people, sites and settings, too' },
];

/** Somebody of the organization: who they are, where, in which teams, and what they may. */
export function StaffPanel({
  person,
  sites,
  teams,
  onClose,
}: {
  person: StaffMember;
  sites: readonly SiteDetail[];
  teams: readonly { id: number; name: string }[];
  onClose: () => void;
}) {
  const [draft, setDraft] = useState({
    name: person.name,
    email: person.email,
    jobTitle: person.jobTitle,
    siteId: person.site?.id ?? null,
    zone: person.zone,
    role: person.role,
    teams: person.teams.map(({ id }) => id),
    reach: person.reach,
    deputy: person.deputy,
    coordinates: person.coordinates.map(({ id }) => id),
  });
  const [isLeaving, setLeaving] = useState(false);
  const change = useChangePeople();
  const put = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  const before = person.teams.map(({ id }) => id);
  const given = {
    ...(draft.name.trim() !== person.name && { name: draft.name }),
    ...(draft.email.trim() !== person.email && { email: draft.email }),
    ...(draft.jobTitle.trim() !== person.jobTitle && { jobTitle: draft.jobTitle }),
    ...(draft.siteId !== (person.site?.id ?? null) && { siteId: draft.siteId }),
    ...(draft.zone !== person.zone && { zone: draft.zone }),
    ...(draft.role !== person.role && { role: draft.role }),
    ...(draft.role === 'steward' &&
      !same(chargesOf(draft.reach), chargesOf(person.reach)) && {
        reach: chargesOf(draft.reach) as never,
      }),
    ...(draft.role === 'steward' &&
      draft.deputy?.id !== person.deputy?.id && { deputyId: draft.deputy?.id ?? null }),
    ...(!same(
      [...draft.coordinates].sort((a, b) => a - b),
      person.coordinates.map(({ id }) => id).sort((a, b) => a - b),
    ) && { coordinates: draft.coordinates }),
    ...(draft.teams.some((id) => !before.includes(id)) && {
      into: draft.teams.filter((id) => !before.includes(id)),
    }),
    ...(before.some((id) => !draft.teams.includes(id)) && {
      outOf: before.filter((id) => !draft.teams.includes(id)),
    }),
  };
  const wrong = (field: string) =>
    change.error instanceof ApiProblem ? change.error.field(`change.${field}`) : undefined;
  const isChanged = Object.keys(given).length > 0;
  if (isLeaving)
    return (
      <Panel open onClose={onClose} title={person.name}>
        <Button look="quiet" autoFocus className="-ml-3 w-fit" onClick={() => setLeaving(false)}>
          Back
        </Button>
        <Leaving person={person} onDone={onClose} />
      </Panel>
    );
  return (
    <Panel open onClose={onClose} title={person.name}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (isChanged) change.mutate({ people: [person], change: given });
        }}
      >
        <Field label="Name" error={wrong('name')}>
          <TextInput
            maxLength={120}
            value={draft.name}
            onChange={(event) => put({ name: event.target.value })}
          />
        </Field>
        <Field label="Mail address" error={wrong('email')} hint="They sign in with it.">
          <TextInput
            type="email"
            maxLength={254}
            value={draft.email}
            onChange={(event) => put({ email: event.target.value })}
          />
        </Field>
        <Field label="Work" error={wrong('jobTitle')}>
          <TextInput
            maxLength={120}
            value={draft.jobTitle}
            onChange={(event) => put({ jobTitle: event.target.value })}
          />
        </Field>
        <Field label="Site" error={wrong('siteId')}>
          <Select<number | null>
            value={draft.siteId}
            options={[
              ...sites.map(({ id, name: words }) => ({ value: id as number | null, words })),
              { value: null, words: 'none' },
            ]}
            onChange={(siteId) =>
              put({ siteId, zone: sites.find(({ id }) => id === siteId)?.zone ?? draft.zone })
            }
          />
        </Field>
        <ZoneField label="Zone" value={draft.zone} onChange={(zone) => put({ zone })} />
        <Field label="Role" error={wrong('role')}>
          <Select value={draft.role} options={ROLES} onChange={(role) => put({ role })} />
        </Field>
        {draft.role === 'steward' && (
          <ReachFields
            person={person}
            sites={sites}
            value={draft.reach}
            onChange={(reach) => put({ reach })}
            deputy={draft.deputy}
            onDeputy={(deputy) => put({ deputy })}
            errors={{ reach: wrong('reach'), deputy: wrong('deputyId') }}
          />
        )}
        {teams.length > 0 && (
          <div className="grid gap-1.5">
            <b className="font-semibold">Teams</b>
            <AnyOf
              label="Teams"
              options={teams.map(({ id, name }) => ({ value: String(id), words: name }))}
              value={draft.teams.map(String)}
              onChange={(ids) => put({ teams: ids.map(Number) })}
            />
          </div>
        )}
        {teams.length > 0 && (
          <div className="grid gap-1.5">
            <p>
              <b className="font-semibold">Coordinates</b>{' '}
              <span className="text-ink-2">
                plans, answers, books and records absence for the people of
              </span>
            </p>
            <AnyOf
              label="Teams they coordinate"
              options={teams.map(({ id, name }) => ({ value: String(id), words: name }))}
              value={draft.coordinates.map(String)}
              onChange={(ids) => put({ coordinates: ids.map(Number) })}
            />
          </div>
        )}
        {change.isError && (
          <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
            {errorText(change.error)}
          </p>
        )}
        <Button look="act" type="submit" disabled={!isChanged || change.isPending}>
          Keep
        </Button>
      </form>
      <Access person={person} onLeave={() => setLeaving(true)} />
    </Panel>
  );
}

/** Whether they can sign in, and how that is changed. */
function Access({ person, onLeave }: { person: StaffMember; onLeave: () => void }) {
  const me = useMe();
  const now = useNow();
  const standing = useStanding();
  const welcome = useWelcomeAgain();
  const [link, setLink] = useState<string | null>(null);
  const [isSure, setSure] = useState(false);
  const forget = useForget();
  const [problem, setProblem] = useState<unknown>(null);
  const failed = standing.error ?? welcome.error ?? forget.error ?? problem;
  const { account, seenAt, welcomedAt, letter } = person;
  const words =
    account === 'ended'
      ? 'Their access ended; they cannot sign in.'
      : account === 'invited'
        ? welcomedAt === null
          ? 'Never signed in; no letter was written.'
          : letter === 'failed'
            ? `Never signed in. Their letter of ${formatNear(welcomedAt, now, me)} could not be delivered.`
            : letter === 'waiting'
              ? 'Never signed in. Their letter waits to leave.'
              : `Never signed in. Their letter left ${formatNear(welcomedAt, now, me)}; its link works for seven days.`
        : seenAt === null
          ? 'Can sign in; not seen lately.'
          : `Can sign in; here last ${formatNear(seenAt, now, me)}.`;
  return (
    <section aria-labelledby="access" className="mt-6 border-t border-edge pt-4">
      <h3 id="access" className="mb-1 text-[15px]">
        Signing in
      </h3>
      <p className="mb-3 text-ink-2">{words}</p>
      <div className="flex flex-wrap gap-2">
        {account === 'invited' && (
          <>
            <Button disabled={welcome.isPending} onClick={() => welcome.mutate([person])}>
              Write the letter again
            </Button>
            <Button
              onClick={() => {
                setProblem(null);
                callApi('POST /api/administration/people/:id/link', {
                  params: { id: person.id },
                })
                  .then((answer) => setLink(answer.link))
                  .catch(setProblem);
              }}
            >
              A link to hand over
            </Button>
          </>
        )}
        {account === 'ended' ? (
          <Button
            disabled={standing.isPending}
            onClick={() => standing.mutate({ people: [person], to: 'return' })}
          >
            Let in again
          </Button>
        ) : (
          person.id !== me.id && (
            <Button
              look="danger"
              disabled={standing.isPending}
              onClick={() => standing.mutate({ people: [person], to: 'end' })}
            >
              End their access
            </Button>
          )
        )}
        {account === 'ended' && (
          <Button look="danger" onClick={() => setSure(true)}>
            Forget them
          </Button>
        )}
        {person.id !== me.id && (
          <Button onClick={onLeave}>
            {account === 'ended' ? 'Hand over what they have' : 'They leave…'}
          </Button>
        )}
      </div>
      {isSure && (
        <SureDialog
          title={`Forget ${person.name}`}
          words="Their name and address go from everything that is kept: people, meetings, letters, the log. What happened stays, as that of somebody who left. It cannot be taken back."
          verb="Forget them for good"
          onSure={() => forget.mutate(person)}
          onClose={() => setSure(false)}
        />
      )}
      {link && (
        <div className="mt-3">
          <Field
            label="For them alone"
            hint="It works once, for seven days. Whoever has it comes in as them."
          >
            <TextInput readOnly value={link} onFocus={(event) => event.target.select()} />
          </Field>
        </div>
      )}
      {failed !== null && failed !== undefined && (
        <p role="alert" className="mt-3 rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(failed)}
        </p>
      )}
    </section>
  );
}
