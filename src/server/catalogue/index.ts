/** The places there are, as those who look after them keep them. */
export { catalogueApi } from './routes.ts';
export { placeHistory } from './history.ts';
