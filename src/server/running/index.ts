/** How Marmot fares, for whoever runs it. */
export { runningApi } from './routes.ts';
