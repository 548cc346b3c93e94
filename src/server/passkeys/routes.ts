import { passkeysRoutes } from '../../contract/passkeys.ts';
import { hasPassword, removeOwnPassword } from '../accounts/index.ts';
import { implement } from '../http/index.ts';
import { signInAs } from '../session/index.ts';
import { readPasskeys } from './queries.ts';
import {
  addPasskey,
  authenticationOptions,
  registrationOptions,
  remove,
  rename,
  whoSigned,
} from './service.ts';

export const passkeysApi = implement(passkeysRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/passkeys': async ({ actor }) => ({
      passkeys: await readPasskeys(pool, actor.me.id),
      hasPassword: await hasPassword(pool, actor.me.id),
    }),
    'POST /api/passkeys/options': ({ actor }) => registrationOptions(platform, actor.me),
    'POST /api/passkeys': ({ actor, body }) =>
      addPasskey(platform, actor.me, body.name, body.response),
    'PATCH /api/passkeys/:id': (tx, { actor, params, body }) =>
      rename(tx, actor.me, params.id, body.name),
    'DELETE /api/passkeys/:id': (tx, { actor, params }) => remove(tx, actor.me, params.id),
    'POST /api/passkeys/alone': async ({ actor, body }) =>
      removeOwnPassword(
        platform,
        actor.me,
        body.old,
        (await readPasskeys(pool, actor.me.id)).length,
      ),
    'POST /api/sign-in/passkey/options': () => authenticationOptions(platform),
    'POST /api/sign-in/passkey': async ({ body, ctx }) => {
      await signInAs(ctx, platform, await whoSigned(platform, body.response));
    },
  };
});
