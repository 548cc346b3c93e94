import { attachmentsRoutes } from '../../contract/attachments.ts';
import { implement } from '../http/index.ts';
import { removeAttachment, sendAttachment, takeAttachment } from './service.ts';

export const attachmentsApi = implement(attachmentsRoutes, (platform) => ({
  'POST /api/events/:id/attachments': ({ actor, params, query, ctx }) =>
    takeAttachment(ctx, platform, actor, params.id, query.name),
  'GET /api/events/:id/attachments/:attachment': ({ actor, params, ctx }) =>
    sendAttachment(ctx, platform, actor, params.id, params.attachment),
  'DELETE /api/events/:id/attachments/:attachment': (tx, { actor, params }) =>
    removeAttachment(tx, platform, actor, params.id, params.attachment),
}));
