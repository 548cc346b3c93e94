/** The address of a plan, which is all that others need of it. */
export { planPath, required } from './address.ts';
export { sentenceAddress } from './sentenceAddress.ts';
