import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort } from './port.ts';

/** Whether this machine has a Postfix that a test can start: it starts as root alone. */
export const hasPostfix = (): boolean =>
  existsSync('/usr/sbin/postfix') && process.getuid?.() === 0;

const MASTER = (port: number) => `
127.0.0.1:${port} inet n - n - - smtpd
pickup    unix n - n 60 1 pickup
cleanup   unix n - n - 0 cleanup
qmgr      unix n - n 300 1 qmgr
rewrite   unix - - n - - trivial-rewrite
bounce    unix - - n - 0 bounce
defer     unix - - n - 0 bounce
trace     unix - - n - 0 bounce
verify    unix - - n - 1 verify
flush     unix n - n 1000? 0 flush
proxymap  unix - - n - - proxymap
smtp      unix - - n - - smtp
lmtp      unix - - n - - lmtp
error     unix - - n - - error
retry     unix - - n - - error
anvil     unix - - n - 1 anvil
scache    unix - - n - 1 scache
postlog   unix-dgram n - n - 1 postlogd
`;

/** A mail server as Debian ships it, with a queue of its own, on loopback. */
export class Postfix {
  private readonly folder = mkdtempSync(path.join(tmpdir(), 'marmot-postfix-'));
  port = 0;

  /**
   * @param lmtpPort where it hands over what comes to people of here
   * @param sinkPort the mail server to which everything else goes
   */
  async start(lmtpPort: number, sinkPort: number): Promise<void> {
    this.port = await freePort();
    const [conf, queue, data] = ['conf', 'queue', 'data'].map((name) =>
      path.join(this.folder, name),
    ) as [string, string, string];
    for (const one of [conf, queue, data]) mkdirSync(one);
    chmodSync(this.folder, 0o755);
    spawnSync('chown', ['postfix', data]);
    writeFileSync(
      path.join(conf, 'main.cf'),
      [
        'compatibility_level = 3.6',
        `queue_directory = ${queue}`,
        `data_directory = ${data}`,
        'command_directory = /usr/sbin',
        'daemon_directory = /usr/lib/postfix/sbin',
        'inet_interfaces = 127.0.0.1',
        'inet_protocols = ipv4',
        'myhostname = mx.ternrock.example',
        'mydestination =',
        'mynetworks = 127.0.0.0/8',
        'alias_maps =',
        'alias_database =',
        `maillog_file = ${path.join(this.folder, 'log')}`,
        `maillog_file_prefixes = ${tmpdir()}`,
        'smtpd_relay_restrictions = permit_mynetworks, reject',
        `default_transport = smtp:[127.0.0.1]:${sinkPort}`,
        // A minute is long for a test.
        'minimal_backoff_time = 1s',
        'maximal_backoff_time = 2s',
        'queue_run_delay = 1s',
        // The lines of docs/OPERATIONS.md.
        'virtual_mailbox_domains = ternrock.example',
        `virtual_transport = lmtp:inet:127.0.0.1:${lmtpPort}`,
        'lmtp_destination_recipient_limit = 100',
        'message_size_limit = 2097152',
        '',
      ].join('\n'),
    );
    writeFileSync(path.join(conf, 'master.cf'), MASTER(this.port));
    this.command('start');
  }

  /** Stops it and starts it again, with what is in its queue. */
  restart(): void {
    this.command('stop');
    this.command('start');
  }

  /** How many letters are in its queue. */
  queued(): number {
    const list = spawnSync('/usr/sbin/postqueue', ['-c', path.join(this.folder, 'conf'), '-j'], {
      encoding: 'utf8',
    });
    return list.stdout.split('\n').filter(Boolean).length;
  }

  end(): void {
    this.command('stop');
    rmSync(this.folder, { recursive: true, force: true });
  }

  private command(name: string): void {
    const run = spawnSync('/usr/sbin/postfix', ['-c', path.join(this.folder, 'conf'), name], {
      encoding: 'utf8',
    });
    if (run.status !== 0) throw new Error(`postfix did not ${name}: ${run.stdout}${run.stderr}`);
  }
}
