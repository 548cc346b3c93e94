import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { TEST_NOW } from './cluster.ts';
import { createTestDatabase, type TestDatabase } from './database.ts';
import { freePort } from './port.ts';
import { eventually } from './server.ts';

/** A server process of its own, as it runs anywhere, on a database of a test. */
export class ServerProcess {
  child!: ChildProcess;
  base = '';
  /** What it logged. */
  log = '';

  constructor(
    readonly databaseUrl: string,
    private readonly env: Record<string, string> = {},
    /** What Node itself is told. */
    private readonly flags: readonly string[] = [],
  ) {}

  /** Starts it and waits until it answers. */
  async start(): Promise<void> {
    const port = this.base ? new URL(this.base).port : String(await freePort());
    this.base = `http://127.0.0.1:${port}`;
    this.child = spawn(process.execPath, [...this.flags, '--import', 'tsx', 'src/server/main.ts'], {
      env: {
        ...process.env,
        MARMOT_DATABASE_URL: this.databaseUrl,
        MARMOT_NOW: TEST_NOW,
        MARMOT_LOG: 'error',
        PORT: port,
        ...this.env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [this.child.stdout!, this.child.stderr!]) {
      stream.setEncoding('utf8').on('data', (text: string) => {
        this.log = (this.log + text).slice(-200_000);
      });
    }
    await eventually(() => {
      if (!this.runs) throw new Error(`the server ended instead of starting:\n${this.log}`);
      return this.healthy();
    }, 60);
  }

  healthy(): Promise<boolean> {
    return fetch(`${this.base}/api/health`, { signal: AbortSignal.timeout(2000) }).then(
      async (answer) => {
        await answer.arrayBuffer();
        return answer.ok;
      },
      () => false,
    );
  }

  get runs(): boolean {
    return this.child.exitCode === null && this.child.signalCode === null;
  }

  /** What it holds of the machine's memory. Megabytes. */
  memory(): number {
    const status = readFileSync(`/proc/${this.child.pid}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024;
  }

  async end(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    if (!this.runs) return;
    const gone = once(this.child, 'exit');
    this.child.kill(signal);
    await gone;
  }
}

/** A server process on a new database with the demonstration in it. */
export async function startProcess(
  env: Record<string, string> = {},
): Promise<{ database: TestDatabase; server: ServerProcess; end: () => Promise<void> }> {
  const database = await createTestDatabase();
  const server = new ServerProcess(database.url, env);
  await server.start();
  return {
    database,
    server,
    end: async () => {
      await server.end();
      await database.drop();
    },
  };
}
