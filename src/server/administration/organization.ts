import type {
  ChangeOrganizationRequest,
  OrganizationDetail,
} from '../../contract/administration.ts';
import type { StartStep } from '../../core/people/firstHour.ts';
import { Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { plainMail } from '../letters/index.ts';
import { announce, DIRECTORY, subjectOf } from '../live/index.ts';
import {
  countWaiting,
  lettersArriveSince,
  letLettersLeave,
  postMails,
  readLetterStates,
} from '../mail/index.ts';
import type { Platform } from '../platform.ts';
import { lockHome } from './peopleQueries.ts';
import {
  readOrganization,
  updateOrganization,
  writeLater,
  writeSiteIsRight,
} from './organizationQueries.ts';

/** The organization, and how far its first hour has come. */
export async function organizationOf(
  db: Database,
  { mailServerUrl }: Pick<Platform, 'mailServerUrl'>,
  actor: PersonActor,
): Promise<OrganizationDetail> {
  const { sites, ...organization } = await readOrganization(db);
  const [triedAt, waiting, trials] = await Promise.all([
    lettersArriveSince(db),
    countWaiting(db),
    readLetterStates(db, 'trial', [actor.me.id]),
  ]);
  const trial = trials.get(actor.me.id);
  const isDone: Record<StartStep, boolean> = {
    organization: true,
    site: sites > 0,
    people: organization.people > 1,
    places: organization.places > 0,
    mail: triedAt !== null,
  };
  return {
    ...organization,
    done: (Object.keys(isDone) as StartStep[]).filter((step) => isDone[step]),
    mail: {
      by: mailServerUrl === null ? 'mailroom' : 'server',
      server: mailServerUrl && new URL(mailServerUrl).host,
      triedAt,
      trial:
        trial && triedAt === null
          ? { at: trial.at, to: actor.me.email, state: trial.state, failure: trial.failure }
          : null,
      waiting,
    },
  };
}

/** Changes what the organization is called and new people begin with, and which steps are left for later. */
export async function changeOrganization(
  tx: Transaction,
  { later, siteIsRight, name, firstWeekday, clock }: ChangeOrganizationRequest,
): Promise<void> {
  const home = await lockHome(tx);
  const given = Object.entries({ name, firstWeekday, clock }).filter(
    ([, value]) => value !== undefined,
  );
  if (given.length > 0) updateOrganization(tx, home.id, Object.fromEntries(given));
  if (later) writeLater(tx, later);
  if (siteIsRight) writeSiteIsRight(tx);
  announce(tx, [DIRECTORY]);
}

/** Writes a letter to whoever asks, by which they see whether letters arrive. */
export async function tryMail(
  tx: Transaction,
  { clock, publicUrl }: Platform,
  actor: PersonActor,
): Promise<void> {
  const home = await lockHome(tx);
  const { id, name, email } = actor.me;
  const letter = {
    subject: `A letter from Marmot at ${home.name}`,
    title: 'It has arrived',
    opening: [
      `Dear ${name.split(' ')[0]},`,
      'This letter was written to see whether letters arrive. If you read it, they do: say so where you asked for it, and those that wait leave.',
    ],
    description: '',
    facts: [],
    link: { href: `${publicUrl}/administration/start/mail`, label: 'It has arrived' },
  };
  postMails(
    tx,
    [{ ...plainMail(letter, { name, email }), purpose: { kind: 'trial', personId: id } }],
    clock.now(),
  );
  announce(tx, [DIRECTORY, subjectOf('person', id)]);
}

/**
 * Notes that a letter arrived, and lets go those that waited.
 * @returns how many
 * @throws Refusal where no trial has left
 */
export async function mailArrived(
  tx: Transaction,
  { clock }: Platform,
  actor: PersonActor,
): Promise<number> {
  await lockHome(tx);
  if ((await lettersArriveSince(tx)) !== null) return 0;
  const trial = (await readLetterStates(tx, 'trial', [actor.me.id])).get(actor.me.id);
  if (trial?.state !== 'sent')
    throw new Refusal('no-trial', 'Write yourself a letter first, and wait until it has left.');
  const released = await letLettersLeave(tx, clock.now());
  announce(tx, [DIRECTORY]);
  return released;
}
