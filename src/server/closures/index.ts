/** Places that are out of use, and where their bookings go meanwhile. */
export { closuresApi } from './routes.ts';
export {
  closeFor,
  closureEdit,
  previewClosure,
  takeClosuresBack,
  type ClosureEdit,
} from './service.ts';
