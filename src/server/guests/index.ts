/** People outside, who answer by the link in their letter and have no account. */
export { guestsApi } from './routes.ts';
