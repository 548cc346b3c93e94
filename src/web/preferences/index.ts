/** What a person has set for themselves, as far as other views show it. */
export { useCategories } from './useCategories.ts';
