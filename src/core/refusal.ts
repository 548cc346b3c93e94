export interface FieldProblem {
  /** A path into what was asked, such as `times.endsAt`. */
  field: string;
  /** What is allowed there; stands after the field's name. */
  message: string;
}

/**
 * A thing that is not done, and why. It knows nothing of how it is told: whoever asked over HTTP
 * gets it as problem details, a job writes it down.
 */
export class Refusal extends Error {
  override name = 'Refusal';

  constructor(
    /** A short, stable name for programs. */
    readonly code: string,
    /** For people. */
    sentence: string,
    readonly facts: { fields?: FieldProblem[] } & Record<string, unknown> = {},
  ) {
    super(sentence);
  }
}

/** A refusal that names fields; the sentence repeats them so that it stands on its own. */
export function invalid(fields: FieldProblem[]): Refusal {
  const sentence = fields.map(({ field, message }) => `${field} ${message}`).join('; ');
  return new Refusal('invalid-request', `${sentence}.`, { fields });
}
