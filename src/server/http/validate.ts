import type { Context } from 'koa';
import { z } from 'zod';
import { invalid, type FieldProblem } from '../../core/refusal.ts';
import { Problem } from './problem.ts';

function fieldsOf(issues: readonly z.core.$ZodIssue[]): FieldProblem[] {
  return issues.flatMap((issue) => {
    const field = issue.path.join('.') || 'body';
    if (issue.code === 'unrecognized_keys') {
      return issue.keys.map((key) => ({
        field: [...issue.path, key].join('.'),
        message: 'is not a field of this request',
      }));
    }
    const missing = issue.code === 'invalid_type' && issue.message.startsWith('Invalid input');
    return [{ field, message: missing ? `must be ${article(issue.expected)}` : issue.message }];
  });
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
