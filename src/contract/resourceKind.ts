import { z } from 'zod';

export const RESOURCE_KINDS = ['room', 'lab', 'desk', 'equipment', 'vehicle', 'parking'] as const;
export const resourceKind = z.enum(RESOURCE_KINDS, {
  error: `must be one of ${RESOURCE_KINDS.join(', ')}`,
});
export type ResourceKind = (typeof RESOURCE_KINDS)[number];
