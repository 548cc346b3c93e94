/** Places that are out of use. */
export { InUseAgain, TakeOutOfUse } from './OutOfUse.tsx';
