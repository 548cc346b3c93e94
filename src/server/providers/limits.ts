/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Minutes: that somebody has to come back from a provider, who may have to find another device first. */
export const ATTEMPT_MS = 15 * 60_000;

/** Seconds: that a provider has to answer, before it counts as away. */
export const LONGEST_PROVIDER_SECONDS = 5;

/** Bytes: of an answer of a provider; its keys are the longest, and take a few thousand. */
export const LONGEST_PROVIDER_ANSWER = 512 * 1024;

/** Minutes: that what a provider says of itself is believed; its keys are asked for anew when one is unknown. */
export const DISCOVERED_MS = 10 * 60_000;

/** Providers: that there are at most; each has a button where one signs in. */
export const MOST_PROVIDERS = 10;

/** Characters: of a provider’s subject (OpenID Connect Core, section 2). */
export const LONGEST_SUBJECT = 255;

/** Attempts: that are begun and not ended, of all browsers; more are somebody who only begins. */
export const MOST_ATTEMPTS = 20_000;
