import type { ChangeProviderRequest, NewProvider } from '../../contract/providers.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import { lockHome, noteOrganization } from '../administration/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { discover } from './client.ts';
import { MOST_PROVIDERS } from './limits.ts';
import {
  forgetIdentities,
  insertProvider,
  lockProvider,
  readProvider,
  readProviders,
  removeProvider,
  updateProvider,
  type KeptProvider,
} from './queries.ts';
import { noSuchProvider } from './signIn.ts';

const sameOne = () =>
  invalid([{ field: 'clientId', message: 'must be another: people sign in by that one already' }]);

/** @throws Refusal where it is there already, or there are too many */
export async function addProvider(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  given: NewProvider,
): Promise<{ id: number }> {
  await lockHome(tx);
  if ((await readProviders(tx)).length >= MOST_PROVIDERS)
    throw new Refusal('too-much', `There may be at most ${MOST_PROVIDERS} of them.`);
  const id = await insertProvider(tx, given);
  if (id === null) throw sameOne();
  await noteOrganization(tx, platform, actor, `let people sign in by ${given.name}`);
  return { id };
}

/** @throws Refusal where it was changed meanwhile, or is none */
export async function changeProvider(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  { version, ...given }: ChangeProviderRequest,
): Promise<{ version: number }> {
  const before = await lockProvider(tx, id);
  if (!before) throw noSuchProvider();
  if (before.version !== version)
    throw new Refusal('stale', `${before.name} was changed meanwhile; look at it again.`, {
      fields: [{ field: 'version', message: `must be ${before.version}` }],
    });
  const set = Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined));
  const after: KeptProvider = { ...before, ...set };
  if (!(await updateProvider(tx, after))) throw sameOne();
  if (after.issuer !== before.issuer) forgetIdentities(tx, id);
  await noteOrganization(tx, platform, actor, `changed how people sign in by ${after.name}`);
  return { version: version + 1 };
}

export async function removeOne(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<void> {
  const before = await lockProvider(tx, id);
  if (!before) throw noSuchProvider();
  removeProvider(tx, id, platform.clock.now());
  await noteOrganization(tx, platform, actor, `lets nobody sign in by ${before.name} any more`);
}

/** @throws Refusal saying how it does not answer */
export async function tryProvider(
  { pool, clock }: Platform,
  id: number,
): Promise<{ endsSessions: boolean }> {
  const provider = await readProvider(pool, id);
  if (!provider) throw noSuchProvider();
  const config = await discover(provider, clock.now());
  return { endsSessions: config.serverMetadata().end_session_endpoint !== undefined };
}
