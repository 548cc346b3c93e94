/** What those who take part in a meeting say to each other about it. */
export { commentBelonging } from './queries.ts';
export { commentsApi } from './routes.ts';
