import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { folderCircles } from './lib/folder-circles';

const ROOT = join(__dirname, '..');
const DEPCRUISE = join(ROOT, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs');

interface Cruise {
  readonly summary: {
    readonly violations: { readonly rule: { readonly name: string }; readonly from: string; readonly to: string }[];
    readonly totalCruised: number;
  };
  readonly modules: readonly {
    readonly source: string;
    readonly dependencies: readonly { readonly resolved: string }[];
  }[];
}

function cruise(...paths: string[]): Cruise {
  const { stdout, stderr } = spawnSync(
    process.execPath,
    [DEPCRUISE, '--config', '.dependency-cruiser.cjs', '--output-type', 'json', ...paths],
    { cwd: ROOT, encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 },
  );
  if (stdout === '') throw new Error(stderr);
  return JSON.parse(stdout) as Cruise;
}

const circlesOf = ({ modules }: Cruise): string[] =>
  folderCircles(
    modules.map(({ source, dependencies }) => ({ source, imports: dependencies.map(({ resolved }) => resolved) })),
  );

describe('the import rules of the house', () => {
  it('are kept by every file, and the rooms of each workspace lie in an order', () => {
    const found = cruise('apps', 'packages');
    const { summary } = found;
    expect(circlesOf(found)).toEqual([]);
    expect(summary.totalCruised).toBeGreaterThan(100);
    expect(summary.violations.map(({ rule, from, to }) => `${rule.name}: ${from} → ${to}`)).toEqual([]);
  }, 60_000);

  it('catch rooms that know each other, as far around as it goes', () => {
    const file = (room: string, ...rooms: string[]) => ({
      source: `apps/a/src/${room}/x.ts`,
      imports: rooms.map((to) => `apps/a/src/${to}/deep/y.ts`),
    });
    expect(folderCircles([file('one', 'two'), file('two', 'three'), file('three')])).toEqual([]);
    expect(folderCircles([file('one', 'two', 'one'), file('two', 'three'), file('three', 'one')])).toEqual([
      expect.stringMatching(/^apps\/a\/src\/one → apps\/a\/src\/two → apps\/a\/src\/three → apps\/a\/src\/one: /),
    ]);
    // Tests may look anywhere.
    expect(
      folderCircles([file('one', 'two'), { source: 'apps/a/src/two/x.test.ts', imports: ['apps/a/src/one/x.ts'] }]),
    ).toEqual([]);
  });

  it('catch a core file that reaches out', () => {
    const folder = mkdtempSync(join(ROOT, 'packages/core/src/link/breach-'));
    try {
      writeFileSync(
        join(folder, 'breach.ts'),
        "import 'node:fs';\nimport '@tombolo/contract';\nimport '../../aprs/packet';\n",
      );
      const names = cruise(folder.slice(ROOT.length + 1)).summary.violations.map(({ rule }) => rule.name);
      expect(new Set(names)).toEqual(new Set(['core-pure', 'core-alone', 'link-lowest']));
    } finally {
      rmSync(folder, { recursive: true });
    }
  }, 60_000);
});
