import { readAddressList } from '../../core/planner/addresses.ts';
import { asWorker } from '../reading/worker.ts';

/** Reads a pasted list of addresses. */
export default asWorker(readAddressList);
