import { Refusal } from '../../core/refusal.ts';
import type { Me } from '../../contract/session.ts';
import { coordinates, requireSteward } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { areOfOneOrganization, findMe } from './queries.ts';

/** Somebody of this installation as an actor, for what is done for them by the clock; null where they left. */
export async function actorById(db: Database, personId: number): Promise<PersonActor | null> {
  const me = await findMe(db, personId);
  return me && { kind: 'person', me, principals: [me.id], by: null };
}

/**
 * The actor as somebody for whom they act, or whose team they coordinate, who did it being kept; themselves where nobody is named.
 * They may then do what that person may, and no more.
 * @throws Refusal when they do not act for that person
 */
export async function actingFor(
  db: Database,
  actor: PersonActor,
  personId: number | undefined,
): Promise<PersonActor> {
  if (personId === undefined || personId === actor.me.id) return actor;
  const mayAct = actor.principals.includes(personId) || coordinates(actor, personId);
  const me = mayAct ? await findMe(db, personId) : null;
  if (!me) {
    throw new Refusal('not-allowed', 'You do not act for this person.', {
      fields: [{ field: 'for', message: 'must be somebody for whom you act' }],
    });
  }
  return inTheirName(me, actor);
}

/**
 * The actor as somebody for whom they book a place and nothing else, since they look after places.
 * @throws Refusal when they do not look after places, or there is nobody like that in their organization
 */
export async function bookingFor(
  db: Database,
  actor: PersonActor,
  personId: number,
): Promise<PersonActor> {
  // Which places it is about was looked at before.
  requireSteward(actor);
  const me = (await areOfOneOrganization(db, actor.me.id, personId))
    ? await findMe(db, personId)
    : null;
  if (!me) {
    throw new Refusal('unknown-subject', 'There is nobody like that in your organization.', {
      fields: [{ field: 'for', message: 'must be the id of somebody of your organization' }],
    });
  }
  return inTheirName(me, actor);
}

const inTheirName = (me: Me, actor: PersonActor): PersonActor => {
  const { id, name, email } = actor.me;
  return {
    kind: 'person',
    // What was given to them by others is theirs, and not handed on.
    me: { ...me, role: 'staff', acts: [], keeps: [], actsFor: [], coordinates: [] },
    principals: [me.id],
    by: { id, name, email },
  };
};
