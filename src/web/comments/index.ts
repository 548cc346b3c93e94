/** What those who take part in a meeting say to each other about it. */
export { CommentsOn } from './CommentsOn.tsx';
