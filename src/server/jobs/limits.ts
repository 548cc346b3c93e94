/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Milliseconds: how often is looked for work when nothing is announced, in which time a dead server's is found. */
export const LOOK_EVERY_MS = 2_000;

/** Milliseconds: a lease is short and made longer while its server lives: what a dead one had is soon free. */
export const LEASE_MS = 15_000;

/** Milliseconds: after which a server that lives makes its leases longer. */
export const RENEW_LEASE_EVERY_MS = 5_000;
