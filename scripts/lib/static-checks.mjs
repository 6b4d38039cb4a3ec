import { root } from './places.mjs';
import { run } from './run.mjs';

/** Strict types, everywhere. */
export async function types() {
  await run('npx', ['tsc', '--noEmit', '-p', 'tsconfig.json'], { cwd: root });
  await run('npx', ['tsc', '--noEmit', '-p', 'apps/console/tsconfig.json'], { cwd: root });
}

export const lint = () => run('npx', ['eslint', '--max-warnings', '0', '.'], { cwd: root });
