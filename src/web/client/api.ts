import type { ProblemBody } from '../../contract/common.ts';
import type { AnswerOf, GivenTo } from '../../contract/route.ts';
import type { Routes } from '../../contract/routes.ts';

/** What people call the fields of requests, by the last part of their names. */
const FIELDS: Record<string, string> = {
  title: 'The title',
  place: 'The place',
  description: 'The description',
  agenda: 'The agenda',
  notes: 'The notes',
  note: 'The note',
  message: 'The message',
  startsAt: 'The start',
  endsAt: 'The end',
  times: 'The time',
  zone: 'The time zone',
  endZone: 'The time zone of the end',
  rule: 'How it repeats',
  except: 'A date that is left out',
  reminders: 'The reminders',
  minutes: 'A reminder',
  email: 'The mail address',
  password: 'The password',
  name: 'The name',
  personId: 'Somebody who is invited',
  attendees: 'The people',
  resources: 'The places',
  file: 'The file',
  q: 'What is looked for',
};

/** What is wrong with a request, in words, without the names by which it travels. */
function fieldWords(fields: NonNullable<ProblemBody['fields']>): string {
  const sentences = fields.map(({ field, message }) => {
    const parts = field.split('.').filter((part) => !/^\d+$/.test(part));
    return `${FIELDS[parts.at(-1) ?? ''] ?? FIELDS[parts[0] ?? ''] ?? 'Something in it'} ${message}.`;
  });
  return [...new Set(sentences)].join(' ');
}

/** A refusal of the server, with everything it said. */
export class ApiProblem extends Error {
  constructor(readonly body: ProblemBody) {
    super(
      body.code === 'invalid-request' && body.fields?.length
        ? fieldWords(body.fields)
        : body.detail,
    );
    this.name = 'ApiProblem';
  }

  /** What is wrong with a field of the request, if that was the trouble. */
  field(name: string): string | undefined {
    return this.body.fields?.find((one) => one.field === name)?.message;
  }
}

/** A refusal of this side of the wire, in words for whoever is there. */
export class UserError extends Error {}

/** That no answer came, be it that the server is away or the connection. */
class Unreachable extends Error {}

/** Whether no answer came: it may come when the same is asked again. */
export const isUnreachable = (error: unknown): boolean => error instanceof Unreachable;

export const errorText = (error: unknown): string => {
  if (error instanceof ApiProblem || error instanceof UserError) return error.message;
  return error instanceof Unreachable
    ? 'The server cannot be reached. What you typed is kept; try again in a moment.'
    : 'Something went wrong here that is not your doing. What you typed is kept.';
};

/** How often a request waits for somebody to sign in again before it gives up. */
const MOST_SIGN_INS = 3;
let signInAgain: (() => Promise<void>) | null = null;

/** What asks whoever is signed out to sign in again; requests that met it go on once they have. */
export function onSignedOut(ask: (() => Promise<void>) | null): void {
  signInAgain = ask;
}

/** Writes whose answer is not there yet, or was lost, by what they say: each has one key. */
const unanswered = new Map<string, { key: string; answer: Promise<unknown> | null }>();
const MOST_UNANSWERED = 50;

/** What is given with a request to a route; nothing needs to be where nothing is asked for. */
type Given<Name extends keyof Routes> = GivenTo<Routes[Name]>;
export type Arguments<Name extends keyof Routes> =
  Record<string, never> extends Given<Name> ? [given?: Given<Name>] : [given: Given<Name>];
type AnyGiven = { params?: Record<string, string | number>; query?: object; body?: unknown };

/** The address of a route with what is given for its names and its query; what is undefined is left out. */
export function addressOf(name: keyof Routes, { params, query }: AnyGiven = {}): string {
  const [, path = ''] = name.split(' ');
  const filled = path
    .replace(/^\/api/, '')
    .replaceAll(/:(\w+)/g, (_, part: string) => encodeURIComponent(String(params![part])));
  const asked = new URLSearchParams();
  for (const [key, value] of Object.entries(query ?? {})) {
    if (value !== undefined && value !== null) asked.set(key, String(value));
  }
  const written = asked.toString();
  return written ? `${filled}?${written}` : filled;
}

/**
 * Asks the server by a route of the contract, which says what is given and what is answered.
 * @throws ApiProblem when the server refuses, Unreachable when it does not answer
 */
export function callApi<Name extends keyof Routes>(
  name: Name,
  ...rest: [...Arguments<Name>, signal?: AbortSignal]
): Promise<AnswerOf<Routes[Name]>> {
  const [given, signal] = rest as unknown as [given?: AnyGiven, signal?: AbortSignal];
  const [method = 'GET'] = name.split(' ');
  const address = addressOf(name, given);
  return method === 'GET'
    ? request(method, address, undefined, signal)
    : send(method, address, given?.body);
}

/**
 * Sends a write. Whoever sends the same while it is under way gets its answer and no second one of it; a
 * request whose answer was lost is repeated with the same key, at once and whenever it is sent again,
 * which does nothing twice.
 */
function send<Body>(method: string, path: string, body?: unknown): Promise<Body> {
  const what = `${method} ${path} ${JSON.stringify(body)}`;
  const before = unanswered.get(what);
  if (before?.answer) return before.answer as Promise<Body>;
  const key =
    before?.key ?? crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;
  const answer = sendWith<Body>(key, method, path, body);
  unanswered.set(what, { key, answer });
  if (unanswered.size > MOST_UNANSWERED) unanswered.delete(unanswered.keys().next().value!);
  answer.then(
    () => unanswered.delete(what),
    (error: unknown) => {
      if (error instanceof Unreachable) unanswered.set(what, { key, answer: null });
      else unanswered.delete(what);
    },
  );
  return answer;
}

async function sendWith<Body>(
  key: string,
  method: string,
  path: string,
  body: unknown,
): Promise<Body> {
  try {
    return await request<Body>(method, path, body, undefined, key);
  } catch (error) {
    if (!(error instanceof Unreachable)) throw error;
    return request<Body>(method, path, body, undefined, key);
  }
}

/** Asks once, and again once somebody who was signed out has signed in. */
async function request<Body>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  key?: string,
): Promise<Body> {
  for (let signIns = 0; ; signIns++) {
    try {
      return await fetchOnce<Body>(method, path, body, signal, key);
    } catch (error) {
      const isSignedOut = error instanceof ApiProblem && error.body.code === 'not-signed-in';
      if (!isSignedOut || !signInAgain || signIns === MOST_SIGN_INS) throw error;
      await signInAgain();
    }
  }
}

async function fetchOnce<Body>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  key?: string,
): Promise<Body> {
  const response = await reach(path, {
    method,
    headers: {
      ...(body !== undefined && { 'Content-Type': 'application/json' }),
      ...(key && { 'Idempotency-Key': key }),
    },
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...(method !== 'GET' && isShort(body) && { keepalive: true }),
    ...(signal && { signal }),
  });
  if (response.status === 204) return undefined as Body;
  const answer: unknown = await response.json().catch(() => {
    throw new Unreachable('the answer broke off, or was none of Marmot');
  });
  if (!response.ok) throw new ApiProblem(answer as ProblemBody);
  return answer as Body;
}

/** What is sent while the page is left arrives, up to the size that browsers let go on without it. */
const isShort = (body: unknown): boolean =>
  body === undefined || JSON.stringify(body).length < 4_000;

const reach = (path: string, init: RequestInit): Promise<Response> =>
  fetch(`/api${path}`, init).catch((error: unknown) => {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Unreachable('no answer', { cause: error });
  });

/**
 * Lets the browser take a file to the disk, once the server has said that there is one: what it refuses
 * is said here, and leads to no page of its own.
 * @throws ApiProblem when the server refuses, Unreachable when it does not answer
 */
export async function takeFile<Name extends keyof Routes>(
  name: Name,
  ...[given]: Arguments<Name>
): Promise<void> {
  const path = addressOf(name, given as AnyGiven | undefined);
  const asked = new AbortController();
  const response = await reach(path, { signal: asked.signal });
  if (!response.ok) throw new ApiProblem((await response.json()) as ProblemBody);
  asked.abort();
  window.location.assign(`/api${path}`);
}

/** As long as 10 MB may take on a slow line, and no longer. */
const FILE_TIMEOUT_MS = 120_000;

/**
 * Sends a file and tells how far it has come, which fetch cannot.
 * @throws ApiProblem when the server refuses, Unreachable when it has not answered within two minutes
 */
export function sendFile<Name extends keyof Routes>(
  name: Name,
  given: Omit<Given<Name>, 'body'>,
  file: File,
  onProgress: (share: number) => void = () => undefined,
): Promise<AnswerOf<Routes[Name]>> {
  const path = addressOf(name, given as AnyGiven);
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api${path}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.addEventListener('progress', (event) => onProgress(event.loaded / event.total));
    request.responseType = 'json';
    request.timeout = FILE_TIMEOUT_MS;
    request.addEventListener('load', () => {
      const answer: unknown = request.response;
      if (answer === null) reject(new Unreachable('the answer broke off, or was none of Marmot'));
      else if (request.status < 400) resolve(answer as AnswerOf<Routes[Name]>);
      else reject(new ApiProblem(answer as ProblemBody));
    });
    for (const end of ['error', 'timeout'])
      request.addEventListener(end, () => reject(new Unreachable('no answer')));
    request.send(file);
  });
}
