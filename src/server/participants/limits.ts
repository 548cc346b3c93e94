/* What is bound here, each with its unit and its reason; docs/OPERATIONS.md lists them. */

/** Characters: of the proof in an address for answers: 128 bits. */
export const PROOF_LENGTH = 32;
