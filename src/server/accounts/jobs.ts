/** The kind of job that answers whoever forgot a password; its key is the address. */
export const FORGOTTEN_JOB = 'forgotten-password';
