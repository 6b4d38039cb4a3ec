import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const ROOT = join(__dirname, '..');
const GLOSSARY = readFileSync(join(ROOT, 'docs/glossary.md'), 'utf8');

/** The rows of a table of two columns below a heading. */
function rowsBelow(heading: string, text: string): [string, string][] {
  const [, below = ''] = text.split(`# ${heading}\n`);
  const [section = ''] = below.split('\n# ');
  return section
    .split('\n')
    .flatMap((line) => /^\| ([^|]+) \| ([^|]+) \|$/.exec(line) ?? [])
    .reduce<[string, string][]>((rows, _, i, all) => (i % 3 === 0 ? [...rows, [all[i + 1]!, all[i + 2]!]] : rows), [])
    .slice(1);
}

/** Lines of what is written here – code, tests, documents – in which something is said. */
function linesWith(phrase: string): string[] {
  const { stdout } = spawnSync(
    'git',
    ['grep', '-n', '-i', '-w', '-F', phrase, '--', 'apps', 'packages', 'docs', 'README.md'],
    { cwd: ROOT, encoding: 'utf8' },
  );
  // Migrations say what a database was; names of other programs' fields and parameters are theirs.
  return stdout.split('\n').filter((line) => line !== '' && !/^docs\/glossary|\/migrations\//.test(line));
}

describe('the glossary', () => {
  const meanings = rowsBelow('Words with one meaning', GLOSSARY);
  const notSaid = rowsBelow('Not said', GLOSSARY);

  it('gives each word one meaning', () => {
    const words = meanings.flatMap(([word]) => word.split(/, (?!to )/));
    for (const word of ['item', 'transmission', 'station', 'link', 'bearer', 'path', 'road', 'way', 'record'])
      expect(`${words.join('; ')}; ${meanings.map(([, meaning]) => meaning).join('; ')}`).toContain(word);
    expect(words.filter((word, i) => words.indexOf(word) !== i)).toEqual([]);
    expect(words.length).toBeGreaterThan(20);
  });

  it.each(notSaid.flatMap(([phrases]) => phrases.split(', ')))('has its way: nobody says “%s”', (phrase) =>
    expect(linesWith(phrase)).toEqual([]),
  );

  it('finds what is said', () => {
    expect(linesWith('advisory lock').length).toBeGreaterThan(0);
  });
});
