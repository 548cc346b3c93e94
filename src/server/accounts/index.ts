/** Accounts: links by letter, passwords, and where one is signed in. */
export { hasPassword, removeOwnPassword } from './own.ts';
export { forgottenJob } from './forgotten.ts';
export { shutOut, tellFormerAddresses, welcome, welcomeByHand } from './links.ts';
export { forgetLinks } from './queries.ts';
export { accountsApi } from './routes.ts';
