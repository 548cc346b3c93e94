/** npm run check: format, lint, types, arrows, unused code and the size of the first load. */
import { runChecks } from './lib/checks.mjs';
import { ensureBuild, ensurePackages } from './lib/packages.mjs';
import { giveUp, step } from './lib/report.mjs';

try {
  await step('npm packages', ensurePackages);
  await step('The interface', ensureBuild);
  const { failed } = await runChecks();
  process.exitCode = failed ? 1 : 0;
} catch (error) {
  giveUp(error);
}
