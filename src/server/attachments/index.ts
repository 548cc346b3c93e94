/** Files put to events. */
export const attachmentBelonging = {
  table: 'attachment',
  columns: ['file_id', 'name', 'added_by', 'added_at'],
  identity: ['file_id', 'name'],
};
export { receive, refuseTooLarge, typeOfFile } from './upload.ts';
export { forgetFiles, readAttachment } from './queries.ts';
export { attachmentsApi } from './routes.ts';
