import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { rowsBelow } from '../e2e/testing/glossary';

const ROOT = join(__dirname, '..');

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
  const meanings = rowsBelow('Words with one meaning');
  const notSaid = rowsBelow('Not said');

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
