/* The header's field, before and after all of it is there. */

export const FIELD_LABEL = 'Find a person, a place or a view, or say a meeting';
export const FIELD_PLACEHOLDER = 'Find, or say it: “kelp review with Ines Thu 14:00”';
export const FIELD_BOX =
  'relative order-last h-9 w-full max-sm:order-none max-sm:h-11 max-sm:flex-1 lg:order-none lg:w-auto lg:max-w-[380px] lg:flex-1';
export const FIELD_LOOK =
  'w-full field-sizing-content min-h-9 resize-none max-sm:min-h-11 overflow-hidden rounded-[18px] border border-edge bg-sheet px-4 py-1.5 placeholder:text-ink-2 max-sm:py-2.5';

/** What was done in the header's field before all of it was there. */
export interface Begun {
  text: string;
  hasFocus: boolean;
  isEntered: boolean;
}
