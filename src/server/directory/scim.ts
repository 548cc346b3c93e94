import Router from '@koa/router';
import type { Context, Middleware } from 'koa';
import { transaction, type Transaction } from '../db/transaction.ts';
import { ConcurrencyLimiter } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { notFound, problemOf, ScimProblem } from './errors.ts';
import {
  createGroup,
  deleteGroup,
  listGroups,
  patchGroup,
  readOneGroup,
  replaceGroup,
} from './groups.ts';
import { AT_ONCE, LONGEST_REQUEST, LONGEST_WAIT_MS, MOST_WAITING } from './limits.ts';
import { readList, readShown, show } from './lists.ts';
import type { Resource } from './resources.ts';
import { resourceTypes, schemas, serviceProviderConfig } from './schemas.ts';
import { isDirectory } from './token.ts';
import { createUser, deleteUser, listUsers, patchUser, readOneUser, replaceUser } from './users.ts';

export const PREFIX = '/scim/v2';
const MEDIA_TYPE = 'application/scim+json; charset=utf-8';

/** What is done with each kind of resource; all but reading in one transaction. */
const KINDS = {
  Users: {
    list: listUsers,
    read: readOneUser,
    create: createUser,
    replace: replaceUser,
    patch: patchUser,
    remove: deleteUser,
  },
  Groups: {
    list: listGroups,
    read: readOneGroup,
    create: createGroup,
    replace: replaceGroup,
    patch: patchGroup,
    remove: deleteGroup,
  },
} as const;

/** /scim/v2: Users, Groups and what there is of them (RFC 7644), for the directory's token alone. */
export function directoryRoutes(platform: Platform): Router {
  const router = new Router({ prefix: PREFIX });
  const { pool, publicUrl } = platform;
  const base = publicUrl + PREFIX;
  router.use(answering(platform), guard(platform), inLine());
  router.get('/ServiceProviderConfig', (ctx) => {
    ctx.body = serviceProviderConfig(base);
  });
  listed(router, '/ResourceTypes', resourceTypes(base), 'resource type');
  listed(router, '/Schemas', schemas(base), 'schema');
  for (const [path, kind] of Object.entries(KINDS)) {
    const act = (work: (tx: Transaction) => Promise<Resource>) => transaction(pool, work);
    router.get(`/${path}`, async (ctx) => {
      ctx.body = await kind.list(pool, base, readList({ ...ctx.query }));
    });
    router.post(`/${path}/.search`, async (ctx) => {
      const body = await readBody(ctx);
      ctx.body = await kind.list(pool, base, readList((body ?? {}) as Record<string, unknown>));
    });
    router.post(`/${path}`, async (ctx) => {
      const body = await readBody(ctx);
      answerWith(ctx, await act((tx) => kind.create(tx, platform, base, body)), 201);
      ctx.set('Location', (ctx.body as Resource).meta.location);
    });
    router.get(`/${path}/:id`, async (ctx) => {
      answerWith(ctx, await kind.read(pool, base, idOf(ctx)));
      if (ctx.get('If-None-Match') === ctx.response.get('ETag')) {
        ctx.status = 304;
        ctx.body = null;
      }
    });
    for (const [method, change] of [
      ['put', kind.replace],
      ['patch', kind.patch],
    ] as const)
      router[method](`/${path}/:id`, async (ctx) => {
        const [id, body] = [idOf(ctx), await readBody(ctx)];
        answerWith(ctx, await act((tx) => change(tx, platform, base, id, body, matchOf(ctx))));
      });
    router.delete(`/${path}/:id`, async (ctx) => {
      const id = idOf(ctx);
      await transaction(pool, (tx) => kind.remove(tx, platform, base, id, matchOf(ctx)));
      ctx.status = 204;
    });
  }
  router.all('/{*rest}', () => {
    throw notFound('resource');
  });
  return router;
}

/** A list that is always the same, and each of it by its id. */
function listed(router: Router, path: string, all: readonly { id?: string }[], what: string): void {
  router.get(path, (ctx) => {
    ctx.body = {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:ListResponse'],
      ...{ totalResults: all.length, startIndex: 1, itemsPerPage: all.length, Resources: all },
    };
  });
  router.get(`${path}/:id`, (ctx) => {
    const found = all.find(({ id }) => id === (ctx as { params?: { id?: string } }).params?.id);
    if (!found) throw notFound(what);
    ctx.body = found;
  });
}

/** Refusals in SCIM's words, and everything in its media type. */
const answering =
  ({ log }: Platform): Middleware =>
  async (ctx, next) => {
    try {
      await next();
    } catch (error) {
      const problem = problemOf(error);
      if (!problem) throw error;
      log.debug({ why: problem.message }, 'the directory was refused something');
      ctx.status = problem.status;
      if (problem.status === 401) ctx.set('WWW-Authenticate', 'Bearer realm="Marmot"');
      ctx.body = problem.body();
    }
    if (ctx.body) {
      // Set before what is written: Koa would call an object plain JSON.
      ctx.body = JSON.stringify(ctx.body);
      ctx.set('Content-Type', MEDIA_TYPE);
    }
  };

const guard =
  (platform: Platform): Middleware =>
  async (ctx, next) => {
    const [, token] = /^Bearer ([\w-]{1,200})$/i.exec(ctx.get('Authorization')) ?? [];
    if (!token || !(await isDirectory(platform, token)))
      throw new ScimProblem(401, 'The token is missing, or none that is good here.');
    await next();
  };

/** Few at once, so that a directory that sends thousands leaves room for people. */
function inLine(): Middleware {
  const line = new ConcurrencyLimiter({
    atOnce: AT_ONCE,
    mostWaiting: MOST_WAITING,
    longestWaitMs: LONGEST_WAIT_MS,
  });
  return async (_ctx, next) => line.run(next);
}

function idOf(ctx: Context): number {
  const { id = '' } = (ctx as { params?: { id?: string } }).params ?? {};
  if (!/^\d{1,9}$/.test(id)) throw notFound('resource');
  return Number(id);
}

const matchOf = (ctx: Context): string | undefined => ctx.get('If-Match') || undefined;

function answerWith(ctx: Context, resource: Resource, status = 200): void {
  ctx.status = status;
  ctx.set('ETag', resource.meta.version);
  ctx.body = show(resource, readShown({ ...ctx.query }));
}

/** @throws ScimProblem where it is too long, or no JSON */
async function readBody(ctx: Context): Promise<unknown> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const part of ctx.req as AsyncIterable<Buffer>) {
    length += part.length;
    if (length > LONGEST_REQUEST)
      throw new ScimProblem(413, `A request may be at most ${LONGEST_REQUEST} bytes long.`);
    parts.push(part);
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8')) as unknown;
  } catch {
    throw new ScimProblem(400, 'The request is no JSON.', 'invalidSyntax');
  }
}
