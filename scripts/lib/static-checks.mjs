import { join } from 'node:path';
import { root } from './places.mjs';
import { run } from './run.mjs';

/** TypeScript's compiler as a native program: a third of the processor's time. What reads its syntax trees needs the one in JavaScript. */
const TSC = join(root, 'node_modules/typescript-native/bin/tsc');

/** Strict types, everywhere. */
export async function types() {
  for (const project of ['tsconfig.json', 'apps/console/tsconfig.json'])
    await run(process.execPath, [TSC, '--noEmit', '-p', project], { cwd: root });
}

export const lint = async () => {
  await run('npx', ['eslint', '--max-warnings', '0', '.'], { cwd: root });
  // What nothing uses goes: files, and what files offer (knip.json).
  await run('npx', ['knip', '--no-progress', '--include', 'files,exports'], { cwd: root });
};
