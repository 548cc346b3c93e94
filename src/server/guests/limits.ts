/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** People: of more others than this, a guest is told only how many they are. */
export const MOST_OTHERS_NAMED = 3;
