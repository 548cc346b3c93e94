import type { Context } from 'koa';
import { z } from 'zod';
import { invalid, type FieldProblem } from '../../core/refusal.ts';
import { Problem } from './problem.ts';
import { LONGEST_FIELD_NAME, MOST_FIELDS, MOST_UNKNOWN_FIELDS } from './limits.ts';

function fieldsOf(issues: readonly z.core.$ZodIssue[]): FieldProblem[] {
  const named = issues.slice(0, MOST_FIELDS).flatMap(fieldsIn).slice(0, MOST_FIELDS);
  if (issues.length <= MOST_FIELDS) return named;
  return [
    ...named,
    { field: 'body', message: `holds ${issues.length - MOST_FIELDS} more that does not fit` },
  ];
}

const fieldName = (path: readonly PropertyKey[]): string =>
  path.map(String).join('.').slice(0, LONGEST_FIELD_NAME) || 'body';

function fieldsIn(issue: z.core.$ZodIssue): FieldProblem[] {
  const field = fieldName(issue.path);
  if (issue.code === 'unrecognized_keys') {
    const unknown = issue.keys.slice(0, MOST_UNKNOWN_FIELDS).map((key) => ({
      field: fieldName([...issue.path, key]),
      message: 'is not a field of this request',
    }));
    const more = issue.keys.length - unknown.length;
    return more > 0
      ? [...unknown, { field, message: `holds ${more} more fields that are not of this request` }]
      : unknown;
  }
  const missing = issue.code === 'invalid_type' && issue.message.startsWith('Invalid input');
  return [{ field, message: missing ? `must be ${article(issue.expected)}` : issue.message }];
}

const article = (expected: string) =>
  expected === 'object' || expected === 'array' ? `an ${expected}` : `a ${expected}`;

/**
 * Reads a value as the schema says.
 * @throws Refusal naming each field and what is allowed there
 */
export function read<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const result = schema.safeParse(value);
  if (!result.success) throw invalid(fieldsOf(result.error.issues));
  return result.data;
}

/**
 * Reads the JSON body as the schema says.
 * @throws Problem 415 when the body is not declared as JSON, 400 when it does not fit
 */
export function readBody<Schema extends z.ZodType>(schema: Schema, ctx: Context): z.output<Schema> {
  if (!ctx.is('application/json')) {
    throw new Problem(
      415,
      'not-json',
      'The body must be JSON, with Content-Type application/json.',
      {
        fields: [{ field: 'body', message: 'must be JSON' }],
      },
    );
  }
  return read(schema, ctx.request.body);
}
