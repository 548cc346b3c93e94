/** Keys that devices keep, by which people sign in (WebAuthn). */
export { passkeysApi } from './routes.ts';
