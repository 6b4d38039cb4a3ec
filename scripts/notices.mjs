import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { promisify } from 'node:util';
import { root } from './lib/places.mjs';

/** `npm run notices`: the licences of every package that the program is installed with, by a general tool, into THIRD-PARTY-NOTICES.md. */
const checker = await import('license-checker-rseidelsohn');
const init = checker.init ?? checker.default.init;
const shipped = new Set(
  execFileSync('npm', ['ls', '--omit=dev', '--all', '--parseable'], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
    stdio: ['ignore', 'pipe', 'ignore'],
  })
    .split('\n')
    .filter((path) => path.includes('node_modules')),
);
const packages = await promisify(init)({ start: root, excludePrivatePackages: true });
const rows = Object.entries(packages)
  .filter(([, { path }]) => shipped.has(path))
  .sort(([a], [b]) => (a < b ? -1 : 1));
const texts = new Map();
for (const [name, { licenses, licenseFile }] of rows) {
  const text =
    licenseFile && /licen[cs]e|copying|notice/i.test(licenseFile) ? readFileSync(licenseFile, 'utf8').trim() : '';
  const key = text.replace(/\s+/g, ' ');
  const entry = texts.get(key) ?? { text, licenses: String(licenses), names: [] };
  entry.names.push(name);
  texts.set(key, entry);
}
const sections = [...texts.values()].map(
  ({ text, licenses, names }) =>
    `## ${licenses}\n\n${names.join(', ')}\n\n${text ? `\`\`\`text\n${text.replaceAll('```', "'''")}\n\`\`\`` : 'No licence text ships with these packages.'}\n`,
);
writeFileSync(
  join(root, 'THIRD-PARTY-NOTICES.md'),
  `# Third-party notices\n\nMade by \`npm run ${relative(root, process.argv[1]).replace(/^scripts\/|\.mjs$/g, '')}\` from the ${rows.length} packages that it is installed with, other than for developing it.\n\n${sections.join('\n')}`,
);
console.log(`${rows.length} packages, ${texts.size} licence texts`);
