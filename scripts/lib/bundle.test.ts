import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { bundleProgram } from './bundle.mjs';

const ROOT = join(__dirname, '../..');
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'bundle-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

function write(path: string, text: string): void {
  mkdirSync(join(folder, path, '..'), { recursive: true });
  writeFileSync(join(folder, path), text);
}
/** The program of `a/main.ts`, which lies in that folder. */
async function built(into: string): Promise<string> {
  const outfile = join(folder, into, 'main.mjs');
  await bundleProgram(relative(ROOT, join(folder, 'a/main.ts')), outfile);
  return readFileSync(outfile, 'utf8');
}

describe('a program as one file', () => {
  beforeEach(() => {
    write(
      'a/main.ts',
      `import { join } from 'node:path'; import x from 'some-package/deep'; console.log(join(x, 'y'));`,
    );
    write('a/node_modules/some-package/deep.js', 'module.exports = 1;');
  });

  it('leaves other packages out where it finds the same ones', async () => {
    expect(await built('a/dist')).toMatch(/from "some-package\/deep"/);
  });

  it('is not built where it would find another one, or none', async () => {
    await expect(built('b')).rejects.toThrow(
      /asks for some-package, of which the program in .* would find another or none/,
    );
    write('b/node_modules/some-package/deep.js', 'module.exports = 2;');
    await expect(built('b')).rejects.toThrow(/asks for some-package/);
  });
});
