import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** The rows of a table of two columns below a heading of the glossary. */
export function rowsBelow(heading: string): [string, string][] {
  const text = readFileSync(join(__dirname, '../../docs/glossary.md'), 'utf8');
  const [, below = ''] = text.split(`# ${heading}\n`);
  const [section = ''] = below.split('\n# ');
  return section
    .split('\n')
    .flatMap((line): [string, string][] => {
      const row = /^\| ([^|]+) \| ([^|]+) \|$/.exec(line);
      return row ? [[row[1]!, row[2]!]] : [];
    })
    .slice(1);
}
