/** Where the time of a server under load goes: which processes, which statements, which code. */
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type pg from 'pg';

/** Ticks of a processor's time that a process has had, 100 a second. */
function ticksOf(pid: number): { own: number; parent: number } {
  try {
    const [, rest] = readFileSync(`/proc/${pid}/stat`, 'utf8').split(/\) (?=[A-Z] )/);
    const fields = rest!.split(' ');
    return { own: Number(fields[11]) + Number(fields[12]), parent: Number(fields[1]) };
  } catch {
    // It is gone meanwhile.
    return { own: 0, parent: 0 };
  }
}

/** The processors' time of the server, of its database and of who asks them, seconds so far. */
export async function processorTimes(
  sql: pg.Client,
  serverPid: number,
): Promise<{ server: number; database: number; clients: number }> {
  const { rows } = await sql.query<{ pid: number }>('select pg_backend_pid() as pid');
  const postmaster = ticksOf(rows[0]!.pid).parent;
  const all = readdirSync('/proc').filter((name) => /^\d+$/.test(name));
  const database = all
    .map((name) => ticksOf(Number(name)))
    .reduce((sum, one) => (one.parent === postmaster ? sum + one.own : sum), 0);
  return {
    server: ticksOf(serverPid).own / 100,
    database: database / 100,
    clients: ticksOf(process.pid).own / 100,
  };
}

/** The statements that take the most of the database's time since they were last counted from nought. */
export async function statementShares(
  sql: pg.Client,
  most: number,
): Promise<{ statement: string; share: number; calls: number; ms: number }[]> {
  const { rows } = await sql.query<{ statement: string; share: number; calls: number; ms: number }>(
    `select left(regexp_replace(query, '\\s+', ' ', 'g'), 60) as statement,
            calls::int, mean_exec_time as ms,
            total_exec_time / sum(total_exec_time) over () as share
     from pg_stat_statements
     where dbid = (select oid from pg_database where datname = current_database())
     order by total_exec_time desc limit $1`,
    [most],
  );
  return rows;
}

interface CpuProfile {
  nodes: { id: number; callFrame: { functionName: string; url: string }; children?: number[] }[];
  samples: number[];
}

/** A folder into which a process writes where its own time went, when it ends. */
export class CodeProfile {
  private readonly folder = mkdtempSync(path.join(tmpdir(), 'marmot-profile-'));

  /** By which a process is told to write it. */
  get flags(): string[] {
    return ['--cpu-prof', `--cpu-prof-dir=${this.folder}`];
  }

  /** The parts of a program, each with its share of the time that was not spent waiting. */
  shares(): { part: string; share: number }[] {
    const counted = new Map<string, number>();
    let busy = 0;
    for (const file of readdirSync(this.folder)) {
      const profile = JSON.parse(readFileSync(path.join(this.folder, file), 'utf8')) as CpuProfile;
      const partOf = new Map(profile.nodes.map(({ id, callFrame }) => [id, partNamed(callFrame)]));
      for (const sample of profile.samples) {
        const part = partOf.get(sample)!;
        if (part === null) continue;
        busy++;
        counted.set(part, (counted.get(part) ?? 0) + 1);
      }
    }
    rmSync(this.folder, { recursive: true });
    return [...counted]
      .map(([part, samples]) => ({ part, share: samples / busy }))
      .sort((a, b) => b.share - a.share);
  }
}

/** Which part of the program a function belongs to; null for waiting. */
function partNamed({ functionName, url }: { functionName: string; url: string }): string | null {
  if (functionName === '(idle)') return null;
  if (functionName === '(garbage collector)') return 'garbage collector';
  // Such as writing to a socket, which the system does.
  if (url === '') return `native ${functionName}`;
  const [inner] = /^node:(internal\/)?\w+/.exec(url) ?? [];
  if (inner) return inner;
  const [, pack] = /node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(url) ?? [];
  if (pack) return pack;
  const [, own] = /\/src\/(\w+(?:\/\w+)?)/.exec(url) ?? [];
  return own ? `src/${own}` : 'loading';
}
