import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Transaction } from '../db/transaction.ts';

const MAIL_QUEUE = 'mail';
const NIGHTLY_QUEUE = 'nightly';
const PUBLISHED_QUEUE = 'published';
/** Half past two in the night, UTC: in none of the usual working hours from Halifax to Hobart. */
const NIGHTLY = '30 2 * * *';
const EVERY_QUARTER_HOUR = '*/15 * * * *';
const RETRIES = 8;
/** A delivery that takes longer is given to another worker. */
const EXPIRY_SECONDS = 60;
const BATCH = 20;

/** Work that is promised in a transaction and done after it, by any server process. */
export class Jobs {
  private readonly boss: PgBoss;
  private worker: string | undefined;

  constructor(databaseUrl: string, log: Logger) {
    this.boss = new PgBoss({
      connectionString: databaseUrl,
      max: 3,
      application_name: 'marmot jobs',
    });
    this.boss.on('error', (error) => log.error({ error }, 'the job queue failed'));
  }

  async start(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(MAIL_QUEUE);
    await this.boss.createQueue(NIGHTLY_QUEUE);
    await this.boss.createQueue(PUBLISHED_QUEUE);
  }

  /** Promises to deliver a mail of the outbox; kept or dropped with the transaction. */
  async promiseMail(tx: Transaction, mailId: string): Promise<void> {
    await this.boss.send(
      MAIL_QUEUE,
      { mailId },
      {
        retryLimit: RETRIES,
        retryDelay: 5,
        retryBackoff: true,
        expireInSeconds: EXPIRY_SECONDS,
        db: { executeSql: (text, values) => tx.query(text, values) },
      },
    );
  }

  /** Delivers promised mails; one that throws is tried again later and does not hold up the others. */
  async workOnMail(deliver: (mailId: string) => Promise<void>): Promise<void> {
    this.worker = await this.boss.work<{ mailId: string }>(
      MAIL_QUEUE,
      { batchSize: BATCH, pollingIntervalSeconds: 2 },
      async (jobs) => {
        const results = await Promise.allSettled(jobs.map((job) => deliver(job.data.mailId)));
        const failure = results.find((result) => result.status === 'rejected');
        // The whole batch is tried again; what was delivered is not delivered twice.
        if (failure) throw failure.reason;
      },
    );
  }

  /** Does `work` every night, on one of the server processes. */
  workNightly(work: () => Promise<unknown>): Promise<void> {
    return this.workRegularly(NIGHTLY_QUEUE, NIGHTLY, work);
  }

  /** Does `work` every quarter of an hour, on one of the server processes. */
  workOnPublished(work: () => Promise<unknown>): Promise<void> {
    return this.workRegularly(PUBLISHED_QUEUE, EVERY_QUARTER_HOUR, work);
  }

  private async workRegularly(queue: string, cron: string, work: () => Promise<unknown>) {
    await this.boss.schedule(queue, cron);
    await this.boss.work(queue, { pollingIntervalSeconds: 30 }, async () => {
      await work();
    });
  }

  /** Looks for work now instead of at the next poll. */
  wake(): void {
    if (this.worker) this.boss.notifyWorker(this.worker);
  }

  async end(): Promise<void> {
    await this.boss.stop({ graceful: true, timeout: 5000 });
  }
}
