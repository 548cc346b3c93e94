import { scimPatch, type ScimPatchOperation, type ScimResource } from 'scim-patch';
import { z } from 'zod';
import { ScimProblem } from './errors.ts';
import { LONGEST_FILTER, MOST_OPERATIONS } from './limits.ts';
import type { Resource } from './resources.ts';

const patchBody = z.object({
  schemas: z
    .array(z.string())
    .refine((all) => all.includes('urn:ietf:params:scim:api:messages:2.0:PatchOp'), {
      message: 'must name urn:ietf:params:scim:api:messages:2.0:PatchOp',
    }),
  Operations: z
    .array(
      z.object({
        // Some directories write them with a capital.
        op: z
          .string()
          .transform((op) => op.toLowerCase())
          .pipe(z.enum(['add', 'remove', 'replace'], { error: 'must be add, remove or replace' })),
        path: z.string().max(LONGEST_FILTER).optional(),
        value: z.unknown().optional(),
      }),
    )
    .min(1)
    .max(MOST_OPERATIONS, `may be at most ${MOST_OPERATIONS}`),
});

/** Names that are no attributes, and by which what all objects have in common could be changed. */
const NO_ATTRIBUTE = /(?:^|[^a-z])(?:__proto__|constructor|prototype)(?:$|[^a-z])/i;

function refuseForeign(value: unknown, depth = 0): void {
  if (depth > 20) throw new ScimProblem(400, 'The value is too deep.', 'invalidValue');
  if (typeof value !== 'object' || value === null) return;
  for (const [name, part] of Object.entries(value)) {
    if (NO_ATTRIBUTE.test(name))
      throw new ScimProblem(400, `${name} is no attribute.`, 'invalidPath');
    refuseForeign(part, depth + 1);
  }
}

const TYPES = [
  'invalidFilter',
  'invalidPath',
  'noTarget',
  'invalidSyntax',
  'invalidValue',
] as const;

type Operation = z.output<typeof patchBody>['Operations'][number];

/**
 * Some directories take values away by naming them beside the path of all of them: each of those that are there by
 * its value, which says who it is.
 */
function oneByOne(operation: Operation, resource: Resource): Operation[] {
  const { op, path = '', value } = operation;
  const there = resource[path];
  if (op !== 'remove' || value === undefined || !Array.isArray(there)) return [operation];
  const named = new Set(
    (Array.isArray(value) ? value : [value]).map((one) =>
      String((one as { value?: unknown } | null)?.value ?? one),
    ),
  );
  return (there as { value: string }[])
    .filter((one) => named.has(one.value))
    .map((one) => ({ op, path: `${path}[value eq "${one.value}"]`, value: undefined }));
}

/**
 * A resource as it is once operations were applied to it (RFC 7644 section 3.5.2), all or none.
 * @throws ScimProblem where they cannot be
 */
export function patched(resource: Resource, body: unknown): unknown {
  const read = patchBody.safeParse(body);
  if (!read.success) {
    const { path, message } = read.error.issues[0]!;
    throw new ScimProblem(400, `${path.map(String).join('.')} ${message}.`, 'invalidSyntax');
  }
  for (const { path = '', value } of read.data.Operations) {
    if (NO_ATTRIBUTE.test(path))
      throw new ScimProblem(400, `${path} is no attribute.`, 'invalidPath');
    refuseForeign(value);
  }
  try {
    return scimPatch(
      structuredClone(resource) as unknown as ScimResource,
      read.data.Operations.flatMap((one) => oneByOne(one, resource)) as ScimPatchOperation[],
    );
  } catch (error) {
    const { message, scimCode } = error as Error & { scimCode?: string };
    const type = TYPES.find((one) => one === scimCode) ?? 'invalidValue';
    throw new ScimProblem(400, message, type);
  }
}
