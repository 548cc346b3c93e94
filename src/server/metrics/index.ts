/** What those who run Marmot can measure. */
export { createMetrics, serveMetrics } from './metrics.ts';
