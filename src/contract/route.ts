import { z } from 'zod';

/**
 * Who may, as an act on a thing: `access/` judges it, and the table of actors in tests/access holds every
 * route to it. `own` is what belongs to whoever asks, `own-by-id` one thing of it by its number, of which
 * somebody else's looks as if it were not there; `shared` are times and titles of others, each as far as
 * they are shared; `catalogue` are people, places and their names.
 */
export const RIGHTS = [
  'anybody',
  'read own',
  'change own',
  'change own-by-id',
  'read own-by-id',
  'read catalogue',
  'read shared',
  'change shared',
  'read event',
  'change event',
  'answer event',
  'discuss event',
  'use booking',
  'look-after places',
  'administer organization',
] as const;
export type Right = (typeof RIGHTS)[number];

/**
 * What a request costs: `unmetered` ones wait for nobody, `many` read or write many rows, so that one asker
 * has only few of them worked on at once; a `stream` ends when its reader leaves; `public` ones can be asked
 * by anybody, and are counted by network address.
 */
export type Cost = 'unmetered' | 'few' | 'many' | 'stream' | 'public';

/** An answer that is no JSON: a file of one of these media types, or a stream of events. */
export interface FileAnswer {
  readonly mediaTypes: readonly string[];
}
export const file = (...mediaTypes: string[]): FileAnswer => ({ mediaTypes });
/** The answer that says no more than that it is done (204). */
export const nothing = z.undefined();

/** One route: what it reads, what it answers, who may, and what it costs. */
export interface Route {
  may: Right;
  cost?: Cost;
  /** What stands in its address; every name there has to be in it. */
  params?: z.ZodType<Record<string, unknown>>;
  query?: z.ZodType;
  body?: z.ZodType;
  answer: z.ZodType | FileAnswer;
  /** 200 where it is left out, or 204 for `nothing`. */
  status?: 201;
  /**
   * Whether a replica may answer it: a read of whose answer nothing is written, and which may be as old as
   * a replica is. Never what says who is signed in.
   */
  replica?: true;
  /** Set where it is not GET and yet no action in one transaction: it only reads, or acts by itself. */
  transaction?: false;
}

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
/** Method and address, such as `GET /api/places/:id`. */
export type RouteName = `${Method} /api/${string}`;
export type RouteTable = Record<RouteName, Route>;

/** The names in an address: `id` of `/api/places/:id`. */
type NamesIn<Address extends string> = Address extends `${string}/:${infer Name}/${infer Rest}`
  ? Name | NamesIn<`/${Rest}`>
  : Address extends `${string}/:${infer Name}`
    ? Name
    : never;

/** A route whose address holds names reads them. */
type Checked<Table> = {
  [Name in keyof Table]: [NamesIn<Name & string>] extends [never]
    ? { params?: never }
    : { params: z.ZodType<Record<NamesIn<Name & string>, unknown>> };
};

/** The routes of a capability. What comes from them: router, client, the table of actors, the hostile test. */
export const defineRoutes = <const Table extends RouteTable>(
  table: Table & Checked<Table>,
): Table => table;

type Sent<Part> = Part extends z.ZodType ? z.input<Part> : undefined;
type Read<Part> = Part extends z.ZodType ? z.output<Part> : undefined;
type Part<Of, Name extends string> = Of extends Record<Name, infer Found> ? Found : undefined;

/** What is given with a request, as it is before it is read; an address's names are numbers or text. */
export type GivenTo<Of> = (Of extends { params: infer Params }
  ? { params: Record<keyof Read<Params>, string | number> }
  : { params?: undefined }) &
  (Of extends { query: infer Query } ? { query?: Sent<Query> } : { query?: undefined }) &
  (Of extends { body: infer Body } ? { body: Sent<Body> } : { body?: undefined });

/** What the server reads of a request. */
export interface ReadOf<Of> {
  params: Read<Part<Of, 'params'>>;
  query: Read<Part<Of, 'query'>>;
  body: Read<Part<Of, 'body'>>;
}

/** What is answered; nothing of its own where it is a file. */
export type AnswerOf<Of> = Of extends { answer: infer Answer extends z.ZodType }
  ? Answer extends z.ZodUndefined
    ? void
    : z.output<Answer>
  : void;
