// Writes src/core/time/zoneNames.ts anew from the zone database of this machine: after an update of it.
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath, URL } from 'node:url';

const FOLDER = '/usr/share/zoneinfo';
const root = new URL('..', import.meta.url);
const version = /^# version (\S+)/.exec(readFileSync(`${FOLDER}/tzdata.zi`, 'utf8'))?.[1];
if (!version) throw new Error(`${FOLDER}/tzdata.zi does not say which version it is`);
const names = readFileSync(`${FOLDER}/zone.tab`, 'utf8')
  .split('\n')
  .filter((line) => line && !line.startsWith('#'))
  .map((line) => line.split('\t')[2])
  .sort();
writeFileSync(
  fileURLToPath(new URL('src/core/time/zoneNames.ts', root)),
  `// Written by scripts/zones.mjs from zone.tab of ${version}; not changed by hand.
// prettier-ignore
export const GEOGRAPHIC_ZONES: readonly string[] = [
${names.map((name) => `  '${name}',`).join('\n')}
];
`,
);
console.log(`${names.length} zones of ${version}`);
