import { existsSync, realpathSync } from 'node:fs';
import { isBuiltin } from 'node:module';
import { dirname, join } from 'node:path';
import { root } from './places.mjs';

/** A program of ours as one file; other packages stay in node_modules, since some load drivers by name. */
export async function bundleProgram(source, outfile) {
  const { build } = await import('esbuild');
  await build({
    entryPoints: [join(root, source)],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    plugins: [ownPackages, othersFor(dirname(outfile))],
    logLevel: 'silent',
  });
}

/** Our own packages are TypeScript: they are bundled, unlike all others. */
const ownPackages = {
  name: 'own packages',
  setup(build) {
    build.onResolve({ filter: /^@tombolo\// }, ({ path }) => {
      const [, name, ...rest] = path.split('/');
      return { path: join(root, 'packages', name, 'src', `${rest.join('/') || 'index'}.ts`) };
    });
  },
};

/** Where a package lies for what is imported in that folder; null when it is not there. */
function packageFor(folder, name) {
  const found = join(folder, 'node_modules', name);
  if (existsSync(found)) return realpathSync(found);
  return folder === dirname(folder) ? null : packageFor(dirname(folder), name);
}

/** The package that a folder belongs to. */
const packageOf = (folder) =>
  existsSync(join(folder, 'package.json')) || folder === dirname(folder) ? folder : packageOf(dirname(folder));

/**
 * Others are left out, and found from where the program lies: refused when that is another one than the source asks for, or none. What
 * belongs to none of our packages, as the benchmarks, asks for those of its program.
 */
const othersFor = (folder) => ({
  name: 'packages of others',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, ({ path, importer, resolveDir, kind }) => {
      if (kind === 'entry-point' || isBuiltin(path)) return undefined;
      const name = path
        .split('/')
        .slice(0, path.startsWith('@') ? 2 : 1)
        .join('/');
      const wanted = packageFor(packageOf(resolveDir) === root ? folder : resolveDir, name);
      if (wanted && wanted === packageFor(folder, name)) return { external: true };
      return {
        errors: [
          { text: `${importer} asks for ${name}, of which the program in ${folder} would find another or none` },
        ],
      };
    });
  },
});
