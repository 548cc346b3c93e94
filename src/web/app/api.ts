import type { ProblemBody } from '../../contract/common.ts';

/** A refusal of the server, with everything it said. */
export class ApiProblem extends Error {
  constructor(readonly body: ProblemBody) {
    super(body.detail);
    this.name = 'ApiProblem';
  }

  /** What is wrong with a field of the request, if that was the trouble. */
  field(name: string): string | undefined {
    return this.body.fields?.find((one) => one.field === name)?.message;
  }
}

export const errorText = (error: unknown): string =>
  error instanceof ApiProblem
    ? error.message
    : 'The server cannot be reached. What you typed is kept; try again in a moment.';

export const readApi = <Body>(path: string, signal?: AbortSignal): Promise<Body> =>
  request<Body>('GET', path, undefined, signal);

/**
 * Sends a write. A request whose answer was lost is repeated once with the same key, which does
 * nothing twice.
 * @throws ApiProblem when the server refuses, TypeError when it cannot be reached
 */
export async function sendApi<Body>(
  method: 'POST' | 'PATCH' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
): Promise<Body> {
  const key = crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`;
  try {
    return await request<Body>(method, path, body, undefined, key);
  } catch (error) {
    if (error instanceof ApiProblem) throw error;
    return request<Body>(method, path, body, undefined, key);
  }
}

async function request<Body>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  key?: string,
): Promise<Body> {
  const response = await fetch(`/api${path}`, {
    method,
    headers: {
      ...(body !== undefined && { 'Content-Type': 'application/json' }),
      ...(key && { 'Idempotency-Key': key }),
    },
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...(signal && { signal }),
  });
  if (response.status === 204) return undefined as Body;
  const answer: unknown = await response.json();
  if (!response.ok) throw new ApiProblem(answer as ProblemBody);
  return answer as Body;
}
