/** Finding people, teams and places by a part of their name, wherever one is picked. */
export { FindField } from './FindField.tsx';
export { useFound, useHighlight, valueOf } from './useFound.ts';
export { VOCABULARY } from './vocabulary.ts';
