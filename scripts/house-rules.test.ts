import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { bearerKinds } from '@tombolo/contract';
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

/** Rooms that are a kind's own, or list the kinds; and data that is no code of ours. */
const OWN_ROOMS = [
  /^packages\/contract\/src\/bearers\//,
  /^apps\/(station|console)\/src\/bearers\//,
  /^apps\/station\/src\/(ingest\/mesh|sessions|store\/migrations)\//,
  /^packages\/scenario\//,
  /\/testing\//,
  /\.test\.tsx?$/,
];

/** Lines of code that name a kind of bearer. */
function kindsNamed(text: string, ids: readonly string[]): string[] {
  // A kind whose name is a word of the language as well is named where it is compared.
  const named = ids.map((id) => (id.includes('-') ? `'${id}'` : `kind\\)? ?[=!]== ?'${id}'|case '${id}'`)).join('|');
  return text.split('\n').filter((line) => new RegExp(named).test(line));
}

describe('the kinds of bearers', () => {
  it('are named in rooms of their own alone', () => {
    const ids = bearerKinds().map(({ id }) => id as string);
    expect(ids.length).toBeGreaterThan(4);
    const found: string[] = [];
    const look = (folder: string) => {
      for (const entry of readdirSync(folder, { withFileTypes: true })) {
        const path = join(folder, entry.name);
        if (entry.isDirectory() && !['node_modules', 'dist'].includes(entry.name)) look(path);
        if (!entry.isFile() || !/\.tsx?$/.test(entry.name)) continue;
        const name = relative(ROOT, path);
        if (OWN_ROOMS.some((room) => room.test(name))) continue;
        for (const line of kindsNamed(readFileSync(path, 'utf8'), ids)) found.push(`${name}: ${line.trim()}`);
      }
    };
    look(join(ROOT, 'apps'));
    look(join(ROOT, 'packages'));
    expect(found).toEqual([]);
  });

  it('are found where they are compared', () => {
    const ids = ['kiss-tcp', 'board'];
    expect(kindsNamed("if (config.kind === 'kiss-tcp') x();\nconst a = 1;", ids)).toHaveLength(1);
    expect(kindsNamed("switch (config.kind) {\n  case 'board':", ids)).toHaveLength(1);
    expect(kindsNamed("if (config?.kind !== 'board') x();\ncopyKey('board', key)", ids)).toHaveLength(1);
  });
});
