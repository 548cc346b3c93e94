/** What I hear of, behind the bell. */
export { NewsList } from './News.tsx';
