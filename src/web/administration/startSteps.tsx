import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import type { OrganizationDetail, SiteDetail } from '../../contract/administration.ts';
import type { StartStep } from '../../core/people/firstHour.ts';
import { readPlaces } from '../../core/booking/pastedPlaces.ts';
import { counted } from '../../core/counted.ts';
import { formatTime, zoneCity } from '../../core/time/format.ts';
import {
  callApi,
  errorText,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
  useKept,
  useKeptText,
  useMe,
  useNow,
} from '../client/index.ts';
import { Button, Field, LinkButton, TextArea, TextInput } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Select } from '../design/Select.tsx';
import { asNew } from './AddPeoplePanel.tsx';
import { PastedPeople, type PastedChanges, type Understood } from './PastedPeople.tsx';
import { SiteForm } from './SiteForm.tsx';
import { useAddPeople, useChangeOrganization } from './useAdministration.ts';

interface StepProps {
  /** Where the next open step is. */
  onward: string;
}

function Step({
  title,
  words,
  children,
}: {
  title: string;
  words: ReactNode;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="max-w-5xl">
      <h2 className="text-[22px]">{title}</h2>
      <p className="mb-4 text-ink-2">{words}</p>
      {children}
    </section>
  );
}

const Refused = ({ error }: { error: unknown }) => (
  <p role="alert" className="my-3 rounded-sm bg-glow-wash px-3 py-2 font-semibold">
    {errorText(error)}
  </p>
);

/** Leaves a step for later, and goes on. */
function Later({ step, data, onward }: StepProps & { step: StartStep; data: OrganizationDetail }) {
  const change = useChangeOrganization();
  const navigate = useNavigate();
  if (data.done.includes(step)) return null;
  return (
    <Button
      look="quiet"
      onClick={() =>
        change.mutate(
          { later: [...new Set([...data.later, step])] },
          { onSuccess: () => void navigate(onward) },
        )
      }
    >
      Leave it for later
    </Button>
  );
}

export function OrganizationStep({ data, onward }: StepProps & { data: OrganizationDetail }) {
  const [name, setName] = useState(data.name);
  const [firstWeekday, setFirstWeekday] = useState(data.firstWeekday);
  const [clock, setClock] = useState(data.clock);
  const change = useChangeOrganization();
  const navigate = useNavigate();
  return (
    <Step title="Who are you?" words="What letters and pages say, and what new people begin with.">
      <form
        className="grid max-w-md gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { name, firstWeekday, clock },
            {
              onSuccess: () => {
                tellUser('Kept.');
                void navigate(onward);
              },
            },
          );
        }}
      >
        <Field label="Name of the organization">
          <TextInput
            required
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Field label="Weeks begin on">
          <Select
            value={firstWeekday}
            options={[
              { value: 1, words: 'Monday' },
              { value: 6, words: 'Saturday' },
              { value: 7, words: 'Sunday' },
            ]}
            onChange={setFirstWeekday}
          />
        </Field>
        <Field label="Clock">
          <Select
            value={clock}
            options={[
              { value: '24', words: '24 hours, 14:30' },
              { value: '12', words: '12 hours, 2:30 pm' },
            ]}
            onChange={setClock}
          />
        </Field>
        {change.isError && <Refused error={change.error} />}
        <Button look="act" type="submit" className="justify-self-start" disabled={change.isPending}>
          Keep and go on
        </Button>
      </form>
    </Step>
  );
}

export function SiteStep({ sites, onward }: StepProps & { sites: readonly SiteDetail[] }) {
  const navigate = useNavigate();
  const looked = useChangeOrganization();
  const [site = null] = sites;
  return (
    <Step
      title="Where do you work?"
      words={
        <>
          The first site; further ones are under{' '}
          <Link className="font-semibold text-gentian hover:underline" to="/administration/sites">
            Sites and holidays
          </Link>
          .
        </>
      }
    >
      <div className="max-w-md">
        <SiteForm
          key={site?.id}
          site={site}
          verb="Keep and go on"
          onSaved={() =>
            looked.mutate({ siteIsRight: true }, { onSettled: () => void navigate(onward) })
          }
        />
      </div>
    </Step>
  );
}

export function PeopleStep({
  data,
  sites,
  onward,
  onCount,
}: StepProps & {
  data: OrganizationDetail;
  sites: readonly SiteDetail[];
  onCount: (count: number) => void;
}) {
  const [text, setText, forgetText] = useKeptText('first-people');
  const [changes, setChanges] = useKept<PastedChanges>('first-people-changed', {});
  const [people, setPeople] = useState<Understood[]>([]);
  const [looked, setLooked] = useState<string | null>(null);
  const navigate = useNavigate();
  const add = useAddPeople(() => {
    forgetText();
    void navigate(onward);
  });
  const shown = people.find(({ email }) => email === looked) ?? people[0];
  return (
    <div className="flex gap-6 max-xl:flex-col">
      <div className="min-w-0 flex-1">
        <Step
          title="Who works here?"
          words="Paste the addresses as you have them: from a letter, a list or a table."
        >
          <PastedPeople
            {...{ text, sites, changes }}
            onText={setText}
            onChanges={setChanges}
            onPeople={(found) => {
              setPeople(found);
              onCount(found.length);
            }}
            onLooked={({ email }) => setLooked(email)}
          />
          {add.isError && <Refused error={add.error} />}
          <div className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
            <Button
              look="act"
              disabled={people.length === 0 || add.isPending}
              onClick={() => add.mutate({ people: people.map(asNew) })}
            >
              {people.length === 0
                ? 'Invite them'
                : `Invite ${counted(people.length, 'person', 'people')}`}
            </Button>
            <p className="max-w-xs text-xs text-ink-2">
              {data.mail.triedAt === null ? (
                <>
                  <b className="text-ink">Their letters go out when mail has been tried</b>, the
                  last step. Until then they wait.
                </>
              ) : (
                'Each gets a letter with a link that works once, for seven days.'
              )}
            </p>
            <Later step="people" {...{ data, onward }} />
          </div>
        </Step>
      </div>
      {shown && <LetterPreview person={shown} organization={data.name} sites={sites} />}
    </div>
  );
}

/** The letter as one of them gets it. */
function LetterPreview({
  person,
  organization,
  sites,
}: {
  person: Understood;
  organization: string;
  sites: readonly SiteDetail[];
}) {
  const me = useMe();
  const now = useNow();
  return (
    <aside aria-label="How it looks for them" className="w-full shrink-0 xl:w-64">
      <h3 className="text-[15px]">How it looks for them</h3>
      <p className="mb-2 text-xs text-ink-2">The letter to {person.name}</p>
      <div className="rounded-sm border border-edge bg-sheet p-4 text-[13px] shadow-sm">
        <p className="mb-2 border-b border-edge pb-2 text-xs text-ink-2">
          About <b className="text-ink">Your place in {organization}</b>
        </p>
        <p className="mb-2">Dear {person.name.split(' ')[0]},</p>
        <p className="mb-3">
          {me.name} has made you a place in Marmot, where {organization} finds times to meet and
          keeps its rooms. It takes about a minute: you choose a password and look whether your
          clock is right.
        </p>
        <p className="mb-3 inline-block rounded-sm bg-gentian px-3 py-1.5 font-semibold text-on-gentian">
          Choose a password
        </p>
        <p className="text-xs text-ink-2">
          The link works once, for seven days. You were not expecting this? Then do nothing.
        </p>
      </div>
      <h3 className="mt-4 text-[15px]">Then {person.name.split(' ')[0]} is asked</h3>
      <p className="text-[13px] text-ink-2">
        for a password, and whether it is {formatTime(now, person.zone, me.clock)} where they are (
        {sites.find(({ zone }) => zone === person.zone)?.city ?? zoneCity(person.zone)}).
      </p>
    </aside>
  );
}

export function PlacesStep({
  data,
  sites,
  onward,
}: StepProps & { data: OrganizationDetail; sites: readonly SiteDetail[] }) {
  const [text, setText, forgetText] = useKeptText('first-places');
  const navigate = useNavigate();
  const changed = useChanged();
  const [siteId, setSiteId] = useState(sites[0]?.id ?? 0);
  const site = sites.find(({ id }) => id === siteId);
  const { places, doubts } = readPlaces(text);
  const refresh = () => changed('resource', 'directory');
  const add = useMutation({
    mutationFn: async () => {
      const answer = await undoable(
        callApi('POST /api/catalogue/import', {
          body: {
            check: false,
            rows: places.map(({ name, kind, capacity }) => ({
              name,
              kind,
              site: site?.name ?? '',
              ...(capacity > 0 && { seats: String(capacity) }),
            })),
          },
        }),
      );
      const [problem] = answer.problems;
      if (problem) throw new PlaceRefused(places[problem.row - 1]?.name ?? '', problem);
      return answer;
    },
    onSuccess: ({ changes, added }) => {
      offerUndo(
        `${counted(added, 'place')} can be booked now.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
      forgetText();
      void navigate(onward);
    },
    onSettled: refresh,
  });
  return (
    <Step
      title="What do you share?"
      words={
        <>
          Say it as you would: a name and a number of seats, or so many of a kind. A file is read
          under{' '}
          <Link className="font-semibold text-gentian hover:underline" to="/places">
            Places
          </Link>
          .
        </>
      }
    >
      <div className="grid max-w-3xl gap-4 md:grid-cols-2">
        <div className="grid content-start gap-3">
          <Field label="Places in your words">
            <TextArea
              rows={8}
              maxLength={20_000}
              value={text}
              placeholder="Gannet 8, Fulmar for 12; 4 desks and a van"
              onChange={(event) => setText(event.target.value)}
            />
          </Field>
          {sites.length > 1 && (
            <Field label="At">
              <Select
                value={siteId}
                options={sites.map(({ id, name: words }) => ({ value: id, words }))}
                onChange={setSiteId}
              />
            </Field>
          )}
        </div>
        <section aria-label="What was understood">
          <h3 className="mb-1 font-text text-[13.5px] font-semibold">What was understood</h3>
          <ul
            className="max-h-72 overflow-auto border-t border-edge"
            tabIndex={0}
            aria-label="Places understood"
          >
            {places.map(({ name, kind, capacity }) => (
              <li key={name} className="flex justify-between gap-3 border-b border-edge py-1">
                <b>{name}</b>
                <span className="text-ink-2">
                  {kind}
                  {capacity > 0 && `, ${counted(capacity, 'seat')}`}
                </span>
              </li>
            ))}
            {places.length === 0 && <li className="py-2 text-ink-2">Nothing yet.</li>}
          </ul>
          {doubts.slice(0, 5).map(({ text: said, why }) => (
            <p
              key={said}
              className="mt-2 rounded-sm border border-dashed border-alpenglow px-2 py-1"
            >
              <b className="text-alpenglow">“{said}”</b> {why}
            </p>
          ))}
        </section>
      </div>
      {add.isError && <Refused error={add.error} />}
      <div className="mt-4 flex flex-wrap items-center gap-4">
        <Button
          look="act"
          disabled={places.length === 0 || add.isPending}
          onClick={() => add.mutate()}
        >
          {places.length === 0 ? 'Add them' : `Add ${counted(places.length, 'place')}`}
        </Button>
        <Later step="places" {...{ data, onward }} />
      </div>
    </Step>
  );
}

/** A place that cannot be added, by its name, and why. */
class PlaceRefused extends Error {
  constructor(name: string, { field, message }: { field: string; message: string }) {
    super(`${name}: ${field} ${message}.`);
  }
}

export function MailStep({ data, onward }: StepProps & { data: OrganizationDetail }) {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const navigate = useNavigate();
  const refresh = () => changed('directory', 'mailroom');
  const { by, server, triedAt, trial, waiting } = data.mail;
  const write = useMutation({
    mutationFn: () => callApi('POST /api/administration/mail/trial'),
    onSettled: refresh,
  });
  const arrived = useMutation({
    mutationFn: () => callApi('POST /api/administration/mail/arrived'),
    onSuccess: ({ released }) => {
      tellUser(
        released > 0 ? `${counted(released, 'letter')} on the way.` : 'Letters leave from now on.',
      );
      void navigate(onward);
    },
    onSettled: refresh,
  });
  return (
    <Step
      title="Do letters arrive?"
      words={
        by === 'server'
          ? `Letters leave by ${server}, as whoever started Marmot said (MARMOT_SMTP_URL).`
          : 'No mail server is named, so that letters stay in the Mailroom, where each reads their own. Whoever starts Marmot names one by MARMOT_SMTP_URL.'
      }
    >
      {triedAt !== null ? (
        <p className="rounded-sm border border-edge bg-lichen-wash px-3 py-2">
          A letter was seen to arrive {formatTime(triedAt, me.zone, me.clock)}. Letters leave as
          they are written.
        </p>
      ) : (
        <div className="grid max-w-xl justify-items-start gap-3">
          <p>
            Write yourself a letter, and look whether it comes to <b>{me.email}</b>.
            {waiting > 0 && ` ${counted(waiting, 'letter waits', 'letters wait')} for it.`}
          </p>
          {trial && (
            <p role="status" className="w-full rounded-sm border border-edge bg-sheet px-3 py-2">
              {trial.state === 'failed' ? (
                <>
                  <b className="text-alpenglow">It could not be delivered.</b> The mail server says:{' '}
                  {trial.failure} The letters that wait are kept.
                </>
              ) : trial.state === 'waiting' ? (
                `Written ${formatTime(trial.at, me.zone, me.clock)}; it has not left yet.${now - trial.at > 60_000 ? ' It is tried again and again; look whether the mail server answers.' : ''}`
              ) : (
                <>
                  Left {formatTime(trial.at, me.zone, me.clock)}. Is it there?{' '}
                  {by === 'mailroom' && (
                    <Link className="font-semibold text-gentian hover:underline" to="/mailroom">
                      Look into the Mailroom
                    </Link>
                  )}
                </>
              )}
            </p>
          )}
          {write.isError && <Refused error={write.error} />}
          {arrived.isError && <Refused error={arrived.error} />}
          <div className="flex flex-wrap gap-2">
            {trial?.state === 'sent' && (
              <Button look="act" disabled={arrived.isPending} onClick={() => arrived.mutate()}>
                It has arrived
              </Button>
            )}
            <Button
              look={trial?.state === 'sent' ? 'plain' : 'act'}
              disabled={write.isPending || trial?.state === 'waiting'}
              onClick={() => write.mutate()}
            >
              {trial ? 'Write another one' : 'Write me a letter'}
            </Button>
            <Later step="mail" {...{ data, onward }} />
          </div>
        </div>
      )}
      {triedAt !== null && (
        <LinkButton to={onward} className="mt-4 px-3 py-1.5">
          Go on
        </LinkButton>
      )}
    </Step>
  );
}
