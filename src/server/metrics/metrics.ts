import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Middleware } from 'koa';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { readBacklog } from '../jobs/index.ts';
import { retries } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';

const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

/** What those who run it can measure of a server process. */
export interface Metrics {
  /** Measures every request, by its route and not by its address. */
  measure: Middleware;
  /** All of it, as Prometheus reads it. */
  text(): Promise<string>;
}

/** Measures a server: requests by route, connections, streams, the event loop, jobs and letters that wait. */
export function createMetrics({ pool, live, clock, log }: Platform): Metrics {
  const registry = new Registry();
  const registers = [registry];
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'marmot_request_seconds',
    help: 'Time from a request to its answer, by route.',
    labelNames: ['method', 'route', 'status'],
    buckets: SECONDS,
    registers,
  });
  const gauge = (name: string, help: string, read: () => number) =>
    new Gauge({
      name,
      help,
      registers,
      collect() {
        this.set(read());
      },
    });
  gauge('marmot_database_connections', 'Connections to the database.', () => pool.totalCount);
  gauge('marmot_database_connections_idle', 'Those of them that are idle.', () => pool.idleCount);
  gauge('marmot_database_waiting', 'Requests that wait for one.', () => pool.waitingCount);
  gauge('marmot_live_streams', 'Windows that are listening.', () => live.size);
  new Gauge({
    name: 'marmot_transaction_retries',
    help: 'Transactions that were tried again since the server began, by why.',
    labelNames: ['why'],
    registers,
    collect() {
      for (const [why, count] of Object.entries(retries)) this.set({ why }, count);
    },
  });
  const waiting = (name: string, help: string) => new Gauge({ name, help, registers });
  const backlog = {
    jobs: waiting('marmot_jobs_due', 'Jobs that are due.'),
    jobsAge: waiting('marmot_jobs_oldest_seconds', 'Since when the oldest of them is due.'),
    letters: waiting('marmot_letters_waiting', 'Letters that have not gone out.'),
    lettersAge: waiting('marmot_letters_oldest_seconds', 'How old the oldest of them is.'),
  };
  return {
    measure: async (ctx, next) => {
      const began = performance.now();
      try {
        await next();
      } finally {
        const { routerPath } = ctx as { routerPath?: string };
        const route = routerPath ?? (ctx.path.startsWith('/api') ? 'unknown' : 'pages');
        // A stream lasts as long as somebody looks, which says nothing of how quick the server is.
        if (route !== '/api/live') {
          requests
            .labels(ctx.method, route, String(ctx.status))
            .observe((performance.now() - began) / 1000);
        }
      }
    },
    async text() {
      try {
        const { jobs, letters } = await readBacklog(pool, clock.now());
        backlog.jobs.set(jobs.count);
        backlog.jobsAge.set(jobs.oldestSeconds);
        backlog.letters.set(letters.count);
        backlog.lettersAge.set(letters.oldestSeconds);
      } catch (error) {
        // The rest is of use just then.
        log.warn({ why: (error as Error).message }, 'what waits could not be read');
      }
      return registry.metrics();
    },
  };
}

export interface MetricsPage {
  port: number;
  end(): Promise<void>;
}

/** Serves the metrics on an address of their own, which those who use Marmot need not reach. */
export function serveMetrics(metrics: Metrics, host: string, port: number): Promise<MetricsPage> {
  const server = createServer((request, response) => {
    if (request.url !== '/metrics') {
      response.writeHead(404).end();
      return;
    }
    metrics.text().then(
      (text) => response.writeHead(200, { 'Content-Type': 'text/plain; version=0.0.4' }).end(text),
      () => response.writeHead(500).end(),
    );
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      resolve({
        port: (server.address() as AddressInfo).port,
        end: () =>
          new Promise((ended) => {
            server.close(() => ended());
            server.closeAllConnections();
          }),
      });
    });
  });
}
