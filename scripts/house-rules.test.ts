import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const ROOT = join(__dirname, '..');
const DEPCRUISE = join(ROOT, 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs');

interface Cruise {
  readonly summary: {
    readonly violations: { readonly rule: { readonly name: string }; readonly from: string; readonly to: string }[];
    readonly totalCruised: number;
  };
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

describe('the import rules of the house', () => {
  it('are kept by every file', () => {
    const { summary } = cruise('apps', 'packages');
    expect(summary.totalCruised).toBeGreaterThan(100);
    expect(summary.violations.map(({ rule, from, to }) => `${rule.name}: ${from} → ${to}`)).toEqual([]);
  }, 60_000);

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
