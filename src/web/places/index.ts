/** Ways out where a place is taken. */
export { WaysOut, takenIn } from './WaysOut.tsx';
