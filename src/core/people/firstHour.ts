/** What an installation needs before it is used, each done, left for later, or open. */
export const START_STEPS = ['organization', 'site', 'people', 'places', 'mail'] as const;
export type StartStep = (typeof START_STEPS)[number];
