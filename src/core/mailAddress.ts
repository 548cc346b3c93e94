/** Longer addresses are none (RFC 5321 section 4.5.3.1.3). Characters. */
export const LONGEST_ADDRESS = 254;

/** A name of up to 64 characters at a host of several parts, in whatever script (RFC 6531). */
const ADDRESS =
  /^(?!\.)(?!.*\.\.)[^\s@<>"(),;:\\[\]\p{C}]{1,64}(?<!\.)@(?:[\p{L}\p{N}\p{M}](?:[\p{L}\p{N}\p{M}-]{0,61}[\p{L}\p{N}\p{M}])?\.)+[\p{L}\p{N}\p{M}][\p{L}\p{N}\p{M}-]{0,61}[\p{L}\p{N}\p{M}]$/u;

/** Whether a text is one mail address. */
export const isMailAddress = (text: string): boolean =>
  text.length <= LONGEST_ADDRESS && ADDRESS.test(text);

/**
 * The one spelling by which an address is looked up, counted and compared, whoever wrote it how: the same
 * for accounts, for limits of guesses and for letters. Databases fold other letters than JavaScript does
 * (`İ`), so that what is compared with `lower(email)` is this and never folded there once more.
 */
export const addressKey = (address: string): string => address.normalize('NFC').toLowerCase();
