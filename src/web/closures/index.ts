/** Places out of use: taking them out, with where their bookings go, and the way back. */
export { TakeOutOfUse } from './OutOfUse.tsx';
export { OutOfUseList } from './OutOfUseList.tsx';
export { InUseAgain } from './UseAgain.tsx';
