import { keepingRoutes, KEPT_KINDS, type Keeping, type KeptKind } from '../../contract/keeping.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { readKeeping, writeKeepingSetting } from '../keeping/index.ts';
import type { Platform } from '../platform.ts';
import { noteOrganization } from './organizationHistory.ts';

const CALLED: Record<KeptKind, string> = {
  past: 'what is past',
  comments: 'comments',
  letters: 'letters',
  news: 'news',
  log: 'the log',
};
const inWords = (days: number | null): string => (days === null ? 'for ever' : `${days} days`);

/** Sets how long each kind is kept; what is older goes within the hour, which the log says. */
async function setKeeping(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  keeping: Keeping,
): Promise<Keeping> {
  const before = await readKeeping(tx, platform.keepDays);
  writeKeepingSetting(tx, keeping);
  const changed = KEPT_KINDS.filter((kind) => before[kind] !== keeping[kind]).map(
    (kind) => `${CALLED[kind]} kept ${inWords(before[kind])} → ${inWords(keeping[kind])}`,
  );
  if (changed.length > 0)
    await noteOrganization(
      tx,
      platform,
      actor,
      `changed how long what is kept: ${changed.join('; ')}`,
    );
  return keeping;
}

export const keepingApi = implement(keepingRoutes, (platform) => ({
  'GET /api/administration/keeping': () => readKeeping(platform.pool, platform.keepDays),
  'PUT /api/administration/keeping': (tx, { actor, body }) => setKeeping(tx, platform, actor, body),
}));
