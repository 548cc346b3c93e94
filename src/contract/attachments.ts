import { z } from 'zod';
import { requiredLine } from './common.ts';
import { eventDetail } from './eventDetail.ts';
import { eventPath } from './events.ts';
import { defineRoutes, file } from './route.ts';

/** Marks by which `exe.\u202efdp` is read as a document, wherever the name is shown or kept. */
const TURNS_WRITING = /[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/;

/** What a file is called; its bytes are the body. */
export const attachmentQuery = z.strictObject({
  name: requiredLine(200)
    .refine((name) => !/[\\/\0]/.test(name), 'must be a name without a folder')
    .refine(
      (name) => !TURNS_WRITING.test(name),
      'must be a name without marks that turn the direction of writing',
    ),
});
export const attachmentPath = eventPath.extend({
  attachment: z.uuid('must be the id of an attachment'),
});

/** /api/events/:id/attachments: adding a file, reading and removing it. */
export const attachmentsRoutes = defineRoutes({
  'POST /api/events/:id/attachments': {
    may: 'change event',
    params: eventPath,
    query: attachmentQuery,
    answer: eventDetail,
    status: 201,
    transaction: false,
  },
  'GET /api/events/:id/attachments/:attachment': {
    may: 'read event',
    params: attachmentPath,
    answer: file('*/*'),
    replica: true,
  },
  'DELETE /api/events/:id/attachments/:attachment': {
    may: 'change event',
    params: attachmentPath,
    answer: eventDetail,
  },
});
