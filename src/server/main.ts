/** The server process: settings from the environment, real parts put together, signals obeyed. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { mailroomRoutes } from '../../demo/stand-ins/mailroom/routes.ts';
import { mailroomTransport } from '../../demo/stand-ins/mailroom/transport.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { partnerRoutes } from '../../demo/stand-ins/partnerCalendars/routes.ts';
import { readConfig } from './config.ts';
import { pages } from './http/pages.ts';
import { webCalendars } from './published/source.ts';
import { smtpTransport } from './mail/transport.ts';
import { startServer } from './server.ts';
import { demonstration } from './session/queries.ts';

const config = readConfig(process.env);
const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '../../dist/web');

const server = await startServer(config, {
  transport: config.smtpUrl ? smtpTransport(config.smtpUrl) : mailroomTransport,
  calendars: (clock) => partnerCalendars(clock, webCalendars),
  routers: (platform) => [
    partnerRoutes(platform),
    ...(config.smtpUrl ? [] : [mailroomRoutes(platform)]),
  ],
  ...(existsSync(root) && { pages: pages(root) }),
}).catch((error: NodeJS.ErrnoException) => {
  const why =
    error.code === 'EADDRINUSE'
      ? `port ${config.port} is in use; choose another, such as PORT=${config.port + 1} npm start`
      : error.message;
  process.stderr.write(`Marmot could not start: ${why}\n`);
  process.exit(1);
});

const sample = await demonstration(server.platform.pool);
process.stdout.write(`\nMarmot is at http://localhost:${server.port}\n`);
if (sample) {
  const someone = sample.people.slice(0, 3).map((person) => person.email);
  process.stdout.write(
    `Sign in as ${someone.join(', ')} or anyone else in the list shown there, with the password "${sample.password}".\n`,
  );
}
process.stdout.write('Ctrl-C stops it.\n');

let ending = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    void server.end().then(() => process.exit(0));
  });
}
