import { spawn } from 'node:child_process';
import { once } from 'node:events';
import pg from 'pg';

const ADMIN = process.env.MARMOT_TEST_CLUSTER!;

/** Starts Marmot on a database as whoever runs it would. @returns what it said, once it said enough */
export function startMarmot(env: Record<string, string>, enough: RegExp) {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const ready = new Promise<string>((resolve, reject) => {
    for (const stream of [child.stdout, child.stderr]) {
      stream.setEncoding('utf8').on('data', (text: string) => {
        said += text;
        if (enough.test(said)) resolve(said);
      });
    }
    child.on('exit', () => reject(new Error(said)));
  });
  const end = async () => {
    if (child.exitCode !== null) return;
    const gone = once(child, 'exit');
    child.kill('SIGTERM');
    await gone;
  };
  return { ready, end };
}

/** An empty database of a name, as long as some work takes. */
export async function withEmptyDatabase(
  name: string,
  work: (url: string) => Promise<void>,
): Promise<void> {
  const admin = new pg.Client({ connectionString: ADMIN });
  await admin.connect();
  await admin.query(`drop database if exists ${name} with (force)`);
  await admin.query(`create database ${name}`);
  try {
    await work(ADMIN.replace(/\/postgres$/, `/${name}`));
  } finally {
    await admin.query(`drop database if exists ${name} with (force)`);
    await admin.end();
  }
}
