const NUMBERS = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');

/** `6` or `six`; NaN for anything else. */
export const numberOf = (text: string): number =>
  /^\d{1,3}$/.test(text)
    ? Number(text)
    : NUMBERS.includes(text.toLowerCase())
      ? NUMBERS.indexOf(text.toLowerCase())
      : Number.NaN;
