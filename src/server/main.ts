/** The server process: settings from the environment, real parts put together, signals obeyed. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { identityRoutes, offerIdentity } from '../../demo/stand-ins/identity/routes.ts';
import { mailroomApi } from '../../demo/stand-ins/mailroom/routes.ts';
import { mailroomTransport } from '../../demo/stand-ins/mailroom/transport.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { partnerRoutes } from '../../demo/stand-ins/partnerCalendars/routes.ts';
import { isViewAddress } from '../contract/views.ts';
import { isReachedByOthers, readConfig } from './config.ts';
import { pages } from './http/pages.ts';
import { webCalendars } from './published/index.ts';
import { smtpTransport } from './mail/index.ts';
import { startServer } from './server.ts';
import { demonstration } from './session/index.ts';
import { setupLink } from './setup/index.ts';
import { MOST_TO_END_MS } from './limits.ts';

/** Exit codes: settings that cannot work, which another try does not mend, and everything else. */
const WRONG_SETTINGS = 78;
const FAILED = 70;

const config = settings();
const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '../../dist/web');

const server = await startServer(config, {
  transport: config.smtpUrl ? () => smtpTransport(config.smtpUrl!) : mailroomTransport,
  calendars: (clock) => partnerCalendars(clock, webCalendars),
  capabilities: config.smtpUrl ? [] : [mailroomApi],
  routers: (platform) => [partnerRoutes(platform), identityRoutes(platform)],
  ...(existsSync(root) && { pages: pages(root, isViewAddress) }),
}).catch((error: NodeJS.ErrnoException) => {
  const why =
    error.code === 'EADDRINUSE'
      ? `port ${config.port} is in use; choose another, such as PORT=${config.port + 1} npm start`
      : error.message;
  process.stderr.write(`Marmot could not start: ${why}\n`);
  process.exit(error.code === 'EADDRINUSE' ? WRONG_SETTINGS : FAILED);
});

const sample = await demonstration(server.platform.pool);
if (sample && isReachedByOthers(config) && !config.demonstrationMayBePublic) {
  process.stderr.write(
    'Marmot could not start: the demonstration’s password is known to everybody, and HOST, ' +
      'MARMOT_PUBLIC_URL or MARMOT_PROXIES would show it beyond this machine. ' +
      'MARMOT_DEMONSTRATION=public does so all the same.\n',
  );
  process.exit(WRONG_SETTINGS);
}
if (sample) await offerIdentity(server.platform);
process.stdout.write(`\nMarmot is at ${server.platform.publicUrl}\n`);
const link = await setupLink(server.platform);
if (link) {
  process.stdout.write(
    `Nobody can sign in yet. This link makes the first administrator, once and within a day:\n${link}\n`,
  );
}
if (sample) {
  const someone = sample.people.slice(0, 3).map((person) => person.email);
  process.stdout.write(
    `Sign in as ${someone.join(', ')} or anyone else in the list shown there, with the password "${sample.password}".\n`,
  );
}
process.stdout.write('Ctrl-C stops it.\n');

function settings() {
  try {
    return readConfig(process.env);
  } catch (error) {
    process.stderr.write(`Marmot could not start: ${(error as Error).message}\n`);
    process.exit(WRONG_SETTINGS);
  }
}

let ending = false;

/** Lets what is under way end, at most so long, and then ends the process. */
function end(code: number) {
  if (ending) return;
  ending = true;
  setTimeout(() => process.exit(code || 1), MOST_TO_END_MS).unref();
  server.end().then(
    () => process.exit(code),
    () => process.exit(1),
  );
}
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));

// What nobody foresaw may have left anything behind: the process ends in order, and is started again.
for (const event of ['uncaughtException', 'unhandledRejection'] as const) {
  process.on(event, (error: unknown) => {
    server.platform.log.fatal({ error }, 'something broke that nobody waited for; ending');
    end(FAILED);
  });
}
