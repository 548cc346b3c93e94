/** Places that are out of use, and where their bookings go meanwhile. */
export { closuresApi } from './routes.ts';
export { closePlace, previewClosure } from './service.ts';
