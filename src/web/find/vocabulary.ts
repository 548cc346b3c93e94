import { answerTo } from '../client/index.ts';

/** Every name that can be meant, as it is asked for; the same for all who ask within five minutes. */
export const VOCABULARY = { ...answerTo('GET /api/search/names'), staleTime: 300_000 };
