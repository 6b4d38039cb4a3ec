import { root } from './places.mjs';
import { run } from './run.mjs';

/** Strict types, everywhere. */
export async function types() {
  await run('npx', ['tsc', '--noEmit', '-p', 'tsconfig.json'], { cwd: root });
  await run('npx', ['tsc', '--noEmit', '-p', 'apps/console/tsconfig.json'], { cwd: root });
}

export const lint = async () => {
  await run('npx', ['eslint', '--max-warnings', '0', '.'], { cwd: root });
  // What nothing uses goes: files, and what files offer (knip.json).
  await run('npx', ['knip', '--no-progress', '--include', 'files,exports'], { cwd: root });
};
