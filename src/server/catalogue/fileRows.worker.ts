import { asWorker } from '../reading/worker.ts';
import { readRows } from './fileRows.ts';

/** Reads a file of places. */
export default asWorker(readRows);
