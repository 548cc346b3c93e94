import { Refusal } from '../../core/refusal.ts';

/** Details of a 400 or 409, as RFC 7644 section 3.12 names them. */
type ScimType =
  | 'invalidFilter'
  | 'tooMany'
  | 'uniqueness'
  | 'mutability'
  | 'invalidSyntax'
  | 'invalidPath'
  | 'noTarget'
  | 'invalidValue';

/** A refusal in the words of SCIM (RFC 7644 section 3.12). */
export class ScimProblem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly scimType?: ScimType,
  ) {
    super(detail);
  }

  body() {
    return {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:Error'],
      status: String(this.status),
      ...(this.scimType && { scimType: this.scimType }),
      detail: this.message,
    };
  }
}

export const notFound = (what: string) => new ScimProblem(404, `There is no such ${what}.`);

/** What Marmot refuses, in those words. */
export function problemOf(error: unknown): ScimProblem | null {
  if (error instanceof ScimProblem) return error;
  if (!(error instanceof Refusal)) return null;
  const fields = error.facts.fields ?? [];
  const detail = error.message;
  const isTaken = fields.some(({ message }) => /must not be the (address|name) of/.test(message));
  if (isTaken) return new ScimProblem(409, detail, 'uniqueness');
  if (error.code.startsWith('no-such-')) return new ScimProblem(404, detail);
  if (error.code === 'invalid-request') return new ScimProblem(400, detail, 'invalidValue');
  return new ScimProblem(409, detail);
}
