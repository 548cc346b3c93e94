import type { Leave, Left } from '../../../contract/leaving.ts';
import type { Edit } from '../../../core/edits.ts';
import { editsOf } from '../../../core/edits.ts';
import { valuesOfPerson } from '../../../core/people/personFacts.ts';
import { invalid, Refusal } from '../../../core/refusal.ts';
import { dateAt } from '../../../core/time/wall.ts';
import { actorName, type PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import { dropDelegations, type Delegation } from '../../delegates/index.ts';
import { leaveMeetings, lockMeetings, type Fate, type StoredMeeting } from '../../events/index.ts';
import { commitThings, type ChangeOf } from '../../facts/index.ts';
import { updateOwners } from '../../places/index.ts';
import type { Platform } from '../../platform.ts';
import { dropWaiting, type WaitingRow } from '../../waiting/index.ts';
import { lockChosen, writePairs } from '../people.ts';
import { lockHome, type KeptPerson } from '../peopleQueries.ts';
import { fatesOf, readAllComing, sorted } from './holdings.ts';
import { Concerns } from './letters.ts';
import { dropLeads, readBelongings, readHeirs, type Belongings, type Heir } from './queries.ts';

/**
 * Lets somebody leave, with all that is to come: what they organize and have booked is somebody else's or ends, of
 * what others do they are left out, what was given to them is given back, whoever they act for is told, and they
 * sign in no more. What is over stays as it was, under their name. One transaction; taken back as one.
 * @throws Refusal where they were changed, or have more than was looked at; naming a successor that is nobody
 */
export async function leave(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  request: Leave,
): Promise<Left> {
  const home = await lockHome(tx);
  if (id === (actor.by ?? actor.me).id)
    throw invalid([
      { field: 'id', message: 'must not be yourself: another administrator lets you leave' },
    ]);
  const chosen = [{ id, version: request.version }];
  const [person] = await lockChosen(tx, chosen, ({ account }) => account !== 'removed');
  const now = platform.clock.now();
  const coming = await readAllComing(tx, id, now);
  const meetings = await lockMeetings(tx, coming.map((one) => one.id).sort());
  const { meetings: organized, bookings, own } = sorted(coming);
  refuseUnseen(person!, request, organized.length, bookings.length);
  const exceptions = new Map(request.except.map((one, k) => [one.id, { ...one, k }]));
  const usual = <Event extends { id: string }>(events: readonly Event[]) =>
    events.filter((one) => !exceptions.has(one.id));
  const fates = await fatesOf(
    tx,
    [
      { events: usual(organized), fate: request.meetings, field: 'meetings' },
      { events: usual(bookings), fate: request.bookings, field: 'bookings' },
      { events: own, fate: { end: true }, field: '' },
      ...[...organized, ...bookings].flatMap((event) => {
        const except = exceptions.get(event.id);
        return except
          ? [{ events: [event], fate: except.fate, field: `except.${except.k}.fate` }]
          : [];
      }),
    ],
    id,
    now,
  );
  const belongings = await readBelongings(tx, id);
  const desksTo = await deskHeir(tx, request, belongings, id);
  const changes = await leaveMeetings(
    tx,
    platform,
    actor,
    meetings,
    { personId: id, name: person!.name, email: person!.email },
    new Map([...fates].map(([event, fate]) => [event, fateOf(fate)])),
    (fate) => sentenceOf(fate, person!),
  );
  const edits = [
    ...(await handDesks(tx, belongings, id, desksTo?.id ?? null, dateAt(now, actor.me.zone))),
    ...belongings.leads.map((team) => ({ path: `lead/${team.id}`, from: true, to: null })),
    ...delegationEdits(await dropDelegations(tx, id)),
    ...waitingEdits(await dropWaiting(tx, id)),
  ];
  dropLeads(tx, id);
  const change = await end(tx, platform, actor, person!, home.name, { edits, meetings: changes });
  const concerns = concernsOf(person!, meetings, fates, belongings, desksTo);
  const letters = await concerns.write(tx, platform, {
    subject: `${person!.name} has left ${home.name}`,
    opening: `${person!.name} has left ${home.name}. This is what it changes for you.`,
  });
  const counts = [...fates].filter(([event]) => !own.some((one) => one.id === event));
  return {
    change,
    handedOver: counts.filter(([, fate]) => fate !== 'end').length,
    ended: counts.filter(([, fate]) => fate === 'end').length,
    leftOut: coming.filter((one) => !one.isTheirs).length,
    letters,
  };
}

/** @throws Refusal where there are others than were looked at */
function refuseUnseen(
  { name }: KeptPerson,
  { seen }: Leave,
  meetings: number,
  bookings: number,
): void {
  if (seen.meetings === meetings && seen.bookings === bookings) return;
  throw new Refusal(
    'stale',
    `${name} organizes ${meetings} meetings to come and has ${bookings} bookings by now. Nothing was changed; look at them again.`,
    {
      fields: [{ field: 'seen', message: `must be ${meetings} meetings and ${bookings} bookings` }],
    },
  );
}

const fateOf = (fate: Heir | 'end'): Fate =>
  fate === 'end' ? 'end' : { to: { personId: fate.id, name: fate.name, email: fate.email } };

/** What those outside read of it. */
const sentenceOf = (fate: Fate, { name }: KeptPerson): string =>
  fate === 'end'
    ? `${name} has left, and it does not take place.`
    : `${name} has left. ${fate.to.name} organizes it from now on.`;

/** @throws Refusal naming somebody who is nobody here */
async function deskHeir(
  tx: Transaction,
  { desksTo }: Leave,
  { desks }: Belongings,
  leaverId: number,
): Promise<Heir | null> {
  if (desksTo === null || desks.length === 0) return null;
  const [heir] = await readHeirs(tx, { personId: desksTo }, leaverId);
  if (!heir) throw invalid([{ field: 'desksTo', message: 'must be somebody here, or null' }]);
  return heir;
}

async function handDesks(
  tx: Transaction,
  { desks }: Belongings,
  from: number,
  to: number | null,
  today: string,
): Promise<Edit[]> {
  if (desks.length > 0)
    await updateOwners(
      tx,
      desks.map(({ id }) => ({ id, ownerId: to, today })),
    );
  return desks.map(({ id }) => ({ path: `desk/${id}`, from, to }));
}

const delegationEdits = (rows: readonly Delegation[]): Edit[] =>
  rows.map((row) => ({
    path: `delegate/${row.principalId}/${row.delegateId}`,
    from: row,
    to: null,
  }));

const waitingEdits = (rows: readonly WaitingRow[]): Edit[] =>
  rows.map((row) => ({ path: `waiting/${row.placeId}/${row.start}`, from: row, to: null }));

/** Ends their access and keeps how all of it is taken back. */
async function end(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  person: KeptPerson,
  organization: string,
  { edits, meetings }: { edits: readonly Edit[]; meetings: readonly ChangeOf[] },
): Promise<number> {
  const after: KeptPerson = { ...person, account: 'ended', teams: [] };
  const pairs = [{ before: person, after }];
  await writePairs(tx, platform, pairs, { organization, by: actorName(actor) });
  const [change] = await commitThings(tx, platform, actor, [
    {
      fact: {
        thing: 'person',
        thingId: person.id,
        kind: 'person-left',
        details: { name: person.name },
      },
      edits: [...editsOf(valuesOfPerson(person), valuesOfPerson(after)), ...edits],
      meetings,
    },
  ]);
  return change!;
}

/** What each person here is told of it. */
function concernsOf(
  person: KeptPerson,
  meetings: ReadonlyMap<string, StoredMeeting>,
  fates: ReadonlyMap<string, Heir | 'end'>,
  { actsFor, actedForBy }: Belongings,
  desksTo: Heir | null,
): Concerns {
  const concerns = new Concerns();
  for (const meeting of meetings.values()) {
    const fate = fates.get(meeting.id);
    if (meeting.organizerId !== person.id) {
      if (meeting.organizerId !== null && meeting.draft === null)
        concerns.add(meeting.organizerId, 'Taken out of what you organize:', meeting);
    } else if (fate === 'end') concerns.addAll(meeting, [person.id], 'It does not take place:');
    else if (fate) {
      concerns.add(fate.id, 'Yours from now on:', meeting);
      concerns.addAll(meeting, [person.id, fate.id], `${fate.name} organizes it from now on:`);
    }
  }
  if (desksTo)
    concerns.add(desksTo.id, `The desks and places that were ${person.name}’s are yours.`);
  for (const { id } of actsFor) concerns.add(id, `${person.name} does not act for you any more.`);
  for (const { id } of actedForBy) concerns.add(id, `You do not act for ${person.name} any more.`);
  return concerns;
}
