/** What is done to the organization as a whole, in words behind the name of whoever did it. */
export interface OrganizationFactDetails {
  'organization-changed': { name: string; what: string };
}
export const ORGANIZATION_FACT_KINDS = [
  'organization-changed',
] as const satisfies readonly (keyof OrganizationFactDetails)[];
