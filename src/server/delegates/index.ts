/** Who plans, answers and books for somebody else. */
export { delegatesRoutes } from './routes.ts';
