/** What I hear of, behind the bell. */
export { News } from './News.tsx';
