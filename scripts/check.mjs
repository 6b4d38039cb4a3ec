import { root } from './lib/places.mjs';
import { step } from './lib/progress.mjs';
import { run } from './lib/run.mjs';
import { lint, types } from './lib/static-checks.mjs';

/** The quick look before a commit: types, lint, import rules and the tests that need no server. */
try {
  await Promise.all([step('Types', types), step('Lint', lint)]);
  await step('Core, contract and import rules', () =>
    run('npx', ['jest', '--selectProjects', 'core', 'console'], { cwd: root }),
  );
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
