/** Sign-in by those who vouch for people elsewhere (OpenID Connect). */
export { providersApi } from './routes.ts';
