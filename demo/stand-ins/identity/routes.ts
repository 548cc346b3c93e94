import Router from '@koa/router';
import type Provider from 'oidc-provider';
import { transaction } from '../../../src/server/db/transaction.ts';
import type { Platform } from '../../../src/server/platform.ts';
import { identityProvider, type Account } from './provider.ts';

const PREFIX = '/stand-ins/identity';
export const CLIENT_ID = 'marmot';
export const CLIENT_SECRET = 'only-for-the-demonstration';
export const issuerOf = ({ publicUrl }: Pick<Platform, 'publicUrl'>): string => publicUrl + PREFIX;

/** Whom it vouches for: the people of the demonstration, and one who is new. */
async function accounts({ pool }: Platform): Promise<Account[]> {
  const { rows } = await pool.query<{ id: number; name: string; email: string; zone: string }>(
    `select subject.id, subject.name, person.email, person.zone
     from person join subject on subject.id = person.subject_id
     where exists (select from setting where key = 'demonstration')
       and person.account in ('active', 'invited') and person.organization_id in (select id from organization where is_home)
     order by subject.name limit 100`,
  );
  return [
    ...rows.map(({ id, ...one }) => ({ ...one, sub: `person-${id}`, emailVerified: true })),
    {
      sub: 'newcomer',
      name: 'Sanna Lindqvist',
      email: 'sanna.lindqvist@ternrock.example',
      emailVerified: true,
      zone: 'Europe/Oslo',
    },
  ];
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

const page = (uid: string, people: readonly Account[]) => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Tern Rock sign-in</title></head>
<body>
<h1>Tern Rock sign-in</h1>
<p>A stand-in for the identity provider of an organization. It believes whoever says who they are.</p>
<form method="post" action="${PREFIX}/interaction/${escaped(uid)}">
<p><label for="who">Who are you?</label><br>
<select id="who" name="who">${people
  .map(
    ({ sub, name, email }) =>
      `<option value="${escaped(sub)}">${escaped(name)}, ${escaped(email)}</option>`,
  )
  .join('')}</select></p>
<p><button type="submit">Go on</button></p>
</form>
</body></html>`;

/** /stand-ins/identity: an identity provider that the demonstration’s people can sign in by. */
export function identityRoutes(platform: Platform): Router {
  const router = new Router({ prefix: PREFIX });
  let provider: Provider | undefined;
  const there = () =>
    (provider ??= identityProvider({
      issuer: issuerOf(platform),
      clientId: CLIENT_ID,
      clientSecret: CLIENT_SECRET,
      redirectUris: [`${platform.publicUrl}/api/sign-in/return`],
      signedOutUris: [`${platform.publicUrl}/`],
      find: async (sub) => (await accounts(platform)).find((one) => one.sub === sub) ?? null,
      loginPath: (uid) => `${PREFIX}/interaction/${uid}`,
    }));
  // Its forms say which page they come from, which is what is asked of all that write.
  router.use((ctx, next) => {
    ctx.set('Referrer-Policy', 'same-origin');
    return next();
  });
  router.get('/interaction/:uid', async (ctx) => {
    ctx.type = 'html';
    ctx.body = page(String(ctx.params.uid), await accounts(platform));
  });
  router.post('/interaction/:uid', async (ctx) => {
    let text = '';
    for await (const part of ctx.req) {
      text += String(part);
      if (text.length > 1_000) ctx.throw(413);
    }
    const accountId = new URLSearchParams(text).get('who') ?? '';
    ctx.respond = false;
    await there().interactionFinished(ctx.req, ctx.res, { login: { accountId } });
  });
  router.all('/{*rest}', (ctx) => {
    ctx.respond = false;
    const request = Object.assign(ctx.req, { originalUrl: ctx.req.url });
    request.url = ctx.req.url!.slice(PREFIX.length) || '/';
    return there().callback()(request, ctx.res);
  });
  return router;
}

/** Whether the stand-in answers at an address, on this machine. */
async function answersAt(issuer: string): Promise<boolean> {
  try {
    const signal = AbortSignal.timeout(LONGEST_ANSWER_MS);
    return (await fetch(`${issuer}/.well-known/openid-configuration`, { signal })).ok;
  } catch {
    return false;
  }
}
const LONGEST_ANSWER_MS = 1_000;

/**
 * Lets the demonstration’s people sign in by the stand-in, unless somebody took it away. It may be at another port
 * than the day before; while another server of the same demonstration offers it, it stays with that.
 */
export async function offerIdentity(platform: Platform): Promise<void> {
  const own = issuerOf(platform);
  const { rows } = await platform.pool.query<{ issuer: string }>(
    'select issuer from sign_in_provider where client_secret = $1 and removed_at is null',
    [CLIENT_SECRET],
  );
  const there = rows[0]?.issuer;
  if (there === own || (there && (await answersAt(there)))) return;
  await transaction(platform.pool, async (tx) => {
    tx.send(
      `insert into sign_in_provider (name, issuer, client_id, client_secret, lets_in)
       select 'Tern Rock sign-in', $1, $2, $3, null
       where exists (select from setting where key = 'demonstration')
         and not exists (select from sign_in_provider where client_secret = $3 or removed_at is not null)`,
      [own, CLIENT_ID, CLIENT_SECRET],
    );
    tx.send(
      `update sign_in_provider set issuer = $1, version = version + 1
       where client_secret = $2 and issuer <> $1 and removed_at is null`,
      [own, CLIENT_SECRET],
    );
    await Promise.resolve();
  });
}
